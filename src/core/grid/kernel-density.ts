import { cellKm2, type Grid, type Lattice } from './grid'
import type { Steps } from './steps'

export const kernels = ['quartic', 'gaussian', 'epanechnikov'] as const
export type Kernel = (typeof kernels)[number]

/** A Gaussian kernel is reckoned up to so many bandwidths; what lies beyond is under a thirtieth of a thousandth. */
const gaussianReach = 4.6

/** How far a kernel reaches, in bandwidths: quartic and Epanechnikov end at one, the Gaussian is cut off. */
export const reachOf = (kernel: Kernel): number => (kernel === 'gaussian' ? gaussianReach : 1)

/**
 * The bandwidth for n points of a normal density with the variance one, over n^(−1/6): (2 β ∕ (α² R))^(1 ∕ 6) by
 * Silverman (1986, equation 4.13) in two dimensions, where α is a kernel's second moment along an axis, β the integral
 * of its square and R = 1 ∕ 2π that of the squared Laplacian of the density.
 */
const ruled: Record<Kernel, number> = { gaussian: 1, epanechnikov: 192 ** (1 / 6), quartic: 460.8 ** (1 / 6) }

/**
 * Silverman's rule of thumb for two dimensions (Silverman 1986, section 4.3.2): the bandwidth that were best for a
 * normal density, A(K) · σ · n^(−1 ∕ 6), where σ² is the mean of the variances along both axes. With weights n is
 * Kish's effective number (Σw)² ∕ Σw².
 * @returns bandwidth in the unit of the places; NaN for fewer than two of them
 */
export function silverman(places: Float64Array, weights: Float64Array | null, kernel: Kernel): number {
  let [sum, squares, mx, my, sx, sy] = [0, 0, 0, 0, 0, 0]
  for (let i = 0; i < places.length / 2; i++) {
    const w = weights ? weights[i] : 1
    if (!(w > 0) || Number.isNaN(places[2 * i])) continue
    sum += w
    squares += w * w
    const [dx, dy] = [places[2 * i] - mx, places[2 * i + 1] - my]
    mx += (w / sum) * dx
    my += (w / sum) * dy
    sx += w * dx * (places[2 * i] - mx)
    sy += w * dy * (places[2 * i + 1] - my)
  }
  const n = (sum * sum) / squares
  if (!(n > 1)) return NaN
  const sigma = Math.sqrt((sx + sy) / sum / 2)
  return ruled[kernel] * sigma * n ** (-1 / 6)
}

export type Weighted = {
  /** Places in the lattice's plane, x and y by turns, metres; NaN counts nowhere. */
  places: Float64Array
  /** What each stands for; null counts them. */
  weights: Float64Array | null
}

export type DensityOptions = {
  kernel: Kernel
  /** Metres; one for all, or one for each place. */
  bandwidth: number | Float64Array
  /** 1 for cells within the study area: what a kernel would put outside of it stays inside (Diggle 1985). */
  mask: Uint8Array | null
}

/**
 * Kernel density: each place spreads its weight over the ground around it, in weight per km². Every place's kernel is
 * summed exactly at the middle of every cell that it reaches, and scaled so that the cells together hold its weight.
 * A quartic or Epanechnikov kernel is a polynomial along each row of cells: its coefficients are put in where it begins
 * and taken out where it ends, so that a wide kernel costs as many steps as it has rows, not as it has cells.
 * With a mask each place's weight is shared out over the cells within it (the correction of Diggle 1985 in the form of
 * Jones 1993, which keeps the sum); places whose kernel reaches no cell of it are `lost`.
 */
export function* kernelDensity(
  lattice: Lattice,
  points: Weighted,
  options: DensityOptions,
): Steps<{ grid: Grid; lost: number }> {
  const { shares: weights, alone } = sharesOf(lattice, points, options)
  const grid: Grid = { ...lattice, values: new Float64Array(lattice.columns * lattice.rows) }
  const perKm2 = 1 / cellKm2(lattice)
  let lost = 0
  weights.forEach((w, i) => (weights[i] = w * perKm2))
  // A kernel that reaches the middle of no cell lies within one.
  for (const { cell, weight } of alone) grid.values[cell] += weight * perKm2
  for (let i = 0; i < weights.length; i++)
    if (Number.isNaN(weights[i])) {
      lost += points.weights ? points.weights[i] : 1
      weights[i] = 0
    }
  if (options.kernel === 'gaussian') yield* sumGaussian(grid, points.places, weights, options)
  else yield* sumPolynomial(grid, points.places, weights, options)
  return { grid, lost }
}

