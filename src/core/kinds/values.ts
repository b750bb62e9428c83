import type { Ground } from '@/core/classify/classify'
import { formatNumber } from '@/core/classify/labels'
import { numbersOf } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { singularUnit } from '@/core/data/field-meta'
import { groundAreas } from '@/core/geo/measure'
import { neighbourPairs } from '@/core/geo/neighbours'
import type { KindData } from './kind'

/** What a kind shows: a field, divided by another one (null: as it is), for so many of it. */
export type Shown = { field: string; per: string | null; perCount: number }

/** The ground under the areas; reckoned only where it is asked for. */
export const groundOf = ({ field, per, perCount }: Shown, dataset: Dataset): Ground => ({
  get sizes() {
    return dataset.geometry.kind === 'areas' ? groundAreas(dataset.geometry) : null
  },
  get neighbours() {
    return dataset.geometry.kind === 'areas' ? neighbourPairs(dataset.geometry) : null
  },
  get national() {
    return per === null ? null : nationalFigure(field, per, dataset) * perCount
  },
})

/** The sum of the field over the sum of its denominator, over the areas that have both. */
function nationalFigure(field: string, per: string, dataset: Dataset): number {
  const [top, bottom] = [field, per].map((key) => {
    const column = fieldOf(dataset, key)
    return column ? numbersOf(column) : new Float64Array(0)
  })
  let [a, b] = [0, 0]
  top.forEach((value, row) => {
    if (!Number.isFinite(value) || !Number.isFinite(bottom[row])) return
    a += value
    b += bottom[row]
  })
  return a / b
}

const memory = new WeakMap<Dataset, Map<string, Float64Array>>()

/** The numbers that are shaded: the field, divided by the denominator where one is set. A denominator of zero gives a missing value. */
export function valuesOf({ field, per, perCount }: Shown, dataset: Dataset): Float64Array {
  const key = JSON.stringify([field, per, perCount])
  const known = memory.get(dataset) ?? new Map<string, Float64Array>()
  memory.set(dataset, known)
  let values = known.get(key)
  if (!values) {
    values = computeValues(field, per, perCount, dataset)
    known.set(key, values)
  }
  return values
}

function computeValues(field: string, per: string | null, perCount: number, dataset: Dataset): Float64Array {
  const column = fieldOf(dataset, field)
  const values = column ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(NaN)
  if (per === null) return values
  const denominator = fieldOf(dataset, per)
  const divisors = denominator ? numbersOf(denominator) : new Float64Array(dataset.rowCount).fill(NaN)
  return values.map((value, row) => (divisors[row] === 0 ? NaN : (value / divisors[row]) * perCount))
}

export function unitOf({ field, per, perCount }: Shown, fieldMeta: KindData['fieldMeta']): string {
  const unit = fieldMeta(field).unit
  if (per === null) return unit
  const divisor = fieldMeta(per)
  return `${unit || fieldMeta(field).label.toLowerCase()} per ${perCount === 1 ? singularUnit(divisor) : `${formatNumber(perCount, 0)} ${divisor.unit || divisor.label.toLowerCase()}`}`.trim()
}
