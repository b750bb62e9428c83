import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { groundAreas } from '@/core/geo/measure'
import type { KindData } from '../kind'
import { dotCounts } from './counts'
import type { DotSettings } from './spec'

/** `counts[i][f]`: the dots of the i-th field in feature `f`. */
export type DotPlan = {
  counts: Uint32Array[]
  dots: number
  /** Features with a value of a field that is missing or below zero: they get no dots of it. */
  missing: number
  negative: number
  /** Features with a value above zero that is too small for a dot. */
  tooSmall: number
  /** The feature with most dots; −1 where there are none. */
  fullest: number
  /** Dots per km² of ground in an area with few, in a middle one and in the densest but for one in fifty. */
  densities: { low: number; middle: number; high: number } | null
}

function densitiesOf(dots: Float64Array, { geometry }: KindData['dataset']): DotPlan['densities'] {
  if (geometry.kind !== 'areas') return null
  const areas = groundAreas(geometry)
  const all = [...dots]
    .flatMap((n, f) => (n > 0 && areas[f] > 0 ? [(n / areas[f]) * 1e6] : []))
    .sort((a, b) => a - b)
  if (all.length < 3) return null
  const at = (share: number): number => all[Math.min(all.length - 1, Math.floor(share * all.length))]
  return { low: at(0.1), middle: at(0.5), high: at(0.98) }
}

export function planDots({ fields, each }: DotSettings, { dataset }: KindData): DotPlan {
  const values = fields.map(({ field }) => {
    const column = fieldOf(dataset, field)
    return column ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(NaN)
  })
  const counts = values.map((own) => dotCounts(own, each))
  const inAll = new Float64Array(dataset.rowCount)
  for (const own of counts) own.forEach((n, f) => (inAll[f] += n))
  const count = (is: (value: number, dots: number) => boolean): number =>
    values.reduce(
      (sum, own, i) => sum + own.reduce((n, value, f) => n + (is(value, counts[i][f]) ? 1 : 0), 0),
      0,
    )
  let fullest = -1
  inAll.forEach((n, f) => {
    if (n > 0 && (fullest < 0 || n > inAll[fullest])) fullest = f
  })
  return {
    counts,
    dots: inAll.reduce((sum, n) => sum + n, 0),
    missing: count((value) => Number.isNaN(value)),
    negative: count((value) => value < 0),
    tooSmall: count((value, dots) => value > 0 && dots === 0),
    fullest,
    densities: densitiesOf(inAll, dataset),
  }
}
