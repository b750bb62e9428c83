import { classIndex, type Ground } from '@/core/classify/classify'
import { cellsOfBand, type Raster } from '@/core/data/raster'
import { groundOfCells } from '@/core/data/raster-ground'
import { createMemory } from '@/core/memory/memory'

/** So many cells say as much of the whole as all of them do. */
const mostSampled = 20_000

export type Sample = {
  /** Values of cells, evenly taken from all that have one, the least and the greatest among them. */
  values: Float64Array
  /** Ground that each of them stands for, m². */
  ground: Ground
  min: number
  max: number
  /** Held cells with a value, and those without. */
  there: number
  missing: number
}

const remember = createMemory<Float32Array, Sample>('samples of cells', { maxBytes: 16 * 2 ** 20 })

/** A sample of the held cells of a band. */
export const sampleOf = (raster: Raster, band: number): Sample =>
  remember(raster.values, String(band), () => {
    const cells = cellsOfBand(raster, band)
    const ground = groundOfCells(raster)
    let [min, max, there] = [Infinity, -Infinity, 0]
    for (const value of cells) {
      if (!Number.isFinite(value)) continue
      there++
      if (value < min) min = value
      if (value > max) max = value
    }
    const every = Math.max(1, there / mostSampled)
    const taken = Math.ceil(there / every) || 0
    const [values, sizes] = [new Float64Array(taken), new Float64Array(taken)]
    let [seen, at] = [0, 0]
    for (let i = 0; i < cells.length; i++) {
      if (!Number.isFinite(cells[i])) continue
      if (seen >= at * every && at < taken) {
        values[at] = cells[i]
        sizes[at++] = ground[i] * every
      }
      seen++
    }
    // The ends are those of all cells.
    if (taken > 1) {
      values[0] = min
      values[taken - 1] = max
    }
    return { values, ground: { sizes, neighbours: null }, min, max, there, missing: cells.length - there }
  })

/** How many held cells lie in each class, how many in none, and the ground of each class, km². */
export function countedIn(
  raster: Raster,
  band: number,
  { breaks, inclusive }: { breaks: number[]; inclusive: 'lower' | 'upper' },
): { counts: number[]; outside: number; km2: number[] } {
  const ground = groundOfCells(raster)
  const counts = new Array<number>(Math.max(0, breaks.length - 1)).fill(0)
  const km2 = [...counts]
  let outside = 0
  const cells = cellsOfBand(raster, band)
  for (let i = 0; i < cells.length; i++) {
    if (!Number.isFinite(cells[i])) continue
    const k = classIndex(breaks, cells[i], inclusive)
    if (k < 0) outside++
    else {
      counts[k]++
      km2[k] += ground[i] / 1e6
    }
  }
  return { counts, outside, km2 }
}
