import { numbersOf } from './column'
import { fieldOf, type Dataset } from './dataset'

/** Points one by one with what each stands for. */
export type PointWeights = {
  /** Longitudes and latitudes by turns. */
  lonLat: Float64Array
  /** Null counts them. */
  weights: Float64Array | null
  /** The feature of each. */
  features: Int32Array
  /** Features without a value, and those with one that is not above zero: they count nowhere. */
  missing: number
  negative: number
}

/** Points of a dataset with a field as their weight; several points of one feature share its value. */
export function pointWeights({ geometry, rowCount, fields }: Dataset, field: string | null): PointWeights {
  const none = {
    lonLat: new Float64Array(0),
    weights: null,
    features: new Int32Array(0),
    missing: 0,
    negative: 0,
  }
  if (geometry.kind !== 'points') return none
  const column = field === null ? null : fieldOf({ geometry, rowCount, fields }, field)
  const values = column && numbersOf(column)
  const { coords, featureStarts } = geometry
  const features = new Int32Array(coords.length / 2)
  const weights = values && new Float64Array(features.length)
  let [missing, negative] = [0, 0]
  for (let f = 0; f < rowCount; f++) {
    const [from, to] = [featureStarts[f], featureStarts[f + 1]]
    features.fill(f, from, to)
    if (!weights || !values) continue
    const value = values[f]
    if (Number.isNaN(value)) missing++
    else if (value <= 0) negative++
    else weights.fill(value / (to - from), from, to)
  }
  return { lonLat: coords, weights, features, missing, negative }
}

/** What was left out of points with weights, in words; empty for nothing. */
export function leftOutWords({ missing, negative }: Pick<PointWeights, 'missing' | 'negative'>): string {
  const counted = (n: number, what: string) =>
    `${n.toLocaleString('en-GB')} ${n === 1 ? 'point' : 'points'} ${what}`
  return [
    ...(missing ? [`${counted(missing, 'without a value')} left out.`] : []),
    ...(negative ? [`${counted(negative, 'with a value of zero or less')} left out.`] : []),
  ].join(' ')
}