/** Kernels of fewer cells than this are put down cell by cell. */
const narrowest = 6

/**
 * For each place its weight over the sum of its kernel at the cells (within the mask, where there is one); NaN where
 * that is none. Places whose kernel is narrower than their cell are `alone` in it.
 */
function sharesOf(
  lattice: Lattice,
  { places, weights }: Weighted,
  { kernel, bandwidth, mask }: DensityOptions,
): { shares: Float64Array; alone: { cell: number; weight: number }[] } {
  const { x0, y0, cell, columns, rows } = lattice
  const alone: { cell: number; weight: number }[] = []
  // Without a mask all rows are alike.
  const momentsOf = () =>
    mask ? maskMoments(mask, lattice) : maskMoments(new Uint8Array(columns).fill(1), { ...lattice, rows: 1 })
  const moments = kernel === 'gaussian' ? null : momentsOf()
  const shares = new Float64Array(places.length / 2)
  for (let i = 0; i < shares.length; i++) {
    const w = weights ? weights[i] : 1
    const x = (places[2 * i] - x0) / cell - 0.5
    const y = (places[2 * i + 1] - y0) / cell - 0.5
    if (!(w > 0) || Number.isNaN(x)) continue
    const h = (typeof bandwidth === 'number' ? bandwidth : bandwidth[i]) / cell
    const reach = reachOf(kernel) * h
    const whole = !mask && x >= reach && y >= reach && x <= columns - 1 - reach && y <= rows - 1 - reach
    // Where all of a wide kernel lies on the grid its sum is its integral.
    if (whole && h >= narrowest) {
      shares[i] = w / (integrals[kernel] * h * h)
      continue
    }
    const held =
      kernel === 'gaussian'
        ? gaussianHeld({ columns, rows, mask }, x, y, h)
        : polynomialHeld({ columns, rows, mask, moments, degree: kernel === 'quartic' ? 2 : 1 }, x, y, h)
    if (held > 0) {
      shares[i] = w / held
      continue
    }
    const [column, row] = [Math.round(x), Math.round(y)]
    const own = row * columns + column
    const isOn = column >= 0 && row >= 0 && column < columns && row < rows && (!mask || mask[own] === 1)
    if (isOn) alone.push({ cell: own, weight: w })
    else shares[i] = NaN
  }
  return { shares, alone }
}

/** What a kernel of bandwidth 1 and height 1 holds. */
const integrals: Record<Kernel, number> = {
  quartic: Math.PI / 3,
  epanechnikov: Math.PI / 2,
  gaussian: 2 * Math.PI * (1 - Math.exp(-(gaussianReach ** 2) / 2)),
}

/** Sums of powers 0 to 4 of the columns, within the mask, up to each cell of a row; one more than there are cells. */
function maskMoments(mask: Uint8Array, { columns, rows }: Lattice): Float64Array {
  const sums = new Float64Array(rows * (columns + 1) * 5)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const at = (r * (columns + 1) + c) * 5
      const u = (c - columns / 2) / columns
      let power = mask[r * columns + c]
      for (let k = 0; k < 5; k++) {
        sums[at + 5 + k] = sums[at + k] + power
        power *= u
      }
    }
  return sums
}

type Held = {
  columns: number
  rows: number
  mask: Uint8Array | null
  moments: Float64Array | null
  degree: 1 | 2
}

