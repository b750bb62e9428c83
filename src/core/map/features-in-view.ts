import { featureOutline } from '@/core/geo/outlines'
import { isNear, placeOnPaper, windowBounds, type PaperTransform, type PaperWindow } from '@/core/geo/paper'
import { projectGeometry } from '@/core/geo/projected'
import type { Geometry } from '@/core/geo/geometry'
import type { Projection } from '@/core/projection/projection'
import type { Bounds } from '@/core/scene/bounds'
import { trace, type Outline } from '@/core/scene/outline'

/** What reaches no farther into the window than this is not seen, mm. */
const hair = 0.02

/**
 * The features of which something is seen in a window of the paper, by row in ascending order: points in it, lines
 * that run through it, areas that cover any of it. A feature that only its box brings near is not among them.
 */
export function featuresInView(
  geometry: Geometry,
  { projection, to, window }: { projection: Projection; to: PaperTransform; window: PaperWindow },
): number[] {
  const projected = projectGeometry(geometry, projection)
  if (projected.kind === 'none') return []
  const count = projected.featureStarts.length - 1
  const rows = Array.from({ length: count }, (_, row) => row)
  if (projected.kind === 'points') {
    const { coords, featureStarts } = projected
    return rows.filter((row) => {
      for (let i = featureStarts[row]; i < featureStarts[row + 1]; i++)
        if (isNear(window, ...placeOnPaper(to, coords, i))) return true
      return false
    })
  }
  const inner = windowBounds(window, -hair)
  return rows.filter((row) => {
    const { outline, kept } = featureOutline(projected, [row], to, window)
    return kept.length > 0 && covers(outline, inner, projected.kind === 'areas')
  })
}

/** Whether an edge of an outline runs through a box or, where it is filled, the box lies within it. */
function covers(outline: Outline, [x0, y0, x1, y1]: Bounds, filled: boolean): boolean {
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2]
  let through = false
  let within = false
  let [px, py, sx, sy] = [0, 0, 0, 0]
  const edge = (x: number, y: number): void => {
    through ||= edgeInBox([px, py, x, y], [x0, y0, x1, y1])
    if (py > my !== y > my && mx < px + ((my - py) / (y - py)) * (x - px)) within = !within
    ;[px, py] = [x, y]
  }
  trace(outline, {
    moveTo: (x, y) => void ([px, py, sx, sy] = [x, y, x, y]),
    lineTo: edge,
    bezierCurveTo: (...curve) => edge(curve[4], curve[5]),
    closePath: () => edge(sx, sy),
  })
  return through || (filled && within)
}

/** Whether any of a straight edge lies in a box (the method of Liang and Barsky, 1984). */
function edgeInBox([ax, ay, bx, by]: [number, number, number, number], [x0, y0, x1, y1]: Bounds): boolean {
  const [dx, dy] = [bx - ax, by - ay]
  let [from, till] = [0, 1]
  for (const [p, q] of [
    [-dx, ax - x0],
    [dx, x1 - ax],
    [-dy, ay - y0],
    [dy, y1 - ay],
  ]) {
    if (p === 0) {
      if (q < 0) return false
    } else if (p < 0) from = Math.max(from, q / p)
    else till = Math.min(till, q / p)
  }
  return from <= till
}
