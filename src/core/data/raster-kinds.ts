import { createMemory } from '@/core/memory/memory'
import { cellsOfBand, type Raster } from './raster'
import { groundOfCells } from './raster-ground'

/** A raster with more different values than this names no kinds. */
export const mostKinds = 256

/** Different values, with the held cells and the km² of ground of each, and how many cells have none. */
export type Kinds = {
  values: number[]
  cells: number[]
  km2: number[]
  missing: number
  /** How many different values there are; of more than can be kinds, one more than those. */
  different: number
}

const remember = createMemory<Float32Array, Kinds>('kinds of cells', { maxBytes: 2 ** 20 })

/** The different values of a band's held cells, ascending, as far as there are no more than can be kinds. */
export const kindsOfCells = (raster: Raster, band: number): Kinds =>
  remember(raster.values, String(band), () => {
    const cells = cellsOfBand(raster, band)
    const ground = groundOfCells(raster)
    const found = new Map<number, { cells: number; m2: number }>()
    let missing = 0
    let different = 0
    for (let i = 0; i < cells.length; i++) {
      const value = cells[i]
      if (!Number.isFinite(value)) {
        missing++
        continue
      }
      let kind = found.get(value)
      if (!kind) {
        if (++different > mostKinds) break
        kind = { cells: 0, m2: 0 }
        found.set(value, kind)
      }
      kind.cells++
      kind.m2 += ground[i]
    }
    if (different > mostKinds) return { values: [], cells: [], km2: [], missing, different }
    const values = [...found.keys()].sort((a, b) => a - b)
    return {
      values,
      cells: values.map((value) => found.get(value)?.cells ?? 0),
      km2: values.map((value) => (found.get(value)?.m2 ?? 0) / 1e6),
      missing,
      different,
    }
  })