/** The sum of (1 − d²)^degree over the cells, or those of the mask, at distances d in bandwidths. */
function polynomialHeld(
  { columns, rows, mask, moments, degree }: Held,
  x: number,
  y: number,
  h: number,
): number {
  let held = 0
  const last = Math.min(rows - 1, Math.floor(y + h))
  const s2 = (columns / h) ** 2
  const a = (x - columns / 2) / columns
  for (let r = Math.max(0, Math.ceil(y - h)); r <= last; r++) {
    const dy = (r - y) / h
    const t = 1 - dy * dy
    if (t <= 0) continue
    const half = Math.sqrt(t) * h
    const from = Math.max(0, Math.ceil(x - half))
    const to = Math.min(columns - 1, Math.floor(x + half))
    if (to < from) continue
    if (!moments || h < narrowest) {
      for (let c = from; c <= to; c++) {
        if (mask && !mask[r * columns + c]) continue
        const u = t - ((c - x) / h) ** 2
        held += degree === 2 ? u * u : u
      }
      continue
    }
    const row = mask ? r * (columns + 1) : 0
    const p = (row + from) * 5
    const q = (row + to + 1) * 5
    // Along the row, in units of its length about its middle, the kernel is t − s² (u − a)².
    const c0 = t - s2 * a * a
    const c1 = 2 * s2 * a
    const low = moments[q] - moments[p]
    const first = moments[q + 1] - moments[p + 1]
    const second = moments[q + 2] - moments[p + 2]
    if (degree === 1) held += c0 * low + c1 * first - s2 * second
    else
      held +=
        c0 * c0 * low +
        2 * c0 * c1 * first +
        (c1 * c1 - 2 * c0 * s2) * second -
        2 * c1 * s2 * (moments[q + 3] - moments[p + 3]) +
        s2 * s2 * (moments[q + 4] - moments[p + 4])
  }
  return held
}

function gaussianHeld(
  { columns, rows, mask }: { columns: number; rows: number; mask: Uint8Array | null },
  x: number,
  y: number,
  h: number,
): number {
  const reach = gaussianReach * h
  const [c0, c1] = [Math.max(0, Math.ceil(x - reach)), Math.min(columns - 1, Math.floor(x + reach))]
  const [r0, r1] = [Math.max(0, Math.ceil(y - reach)), Math.min(rows - 1, Math.floor(y + reach))]
  let held = 0
  const wide = Float64Array.from({ length: Math.max(0, c1 - c0 + 1) }, (_, i) =>
    Math.exp(-0.5 * ((c0 + i - x) / h) ** 2),
  )
  // Without a mask the cells of a row are summed up to each of them once.
  const sums = mask ? null : Float64Array.of(0, ...wide)
  if (sums) for (let i = 1; i < sums.length; i++) sums[i] += sums[i - 1]
  for (let r = r0; r <= r1; r++) {
    const [from, to] = withinCircle(x, r - y, reach, [c0, c1])
    if (to < from) continue
    let row = 0
    if (sums) row = sums[to - c0 + 1] - sums[from - c0]
    else for (let c = from; c <= to; c++) if (mask?.[r * columns + c]) row += wide[c - c0]
    held += row * Math.exp(-0.5 * ((r - y) / h) ** 2)
  }
  return held
}

/** The columns of a row, so far off the middle of a circle, that lie within it, of those from one to another. */
function withinCircle(x: number, dy: number, reach: number, [c0, c1]: [number, number]): [number, number] {
  const half = Math.sqrt(Math.max(0, reach * reach - dy * dy))
  return [Math.max(c0, Math.ceil(x - half)), Math.min(c1, Math.floor(x + half))]
}

/** After so many places it is told how far the work is. */
const every = 4096

function* sumGaussian(
  { x0, y0, cell, columns, rows, values }: Grid,
  places: Float64Array,
  weights: Float64Array,
  { bandwidth }: DensityOptions,
): Steps<void> {
  const wide = new Float64Array(columns)
  for (let i = 0; i < weights.length; i++) {
    if (i % 256 === 255) yield i / weights.length
    if (!weights[i]) continue
    const h = (typeof bandwidth === 'number' ? bandwidth : bandwidth[i]) / cell
    const x = (places[2 * i] - x0) / cell - 0.5
    const y = (places[2 * i + 1] - y0) / cell - 0.5
    const reach = gaussianReach * h
    const [c0, c1] = [Math.max(0, Math.ceil(x - reach)), Math.min(columns - 1, Math.floor(x + reach))]
    const [r0, r1] = [Math.max(0, Math.ceil(y - reach)), Math.min(rows - 1, Math.floor(y + reach))]
    for (let c = c0; c <= c1; c++) wide[c] = Math.exp(-0.5 * ((c - x) / h) ** 2)
    for (let r = r0; r <= r1; r++) {
      const w = weights[i] * Math.exp(-0.5 * ((r - y) / h) ** 2)
      const row = r * columns
      const [from, to] = withinCircle(x, r - y, reach, [c0, c1])
      for (let c = from; c <= to; c++) values[row + c] += w * wide[c]
    }
  }
}

