import { classify, classIndex, type Classification } from '@/core/classify/classify'
import { classLabels, decimalsFor, formatNumber } from '@/core/classify/labels'
import { schemeColours } from '@/core/colour/schemes'
import { numbersOf } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { singularUnit } from '@/core/data/field-meta'
import type { Colour } from '@/core/scene/paint'
import type { KindData } from '../kind'
import type { ChoroplethSettings } from './spec'

/** `classOf[f]`: the class of feature `f`; −1 missing, −2 a value outside breaks set by hand. */
export type ChoroplethPlan = {
  values: Float64Array
  classOf: Int8Array
  classification: Classification | null
  colours: Colour[]
  labels: string[]
  decimals: number
  missingCount: number
}

export function planChoropleth(settings: ChoroplethSettings, { dataset }: KindData): ChoroplethPlan {
  const values = valuesOf(settings, dataset)
  const classification = classify(values, settings)
  const breaks = classification?.breaks ?? []
  const decimals = breaks.length ? decimalsFor(breaks) : 0
  let missingCount = 0
  const classOf = Int8Array.from(values, (value) => {
    if (Number.isFinite(value)) {
      const index = classIndex(breaks, value)
      return index < 0 ? -2 : index
    }
    missingCount++
    return -1
  })
  return {
    values,
    classOf,
    classification,
    colours: classification ? schemeColours(settings.scheme, classification.counts.length, settings.reversed) : [],
    labels: classification ? classLabels(breaks, decimals) : [],
    decimals,
    missingCount,
  }
}

const memory = new WeakMap<Dataset, Map<string, Float64Array>>()

/** The numbers that are shaded: the field, divided by the denominator where one is set. A denominator of zero gives a missing value. */
export function valuesOf({ field, per, perCount }: Pick<ChoroplethSettings, 'field' | 'per' | 'perCount'>, dataset: Dataset): Float64Array {
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

export function unitOf({ field, per, perCount }: ChoroplethSettings, fieldMeta: KindData['fieldMeta']): string {
  const unit = fieldMeta(field).unit
  if (per === null) return unit
  const divisor = fieldMeta(per)
  return `${unit || fieldMeta(field).label.toLowerCase()} per ${perCount === 1 ? singularUnit(divisor) : `${formatNumber(perCount, 0)} ${divisor.unit || divisor.label.toLowerCase()}`}`.trim()
}
