import { factored } from './linear-system'
import type { Interpolator, Samples } from './samples'

/** More samples than this take minutes to solve. */
export const mostForSpline = 1500

/**
 * A thin-plate spline (Duchon 1977): the smoothest surface through all samples, r² ln r about each of them and a plane
 * beneath. With `smoothing` above zero it need not go through them (Wahba 1990); it is a share of the spread of the
 * samples. Null where the samples lie on one line or are too few.
 */
export function thinPlate(
  { places, values }: Samples,
  { smoothing }: { smoothing: number },
): Interpolator | null {
  const n = values.length
  if (n < 3 || n > mostForSpline) return null
  // About the middle and in units of the spread, so that the figures stay near one.
  const mean = (k: 0 | 1) => values.reduce((sum, _, i) => sum + places[2 * i + k], 0) / n
  const [mx, my] = [mean(0), mean(1)]
  const spread =
    Math.sqrt(
      values.reduce((sum, _, i) => sum + (places[2 * i] - mx) ** 2 + (places[2 * i + 1] - my) ** 2, 0) / n,
    ) || 1
  const u = Float64Array.from(values, (_, i) => (places[2 * i] - mx) / spread)
  const v = Float64Array.from(values, (_, i) => (places[2 * i + 1] - my) / spread)
  const size = n + 3
  const matrix = new Float64Array(size * size)
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) matrix[i * size + j] = bend((u[i] - u[j]) ** 2 + (v[i] - v[j]) ** 2)
    matrix[i * size + i] = n * smoothing
    const plane = [1, u[i], v[i]]
    for (let k = 0; k < 3; k++) matrix[i * size + n + k] = matrix[(n + k) * size + i] = plane[k]
  }
  const solve = factored(matrix, size)
  const right = new Float64Array(size)
  right.set(values)
  const c = solve?.(right)
  if (!c?.every(Number.isFinite)) return null
  return {
    errorAt: null,
    at(x, y) {
      const [a, b] = [(x - mx) / spread, (y - my) / spread]
      let sum = c[n] + c[n + 1] * a + c[n + 2] * b
      for (let i = 0; i < n; i++) sum += c[i] * bend((a - u[i]) ** 2 + (b - v[i]) ** 2)
      return sum
    },
  }
}

/** r² ln r from r². */
const bend = (r2: number): number => (r2 > 0 ? 0.5 * r2 * Math.log(r2) : 0)
