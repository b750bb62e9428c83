'use client'
import { create } from 'zustand'

export const benchShapes = ['bars', 'curve', 'dots'] as const
export type BenchView = { shape: (typeof benchShapes)[number]; axis: 'linear' | 'log' }

/** How the distribution is looked at; part of the work, not of the document. */
export const useBenchView = create<{ view: BenchView; set: (change: Partial<BenchView>) => void }>()((set) => ({
  view: { shape: 'bars', axis: 'linear' },
  set: (change) => set(({ view }) => ({ view: { ...view, ...change } })),
}))