/** Places in cells, with their weights and bandwidths in cells. */
type Put = { x: Float64Array; y: Float64Array; h: Float64Array; w: Float64Array; quartic: boolean }

/** A kernel that is narrow beside the grid, cell by cell. */
function addNarrow(
  { columns, rows, values }: Grid,
  { x: xs, y: ys, h: hs, w: ws, quartic }: Put,
  i: number,
): void {
  const x = xs[i]
  const y = ys[i]
  const h = hs[i]
  const w = ws[i]
  const perCell = 1 / (h * h)
  const last = Math.min(rows - 1, Math.floor(y + h))
  for (let r = Math.max(0, Math.ceil(y - h)); r <= last; r++) {
    const t = 1 - (r - y) * (r - y) * perCell
    if (t <= 0) continue
    const half = Math.sqrt(t) * h
    const from = Math.max(0, Math.ceil(x - half))
    const to = r * columns + Math.min(columns - 1, Math.floor(x + half))
    let d = from - x
    for (let at = r * columns + from; at <= to; at++, d++) {
      const u = t - d * d * perCell
      values[at] += quartic ? w * u * u : w * u
    }
  }
}

/**
 * Rows of a grid with the coefficients that change at each of their columns. A row is cut into blocks, each with its
 * own origin, so that the powers of columns stay small.
 */
type Strip = { put: Float64Array; r0: number; r1: number; columns: number; wide: number; terms: number }

/** Columns of a block, a power of two. */
const block = 128

/** Puts the coefficients of a wide kernel in where it begins on each row, and takes them out where it has ended. */
function addWide(strip: Strip, { x: xs, y: ys, h: hs, w: ws, quartic }: Put, i: number): void {
  const { put, r0, r1, columns, wide, terms } = strip
  const x = xs[i]
  const y = ys[i]
  const h = hs[i]
  const w = ws[i]
  const s2 = (block / h) ** 2
  const k4 = w * s2 * s2
  const last = Math.min(r1 - 1, Math.floor(y + h))
  for (let r = Math.max(r0, Math.ceil(y - h)); r <= last; r++) {
    const dy = (r - y) / h
    const t = 1 - dy * dy
    if (t <= 0) continue
    const half = Math.sqrt(t) * h
    const from = Math.max(0, Math.ceil(x - half)) | 0
    const end = Math.min(columns, Math.floor(x + half) + 1) | 0
    for (let begin = from & ~(block - 1); begin < end; begin += block) {
      const a = (x - begin) / block - 0.5
      const d = 2 * s2 * a
      const c = t - s2 * a * a
      const k0 = quartic ? w * c * c : w * c
      const k1 = quartic ? 2 * w * c * d : w * d
      const k2 = quartic ? w * (d * d - 2 * c * s2) : -w * s2
      const k3 = -2 * w * d * s2
      const p = ((r - r0) * wide + Math.max(from, begin)) * terms
      put[p] += k0
      put[p + 1] += k1
      put[p + 2] += k2
      if (quartic) {
        put[p + 3] += k3
        put[p + 4] += k4
      }
      if (end >= begin + block) continue
      const q = ((r - r0) * wide + end) * terms
      put[q] -= k0
      put[q + 1] -= k1
      put[q + 2] -= k2
      if (quartic) {
        put[q + 3] -= k3
        put[q + 4] -= k4
      }
    }
  }
}

/** Adds up the coefficients along each row of a strip. */
function sumStrip(values: Float64Array, { put, r0, r1, columns, wide, terms }: Strip): void {
  for (let r = r0; r < r1; r++) {
    let at = (r - r0) * wide * terms
    let k0 = 0
    let k1 = 0
    let k2 = 0
    let k3 = 0
    let k4 = 0
    for (let c = 0; c < columns; c++, at += terms) {
      const into = c & (block - 1)
      if (into === 0) k0 = k1 = k2 = k3 = k4 = 0
      k0 += put[at]
      k1 += put[at + 1]
      k2 += put[at + 2]
      if (terms > 3) {
        k3 += put[at + 3]
        k4 += put[at + 4]
      }
      const u = into / block - 0.5
      values[r * columns + c] += k0 + u * (k1 + u * (k2 + u * (k3 + u * k4)))
    }
  }
}

/** Rows that are gone through together: their coefficients stay near at hand. */
const stripRows = 24

