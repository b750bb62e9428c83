import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { GlowSettings } from './spec'
import type { KindData } from '../kind'

/** Weights of the points, 1 on average; 0 for those without a value. */
export type GlowPlan = { weights: Float64Array }

export function planGlow({ field }: GlowSettings, { dataset }: KindData): GlowPlan {
  const column = field === null ? null : fieldOf(dataset, field)
  const values = column && numbersOf(column)
  const present = values ? values.filter((value) => value > 0) : null
  const mean = present?.length ? present.reduce((a, b) => a + b, 0) / present.length : 1
  const weight = (value: number): number => (value > 0 ? value / mean : 0)
  return {
    weights: Float64Array.from({ length: dataset.rowCount }, (_, f) => (values ? weight(values[f]) : 1)),
  }
}
