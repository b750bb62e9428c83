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
 * that run through it, areas that cover any of it. A feature that only its box brings near is not among them. With
 * `round` the window is the ellipse that fills it.
 */
export function featuresInView(
  geometry: Geometry,
  {
    projection,
    to,
    window,
    round = false,
  }: { projection: Projection; to: PaperTransform; window: PaperWindow; round?: boolean },
): number[] {
  const projected = projectGeometry(geometry, projection)
  if (projected.kind === 'none') return []
  const count = projected.featureStarts.length - 1
  const unit = unitOf(window)
  const isSeen = (place: [number, number]): boolean =>
    isNear(window, ...place) && (!round || Math.hypot(...unit(...place)) <= 1)
  const rows = Array.from({ length: count }, (_, row) => row)
  if (projected.kind === 'points') {
    const { coords, featureStarts } = projected
    return rows.filter((row) => {
      for (let i = featureStarts[row]; i < featureStarts[row + 1]; i++)
        if (isSeen(placeOnPaper(to, coords, i))) return true
      return false
    })
  }
  const inner = windowBounds(window, -hair)
  return rows.filter((row) => {
    const { outline, kept } = featureOutline(projected, [row], to, window)
    if (!kept.length) return false
    const runs: Edge = round
      ? (ax, ay, bx, by) => edgeInCircle([...unit(ax, ay), ...unit(bx, by)])
      : (ax, ay, bx, by) => edgeInBox([ax, ay, bx, by], inner)
    return covers(outline, runs, projected.kind === 'areas' ? middleOf(inner) : null)
  })
}

type Edge = (ax: number, ay: number, bx: number, by: number) => boolean

const middleOf = ([x0, y0, x1, y1]: Bounds): [number, number] => [(x0 + x1) / 2, (y0 + y1) / 2]

/** Places as shares of half the window's sides from its middle. */
const unitOf =
  ({ x, y, width, height }: PaperWindow) =>
  (px: number, py: number): [number, number] => [
    (px - x - width / 2) / (width / 2),
    (py - y - height / 2) / (height / 2),
  ]

/** Whether an edge of an outline runs through the window or, where it is filled, the window's middle lies within. */
function covers(outline: Outline, runsThrough: Edge, middle: [number, number] | null): boolean {
  const [mx, my] = middle ?? [NaN, NaN]
  let through = false
  let within = false
  let [px, py, sx, sy] = [0, 0, 0, 0]
  const edge = (x: number, y: number): void => {
    through ||= runsThrough(px, py, x, y)
    if (py > my !== y > my && mx < px + ((my - py) / (y - py)) * (x - px)) within = !within
    ;[px, py] = [x, y]
  }
  trace(outline, {
    moveTo: (x, y) => void ([px, py, sx, sy] = [x, y, x, y]),
    lineTo: edge,
    bezierCurveTo: (...curve) => edge(curve[4], curve[5]),
    closePath: () => edge(sx, sy),
  })
  return through || (middle !== null && within)
}

/** Whether any of a straight edge lies in the circle of radius 1 about the origin. */
function edgeInCircle([ax, ay, bx, by]: [number, number, number, number]): boolean {
  const [dx, dy] = [bx - ax, by - ay]
  const length = dx * dx + dy * dy
  const t = length > 0 ? Math.max(0, Math.min(1, -(ax * dx + ay * dy) / length)) : 0
  return Math.hypot(ax + t * dx, ay + t * dy) < 1
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