/** Narrow kernels cell by cell; then the rows are gone through once more, strip by strip, for wide ones. */
function* sumPolynomial(
  grid: Grid,
  places: Float64Array,
  weights: Float64Array,
  { kernel, bandwidth }: DensityOptions,
): Steps<void> {
  const { x0, y0, cell, columns, rows, values } = grid
  const all: Put = {
    x: weights.map((_, i) => (places[2 * i] - x0) / cell - 0.5),
    y: weights.map((_, i) => (places[2 * i + 1] - y0) / cell - 0.5),
    h: weights.map((_, i) => (typeof bandwidth === 'number' ? bandwidth : bandwidth[i]) / cell),
    w: weights,
    quartic: kernel === 'quartic',
  }
  const [narrow, wide]: number[][] = [[], []]
  for (let i = 0; i < weights.length; i++) if (weights[i]) (all.h[i] < narrowest ? narrow : wide).push(i)
  // From the top, so that a strip finds its kernels together.
  wide.sort((a, b) => all.y[a] - all.y[b])
  const tallest = wide.reduce((most, i) => Math.max(most, all.h[i]), 0)
  for (let n = 0; n < narrow.length; n++) {
    if (n % every === every - 1) yield n / (narrow.length + wide.length)
    addNarrow(grid, all, narrow[n])
  }
  const size = block * Math.ceil(columns / block)
  const terms = all.quartic ? 5 : 3
  const put = new Float64Array(wide.length ? stripRows * size * terms : 0)
  let first = 0
  for (let r0 = 0; r0 < rows && wide.length; r0 += stripRows) {
    yield r0 / rows
    const r1 = Math.min(rows, r0 + stripRows)
    const strip: Strip = { put: put.fill(0), r0, r1, columns, wide: size, terms }
    while (first < wide.length && all.y[wide[first]] < r0 - tallest) first++
    for (let n = first; n < wide.length && all.y[wide[n]] <= r1 + tallest; n++) addWide(strip, all, wide[n])
    sumStrip(values, strip)
  }
  // What is left over where all kernels have ended is rounding.
  const least = 1e-9 * values.reduce((most, value) => Math.max(most, value), 0)
  values.forEach((value, i) => value < least && (values[i] = 0))
}

/**
 * Bandwidths that adapt to the data: wide where there are few, narrow where there are many; the bandwidth times the
 * square root of the geometric mean of a first density over the density at each place (Abramson 1982), at most four
 * times and at least a quarter of it.
 * @param first density at each place with one bandwidth for all
 */
export function adapted(bandwidth: number, first: Float64Array, weights: Float64Array | null): Float64Array {
  let [sum, logs] = [0, 0]
  first.forEach((density, i) => {
    const w = weights ? weights[i] : 1
    if (!(density > 0) || !(w > 0)) return
    sum += w
    logs += w * Math.log(density)
  })
  const mean = sum ? Math.exp(logs / sum) : 1
  return first.map((density) =>
    density > 0 ? bandwidth * Math.min(4, Math.max(0.25, Math.sqrt(mean / density))) : bandwidth,
  )
}

/** How many places lie within a distance (m) of each cell's middle. */
export function pointCounts(lattice: Lattice, places: Float64Array, withinM: number): Grid {
  const { x0, y0, cell, columns, rows } = lattice
  const h = withinM / cell
  const changes = new Float64Array(rows * (columns + 1))
  for (let i = 0; i < places.length; i += 2) {
    const x = (places[i] - x0) / cell - 0.5
    const y = (places[i + 1] - y0) / cell - 0.5
    const last = Math.min(rows - 1, Math.floor(y + h))
    for (let r = Math.max(0, Math.ceil(y - h)); r <= last; r++) {
      const half = Math.sqrt(Math.max(0, h * h - (r - y) ** 2))
      const from = Math.max(0, Math.ceil(x - half))
      const to = Math.min(columns - 1, Math.floor(x + half))
      if (to < from) continue
      changes[r * (columns + 1) + from]++
      changes[r * (columns + 1) + to + 1]--
    }
  }
  const values = new Float64Array(columns * rows)
  for (let r = 0; r < rows; r++) {
    let count = 0
    for (let c = 0; c < columns; c++) {
      count += changes[r * (columns + 1) + c]
      values[r * columns + c] = count
    }
  }
  return { ...lattice, values }
}
