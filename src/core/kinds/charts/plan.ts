import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { decimalsOfMarks } from '@/core/kinds/marks/sizes'
import type { KindData } from '../kind'
import { legendMarks, rangeOf } from '../marks/sizes'
import type { ChartSettings } from './spec'

/**
 * `values[p][f]`: part `p` of feature `f`, 0 where it is missing or negative; `sizes[f]`: width of a pie,
 * height of the highest bar or of the stack, mm.
 */
export type ChartPlan = {
  values: Float64Array[]
  totals: Float64Array
  sizes: Float64Array
  order: number[]
  negative: number
  marks: { value: number; sizeMm: number }[]
  decimals: number
}

export const isRound = ({ form }: Pick<ChartSettings, 'form'>): boolean => form === 'pie' || form === 'ring'

/** True areas for what is round, true heights for bars. */
export function chartSize(
  settings: Pick<ChartSettings, 'form' | 'sized' | 'anchor' | 'leastMm'>,
  value: number,
): number {
  if (!(value > 0)) return 0
  if (!isRound(settings)) return settings.anchor.sizeMm * (value / settings.anchor.value)
  return settings.sized
    ? Math.max(settings.leastMm, settings.anchor.sizeMm * Math.sqrt(value / settings.anchor.value))
    : settings.anchor.sizeMm
}

export function planCharts(settings: ChartSettings, { dataset }: KindData): ChartPlan {
  let negative = 0
  const values = settings.parts.map(({ field }) => {
    const column = fieldOf(dataset, field)
    return column
      ? numbersOf(column).map((value) => {
          if (value < 0) negative++
          return value > 0 ? value : 0
        })
      : new Float64Array(dataset.rowCount)
  })
  const totals = Float64Array.from({ length: dataset.rowCount }, (_, f) =>
    Math.min(
      Number.MAX_VALUE,
      values.reduce((sum, part) => sum + part[f], 0),
    ),
  )
  const tallest = Float64Array.from(totals, (total, f) =>
    settings.form === 'bars' ? Math.max(...values.map((part) => part[f])) : total,
  )
  const sizes = tallest.map((value) => chartSize(settings, value))
  const order = [...sizes.keys()].filter((f) => sizes[f] > 0).sort((a, b) => sizes[b] - sizes[a] || a - b)
  const range = rangeOf(tallest)
  const marks =
    range && (settings.sized || !isRound(settings))
      ? legendMarks(
          settings.legend.values,
          range,
          (value) => chartSize(settings, value),
          isRound(settings) ? 4 : 2,
        ).map((value) => ({ value, sizeMm: chartSize(settings, value) }))
      : []
  const written = marks.map(({ value }) => value)
  const decimals = decimalsOfMarks(written, settings.numbers.divideBy)
  return { values, totals, sizes, order, negative, marks, decimals }
}
