import { factored } from './linear-system'
import { nearestOf, type Interpolator, type Samples } from './samples'

export const variogramModels = ['spherical', 'exponential', 'gaussian'] as const
export type VariogramModel = (typeof variogramModels)[number]

/**
 * How unlike values are at a distance: `nugget` at none, `nugget + sill` far apart, which is (nearly) reached at
 * `range` metres; for the exponential and Gaussian models 95 % of it.
 */
export type Variogram = { model: VariogramModel; nugget: number; sill: number; range: number }

/** Half the mean squared difference of the pairs at about a distance. */
export type VariogramBin = { distance: number; value: number; pairs: number }

/** The semivariance of a model at a distance, m (Cressie 1993, section 2.3). */
export function semivariance({ model, nugget, sill, range }: Variogram, distance: number): number {
  if (distance === 0) return 0
  const h = distance / range
  if (model === 'spherical') return nugget + sill * (h < 1 ? 1.5 * h - 0.5 * h ** 3 : 1)
  return nugget + sill * (1 - Math.exp(-3 * (model === 'gaussian' ? h * h : h)))
}

const bins = 15
/** Pairs of more samples than this are taken from some of them. */
const mostPaired = 1200

/** The variogram of samples (Matheron 1963), up to half of their greatest distance. */
export function empiricalVariogram({ places, values }: Samples): VariogramBin[] {
  const every = Math.max(1, Math.ceil(values.length / mostPaired))
  const taken = [...values.keys()].filter((i) => i % every === 0)
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const i of taken) {
    x0 = Math.min(x0, places[2 * i])
    x1 = Math.max(x1, places[2 * i])
    y0 = Math.min(y0, places[2 * i + 1])
    y1 = Math.max(y1, places[2 * i + 1])
  }
  const reach = Math.hypot(x1 - x0, y1 - y0) / 2
  const found = Array.from({ length: bins }, () => ({ distance: 0, value: 0, pairs: 0 }))
  for (let a = 0; a < taken.length; a++)
    for (let b = 0; b < a; b++) {
      const [i, j] = [taken[a], taken[b]]
      const d = Math.hypot(places[2 * i] - places[2 * j], places[2 * i + 1] - places[2 * j + 1])
      const bin = Math.floor((d / reach) * bins)
      if (bin >= bins) continue
      found[bin].distance += d
      found[bin].value += (values[i] - values[j]) ** 2 / 2
      found[bin].pairs++
    }
  return found
    .filter(({ pairs }) => pairs > 0)
    .map(({ distance, value, pairs }) => ({ distance: distance / pairs, value: value / pairs, pairs }))
}

/**
 * The variogram of a model that fits best by weighted least squares (Cressie 1985): each distance counts by its pairs
 * over the square of the model's value there. For each range of a fine series nugget and sill follow from two linear
 * equations, and are not below zero.
 */
export function fittedVariogram(found: VariogramBin[], model: VariogramModel): Variogram {
  const far = found.at(-1)?.distance ?? 1
  let best: Variogram = { model, nugget: 0, sill: found.at(-1)?.value ?? 1, range: far }
  let least = Infinity
  for (let step = 1; step <= 60; step++) {
    const range = (far * 1.6 * step) / 60
    let candidate: Variogram = { model, nugget: 0, sill: best.sill || 1, range }
    // The weights go by the model itself: a few rounds settle them.
    for (let round = 0; round < 3; round++) candidate = linearFit(found, candidate)
    const miss = found.reduce((sum, { distance, value, pairs }) => {
      const at = semivariance(candidate, distance)
      return at > 0 ? sum + pairs * (value / at - 1) ** 2 : sum + pairs
    }, 0)
    if (miss < least) [best, least] = [candidate, miss]
  }
  return best
}

