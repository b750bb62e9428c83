import type { Raster } from '@/core/data/raster'
import { blurredCells } from '@/core/grid/blur'
import { drain } from '@/core/grid/steps'
import { geodesicMetres } from '@/core/projection/ground'
import type { KindData } from '../kind'
import type { ReliefSettings } from './spec'

/**
 * Where the heights of a band lie; how wide a cell of it is on the ground, m; and by how much broad shading is made
 * stronger, since what is smoothed is flatter. Null where there is no such band.
 */
export type ReliefPlan = { low: number; high: number; cellM: number; boost: number } | null

/** Broad shading is made stronger by no more than this. */
const mostBoost = 12
/** Slopes are compared on no more cells than these. */
const mostCells = 250_000

export function planRelief(settings: ReliefSettings, { dataset: { raster } }: KindData): ReliefPlan {
  const { band, shading } = settings
  if (!raster || band >= raster.bands) return null
  const values = bandOf(raster, band)
  let [low, high] = [Infinity, -Infinity]
  for (const value of values) {
    if (value < low) low = value
    if (value > high) high = value
  }
  if (!(high >= low)) return null
  const cellM = cellMetres(raster)
  return {
    low,
    high,
    cellM,
    boost: shading?.broad ? boostOf(raster, values, (shading.reachKm * 1000) / cellM) : 1,
  }
}

const bandOf = ({ columns, rows, values }: Raster, band: number): Float32Array =>
  values.subarray(band * columns * rows, (band + 1) * columns * rows)

/** How wide a cell is on the ground, about: the square root of its share of the edge's extent. */
export function cellMetres({ edge, columns, rows }: Raster): number {
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < edge.length; i += 2) {
    west = Math.min(west, edge[i])
    east = Math.max(east, edge[i])
    south = Math.min(south, edge[i + 1])
    north = Math.max(north, edge[i + 1])
  }
  const middle = (south + north) / 2
  const wide = geodesicMetres([west, middle], [Math.min(east, west + 179), middle])
  const high = geodesicMetres([west, south], [west, north])
  return Math.max(1e-6, Math.sqrt((wide / columns) * (high / rows)))
}

/** The root mean square of the differences to the next cell, over that of the smoothed surface. */
function boostOf(raster: Raster, values: Float32Array, sigma: number): number {
  const every = Math.max(1, Math.ceil(Math.sqrt(values.length / mostCells)))
  const [columns, rows] = [Math.floor(raster.columns / every), Math.floor(raster.rows / every)]
  if (columns < 3 || rows < 3) return 1
  const few = Float64Array.from(
    { length: columns * rows },
    (_, i) => values[Math.floor(i / columns) * every * raster.columns + (i % columns) * every],
  )
  const broad = drain(blurredCells({ values: few, columns, rows }, sigma / every))
  const ratio = roughness(few, columns) / roughness(broad, columns)
  return Number.isFinite(ratio) ? Math.min(mostBoost, Math.max(1, ratio)) : 1
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
