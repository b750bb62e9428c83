import { ringRange, type Areas } from '@/core/geo/geometry'
import { cross } from '@/core/grid/rasterise'
import { eachPlace, ringMoments } from '../plane'
import { inGrid, type BlockGrid } from '../block-grid'

/** Rows of whole addresses that lie in something: `from` up to `to`. */
export type Span = { r: number; from: number; to: number }

/** Rings in the units of a grid, q and r by turns. */
export type Paths = Float64Array[]

/** Vertices nearer to the last one than this, in sides of a block, do not matter. */
const fine = 0.08

/**
 * Rings of areas in the units of a grid.
 * @param place moves a vertex of the areas to where it is in the plane
 */
export function pathsOf(
  areas: Areas,
  rings: readonly number[],
  grid: BlockGrid,
  place: (x: number, y: number) => [number, number],
): Paths {
  const { coords } = areas.arcs
  return rings.map((ring) => {
    const path: number[] = []
    let [lq, lr] = [Infinity, Infinity]
    eachPlace(areas, ring, (v) => {
      const [q, r] = inGrid(grid, ...place(coords[2 * v], coords[2 * v + 1]))
      if (Math.abs(q - lq) < fine && Math.abs(r - lr) < fine) return
      path.push(q, r)
      ;[lq, lr] = [q, r]
    })
    path.push(path[0], path[1])
    return Float64Array.from(path)
  })
}

/** The blocks whose middles lie in some rings, shifted by so many addresses, by the rule of even and odd. */
export function spansOf(paths: Paths, dq = 0, dr = 0): Span[] {
  let first = Infinity
  for (const path of paths) for (let k = 1; k < path.length; k += 2) if (path[k] < first) first = path[k]
  if (!Number.isFinite(first)) return []
  // Crossings are noted from row 0 on.
  const from = Math.floor(first + dr)
  const crossings = new Map<number, number[]>()
  for (const path of paths)
    for (let k = 2; k < path.length; k += 2)
      if (path[k + 1] !== path[k - 1])
        cross(crossings, {
          px: path[k - 2] + dq,
          py: path[k - 1] + dr - from,
          x: path[k] + dq,
          y: path[k + 1] + dr - from,
          rows: Infinity,
        })
  const spans: Span[] = []
  for (const [row, places] of crossings) {
    places.sort((a, b) => a - b)
    for (let i = 0; i + 1 < places.length; i += 2) {
      const [start, end] = [Math.ceil(places[i]), Math.ceil(places[i + 1]) - 1]
      if (end >= start) spans.push({ r: row + from, from: start, to: end })
    }
  }
  return spans
}

/** The outer rings, with their holes, of the polygons of a feature that are no smaller than a share of its largest. */
export function mainRings(areas: Areas, f: number, share: number): number[] {
  const first = areas.featureStarts[f]
  const polygons = Array.from({ length: areas.featureStarts[f + 1] - first }, (_, k) => {
    const [from, to] = [areas.polygonStarts[first + k], areas.polygonStarts[first + k + 1]]
    return {
      rings: Array.from({ length: to - from }, (_, j) => from + j),
      size: Math.abs(ringMoments(areas, from)[0]),
    }
  })
  const largest = Math.max(...polygons.map(({ size }) => size))
  return polygons.filter(({ size }) => size >= share * largest).flatMap(({ rings }) => rings)
}

export function allRings(areas: Areas, f: number): number[] {
  const [from, to] = ringRange(areas, f)
  return Array.from({ length: to - from }, (_, k) => from + k)
}
