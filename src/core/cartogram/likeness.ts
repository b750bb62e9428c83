import { featureCount, type Areas } from '@/core/geo/geometry'
import { milestones, type Steps } from '@/core/grid/steps'
import { allRings, pathsOf, spansOf, type Span } from './blocks/start'
import { momentsOf } from './plane'

/** Cells along the side of a square as large as an area, by which shapes are compared. */
const fineness = 24
/** Of more areas than this likeness is not looked at. */
const mostAreas = 3000

/**
 * How alike shapes are before and after: each made as large as the other about its centre of gravity, what they have in
 * common as a share of what either covers; the mean over all that have both. 1 is the same, NaN where there are none or
 * too many.
 */
export function* likeness(before: Areas, after: Areas): Steps<number> {
  const count = Math.min(featureCount(before), featureCount(after))
  let [sum, n] = [0, 0]
  if (count > mostAreas) return NaN
  const told = milestones(2000)
  for (let f = 0; f < count; f++) {
    const [a, b] = [cellsOf(before, f), cellsOf(after, f)]
    if (!a.size || !b.size) continue
    let common = 0
    for (const cell of a) if (b.has(cell)) common++
    sum += common / (a.size + b.size - common)
    n++
    if (told.due(a.size + b.size)) yield f / count
  }
  return n ? sum / n : NaN
}

/** The cells that a feature covers, made as large as all others, about its centre of gravity. */
function cellsOf(areas: Areas, f: number): Set<number> {
  const rings = allRings(areas, f)
  const [m2, x, y] = momentsOf(areas, rings)
  const scale = fineness / Math.sqrt(Math.abs(m2))
  if (!Number.isFinite(scale)) return new Set()
  const grid = { shape: 'squares' as const, side: 1, x0: 0, y0: 0 }
  const paths = pathsOf(areas, rings, grid, (px, py) => [scale * (px - x), scale * (py - y)])
  return new Set(spansOf(paths).flatMap(({ r, from, to }: Span) => cellNumbers(r, from, to)))
}

const cellNumbers = (r: number, from: number, to: number): number[] =>
  Array.from({ length: to - from + 1 }, (_, k) => (r + 1e5) * 1e6 + from + k + 5e5)