/** Nugget and sill for a range, the weights taken from what is known so far. */
function linearFit(found: VariogramBin[], known: Variogram): Variogram {
  let [w0, w1, w2, r0, r1] = [0, 0, 0, 0, 0]
  for (const { distance, value, pairs } of found) {
    const shape = semivariance({ ...known, nugget: 0, sill: 1 }, distance)
    const at = Math.max(semivariance(known, distance), 1e-12 * (known.sill + known.nugget) || 1e-300)
    const w = pairs / at ** 2
    w0 += w
    w1 += w * shape
    w2 += w * shape * shape
    r0 += w * value
    r1 += w * value * shape
  }
  const det = w0 * w2 - w1 * w1
  const nugget = det !== 0 ? (r0 * w2 - r1 * w1) / det : 0
  const sill = det !== 0 ? (r1 * w0 - r0 * w1) / det : 0
  if (nugget < 0 || !Number.isFinite(nugget)) return { ...known, nugget: 0, sill: Math.max(0, r1 / w2) }
  if (sill < 0) return { ...known, nugget: r0 / w0, sill: 0 }
  return { ...known, nugget, sill }
}

/** Weights of ordinary kriging at a place, with its variance; they add up to one. */
export type KrigingWeights = { indices: number[]; weights: Float64Array; variance: number }

/** The equations of some samples, factored: neighbouring places mostly have the same ones. */
type System = { indices: number[]; solve: (right: Float64Array) => Float64Array }

function systemOf({ places }: Samples, variogram: Variogram, indices: number[]): System | null {
  const n = indices.length
  const matrix = new Float64Array((n + 1) ** 2)
  for (let i = 0; i < n; i++) {
    const [x, y] = [places[2 * indices[i]], places[2 * indices[i] + 1]]
    for (let j = 0; j < i; j++) {
      const [dx, dy] = [places[2 * indices[j]] - x, places[2 * indices[j] + 1] - y]
      const value = semivariance(variogram, Math.sqrt(dx * dx + dy * dy))
      matrix[i * (n + 1) + j] = value
      matrix[j * (n + 1) + i] = value
    }
    matrix[i * (n + 1) + n] = 1
    matrix[n * (n + 1) + i] = 1
  }
  const solve = factored(matrix, n + 1)
  return solve && { indices, solve }
}

function weightsIn(
  { places }: Samples,
  variogram: Variogram,
  { indices, solve }: System,
  [x, y]: [number, number],
): KrigingWeights | null {
  const n = indices.length
  const right = new Float64Array(n + 1)
  for (let i = 0; i < n; i++) {
    const [dx, dy] = [places[2 * indices[i]] - x, places[2 * indices[i] + 1] - y]
    right[i] = semivariance(variogram, Math.sqrt(dx * dx + dy * dy))
  }
  right[n] = 1
  const solved = solve(right)
  if (!solved.every(Number.isFinite)) return null
  const weights = solved.slice(0, n)
  const variance = weights.reduce((sum, w, i) => sum + w * right[i], solved[n])
  return { indices, weights, variance: Math.max(0, variance) }
}

/**
 * Ordinary kriging (Matheron 1963): the unbiased mean of some samples with the least variance under a variogram. A
 * sample's own place gets its value.
 */
export function krigingWeights(
  samples: Samples,
  variogram: Variogram,
  indices: number[],
  place: [number, number],
): KrigingWeights | null {
  const system = systemOf(samples, variogram, indices)
  return system && weightsIn(samples, variogram, system, place)
}

/** Ordinary kriging of the nearest samples of each place. */
export function kriging(
  samples: Samples,
  variogram: Variogram,
  { nearest }: { nearest: number },
): Interpolator {
  const index = nearestOf(samples)
  const { values } = samples
  let known: { key: string; system: System | null } | null = null
  let last: { x: number; y: number; found: KrigingWeights | null } | null = null
  const weightsAt = (x: number, y: number): KrigingWeights | null => {
    if (last?.x === x && last.y === y) return last.found
    const indices = index.nearest(x, y, nearest).sort((a, b) => a - b)
    const key = indices.join(' ')
    if (known?.key !== key) known = { key, system: systemOf(samples, variogram, indices) }
    const found = known.system && weightsIn(samples, variogram, known.system, [x, y])
    last = { x, y, found }
    return found
  }
  return {
    at(x, y) {
      const found = weightsAt(x, y)
      return found ? found.indices.reduce((sum, i, k) => sum + found.weights[k] * values[i], 0) : NaN
    },
    errorAt: (x, y) => Math.sqrt(weightsAt(x, y)?.variance ?? NaN),
  }
}
