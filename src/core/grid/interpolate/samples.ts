import { PlaceIndex } from './nearest'

/** Values at places of a plane: x and y by turns in metres, and one value each. All are finite. */
export type Samples = { places: Float64Array; values: Float64Array }

/** What is reckoned at a place, and, for methods that know it, its standard error. */
export type Estimate = { value: number; error: number }

/** A way to reckon values between samples, made ready for them. */
export type Interpolator = {
  /** NaN where the method gives none, such as outside of the samples. */
  at: (x: number, y: number) => number
  /** The standard error; null for methods that know none. */
  errorAt: ((x: number, y: number) => number) | null
}

/** Samples without a value or a place left out; of several on one place the mean is taken, as most methods need. */
export function cleanSamples(
  places: Float64Array,
  values: Float64Array,
): { samples: Samples; left: number; merged: number } {
  const at = new Map<string, { x: number; y: number; sum: number; count: number }>()
  let left = 0
  for (let i = 0; i < values.length; i++) {
    const [x, y, value] = [places[2 * i], places[2 * i + 1], values[i]]
    if (!Number.isFinite(x) || !Number.isFinite(y) || !Number.isFinite(value)) {
      left++
      continue
    }
    const key = `${x} ${y}`
    const known = at.get(key)
    if (known) {
      known.sum += value
      known.count++
    } else at.set(key, { x, y, sum: value, count: 1 })
  }
  const all = [...at.values()]
  return {
    samples: {
      places: Float64Array.from(all.flatMap(({ x, y }) => [x, y])),
      values: Float64Array.from(all, ({ sum, count }) => sum / count),
    },
    left,
    merged: values.length - left - all.length,
  }
}

/** The samples without one of them. */
export function withoutOne({ places, values }: Samples, i: number): Samples {
  return {
    places: places.filter((_, k) => k >> 1 !== i),
    values: values.filter((_, k) => k !== i),
  }
}

export const nearestOf = ({ places }: Samples): PlaceIndex => new PlaceIndex(places)
