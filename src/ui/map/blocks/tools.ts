'use client'
import { create } from 'zustand'

/** What the pointer does on a map of blocks. */
export const blockTools = ['look', 'paint', 'erase', 'move', 'turn', 'swap', 'keep'] as const
export type BlockTool = (typeof blockTools)[number]

type Tools = {
  tool: BlockTool
  /** The name of what is painted; null takes what the brush is set down on. */
  brush: string | null
  /** The first of two that are to change places. */
  first: string | null
  /** A page for maps that are on no sheet, mm. */
  page: { width: number; height: number }
  take: (tool: BlockTool) => void
  set: (change: Partial<Pick<Tools, 'brush' | 'first' | 'page'>>) => void
}

/** Tools in hand; part of the work, not of the document. */
export const useBlockTools = create<Tools>()((set) => ({
  tool: 'look',
  brush: null,
  first: null,
  page: { width: 180, height: 240 },
  take: (tool) => set({ tool, first: null }),
  set: (change) => set(change),
}))
