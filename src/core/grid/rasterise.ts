import { eachVertex, featureCount, type Geometry } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { createProjection } from '@/core/projection/projection'
import type { Lattice } from './grid'

/**
 * Which area each cell's middle lies in, −1 for none; where areas overlap it is the first one. Along each row of
 * middles the borders that cross it are gone through from the left (a scan line by the rule of even and odd).
 */
export function areaOfCells(areas: Geometry, lattice: Lattice): Int32Array {
  const { x0, y0, cell, columns, rows } = lattice
  const of = new Int32Array(columns * rows).fill(-1)
  const projected = projectGeometry(areas, createProjection(lattice.plane))
  if (projected.kind !== 'areas') return of
  const { coords } = projected.arcs
  for (let f = 0; f < featureCount(projected); f++) {
    /** For each row, where borders of the area cross it, in cells. */
    const crossings = new Map<number, number[]>()
    for (let p = projected.featureStarts[f]; p < projected.featureStarts[f + 1]; p++)
      for (let r = projected.polygonStarts[p]; r < projected.polygonStarts[p + 1]; r++) {
        let [px, py] = [NaN, NaN]
        eachVertex(projected, r, (v) => {
          const x = (coords[2 * v] - x0) / cell - 0.5
          const y = (coords[2 * v + 1] - y0) / cell - 0.5
          if (py !== y && !Number.isNaN(py)) cross(crossings, { px, py, x, y, rows })
          px = x
          py = y
        })
      }
    for (const [row, places] of crossings) {
      places.sort((a, b) => a - b)
      for (let i = 0; i + 1 < places.length; i += 2) {
        const from = Math.max(0, Math.ceil(places[i]))
        const to = Math.min(columns - 1, Math.ceil(places[i + 1]) - 1)
        for (let c = from; c <= to; c++) if (of[row * columns + c] < 0) of[row * columns + c] = f
      }
    }
  }
  return of
}

type Edge = { px: number; py: number; x: number; y: number; rows: number }

/** Notes where an edge crosses whole rows, by row; its upper end belongs to it, its lower one does not. */
export function cross(crossings: Map<number, number[]>, { px, py, x, y, rows }: Edge): void {
  const [low, high] = py < y ? [py, y] : [y, py]
  const last = Math.min(rows - 1, Math.ceil(high) - 1)
  for (let r = Math.max(0, Math.ceil(low)); r <= last; r++) {
    const at = px + ((x - px) * (r - py)) / (y - py)
    const known = crossings.get(r)
    if (known) known.push(at)
    else crossings.set(r, [at])
  }
}

/** 1 for cells whose middle lies in one of some areas. */
export const cellsWithin = (areas: Geometry, lattice: Lattice): Uint8Array =>
  Uint8Array.from(areaOfCells(areas, lattice), (f) => Number(f >= 0))
