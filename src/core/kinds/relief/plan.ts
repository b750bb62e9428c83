import { cellsOfBand, type Raster } from '@/core/data/raster'
import { cellMetres } from '@/core/data/raster-ground'
import { blurredCells } from '@/core/grid/blur'
import { drain } from '@/core/grid/steps'
import type { KindData } from '../kind'
import type { ReliefSettings } from './spec'

/**
 * Where the heights of a band lie, and how many of the held cells lie in each of equal steps from the lowest to the
 * highest; how wide a cell of the file is on the ground, m; by how much broad shading is made stronger, since what is
 * smoothed is flatter; and how far heights lie from their surroundings, root mean square. Null where there is no such
 * band.
 */
export type ReliefPlan = {
  low: number
  high: number
  counts: number[]
  cellM: number
  boost: number
  localM: number
} | null

/** Steps of heights that are counted. */
const steps = 96

/** Broad shading is made stronger by no more than this. */
const mostBoost = 12
/** Slopes are compared on no more cells than these. */
const mostCells = 250_000

export function planRelief(settings: ReliefSettings, { dataset: { raster } }: KindData): ReliefPlan {
  const { band, shading } = settings
  if (!raster || band >= raster.bands) return null
  const values = cellsOfBand(raster, band)
  let [low, high] = [Infinity, -Infinity]
  for (const value of values) {
    if (value < low) low = value
    if (value > high) high = value
  }
  if (!(high >= low)) return null
  const counts = new Array<number>(steps).fill(0)
  for (const value of values)
    if (value === value)
      counts[Math.min(steps - 1, Math.floor((steps * (value - low)) / (high - low || 1)))]++
  const cellM = cellMetres(raster)
  const wants = shading && (shading.broad > 0 || shading.texture > 0)
  const surroundings = wants
    ? surroundingsOf(raster, values, (shading.reachKm * 1000) / cellM)
    : { boost: 1, localM: 1 }
  return { low, high, counts, cellM: cellM * (raster.columns / raster.fileSize[0]), ...surroundings }
}

/** What smoothing takes away: how much flatter it makes slopes, and how far heights lie from what is left. */
function surroundingsOf(
  raster: Raster,
  values: Float32Array,
  sigma: number,
): { boost: number; localM: number } {
  const every = Math.max(1, Math.ceil(Math.sqrt(values.length / mostCells)))
  const [columns, rows] = [Math.floor(raster.columns / every), Math.floor(raster.rows / every)]
  if (columns < 3 || rows < 3) return { boost: 1, localM: 1 }
  const few = Float64Array.from(
    { length: columns * rows },
    (_, i) => values[Math.floor(i / columns) * every * raster.columns + (i % columns) * every],
  )
  const broad = drain(blurredCells({ values: few, columns, rows }, sigma / every))
  const ratio = roughness(few, columns) / roughness(broad, columns)
  let [squares, count] = [0, 0]
  for (let i = 0; i < few.length; i++) {
    const off = few[i] - broad[i]
    if (off !== off) continue
    squares += off * off
    count++
  }
  return {
    boost: Number.isFinite(ratio) ? Math.min(mostBoost, Math.max(1, ratio)) : 1,
    localM: Math.sqrt(squares / count) || 1,
  }
}

/** The root mean square of the differences between cells beside each other; NaN without any. */
export function roughness(values: ArrayLike<number>, columns: number): number {
  let [sum, count] = [0, 0]
  for (let i = 0; i < values.length; i++) {
    if (i % columns === columns - 1) continue
    const step = values[i + 1] - values[i]
    if (Number.isNaN(step)) continue
    sum += step * step
    count++
  }
  return Math.sqrt(sum / count)
}
