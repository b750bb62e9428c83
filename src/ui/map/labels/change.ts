import type { Draft } from 'immer'
import type { LabelSettings } from '@/core/labels/spec'

/** Changes the labels of a layer under a name for the history; edits that share `merge` become one. */
export type Change = (name: string, recipe: (labels: Draft<LabelSettings>) => void, merge?: string) => void
