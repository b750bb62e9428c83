'use client'
import { create } from 'zustand'
import type { Against } from './against'

type Comparing = {
  /** What maps and panels are compared with, by their ids. */
  against: Record<string, Against | null>
  /** Where the divider stands, as a share of the width. */
  share: number
  set: (id: string, against: Against | null) => void
  move: (share: number) => void
}

/** What is compared, and where the divider stands: part of looking, not of the document. */
export const useComparing = create<Comparing>()((change) => ({
  against: {},
  share: 0.5,
  set: (id, next) => change(({ against }) => ({ against: { ...against, [id]: next } })),
  move: (share) => change({ share: Math.min(1, Math.max(0, share)) }),
}))
