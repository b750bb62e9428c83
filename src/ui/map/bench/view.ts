'use client'
import { create } from 'zustand'

export const benchShapes = ['bars', 'curve', 'dots'] as const
/** `bins` is the number of bars; null goes by the rule. */
export type BenchView = {
  shape: (typeof benchShapes)[number]
  axis: 'linear' | 'log'
  bins: number | null
  /** What is counted under each class besides its values: the ground, a field, or nothing. */
  beside: string | null
}

type Bench = {
  view: BenchView
  /** The field that is on the bench, for kinds that put two into classes. */
  which: number
  /** The bench that is seen of a kind that has one of its own beside the class bench. */
  bench: 'own' | 'classes'
  set: (change: Partial<BenchView>) => void
  show: (which: number) => void
  showBench: (bench: Bench['bench']) => void
}

/** How the distribution is looked at; part of the work, not of the document. */
export const useBenchView = create<Bench>()((set) => ({
  view: { shape: 'bars', axis: 'linear', bins: null, beside: null },
  which: 0,
  bench: 'own',
  set: (change) => set(({ view }) => ({ view: { ...view, ...change } })),
  show: (which) => set({ which }),
  showBench: (bench) => set({ bench }),
}))
