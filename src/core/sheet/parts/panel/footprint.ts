import { featureOutline } from '@/core/geo/outlines'
import type { Areas } from '@/core/geo/geometry'
import { isNear, toPaper } from '@/core/geo/paper'
import { projectGeometry } from '@/core/geo/projected'
import { unproject } from '@/core/map/view'
import { circle, outlineBox, polyline, type Outline } from '@/core/scene/outline'
import { solid, stroke, withOpacity } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import { toLocal, toPage, type Point } from '../../frame'
import type { PanelView } from '../../part'
import type { Footprint } from './spec'

/** So many places along each side: the edge between two of them then is straight to far below a tenth of a mm. */
const perSide = 48

/** Smaller footprints cannot be made out; a mark stands for them. */
export const smallestMm = 2

const unitEllipse: Point[] = Array.from({ length: 4 * perSide }, (_, i) => {
  const angle = (-2 * Math.PI * i) / (4 * perSide)
  return [0.5 + 0.5 * Math.cos(angle), 0.5 + 0.5 * Math.sin(angle)]
})
/** Against the clock on paper, so that the inside lies on the left. */
const unitSquare: Point[] = [
  ...along((t) => [0, t]),
  ...along((t) => [t, 1]),
  ...along((t) => [1, 1 - t]),
  ...along((t) => [1 - t, 0]),
]

function along(at: (t: number) => Point): Point[] {
  return Array.from({ length: perSide }, (_, i) => at(i / perSide))
}

/** Longitudes and latitudes along the edge of what a panel shows; places off the edge of the world are left out. */
export function edgeOfPanel({ lie, to, window }: PanelView, round: boolean): [number, number][] {
  return (round ? unitEllipse : unitSquare).flatMap(([u, v]) => {
    const place = unproject(lie(), to, window.x + u * window.width, window.y + v * window.height)
    return place ? [place] : []
  })
}

/** The outline of what `other` shows, as it lies in `panel`; null where none of it does. */
export function footprintOutline(panel: PanelView, other: PanelView, round: boolean): Outline | null {
  const edge = edgeOfPanel(other, round)
  if (edge.length < 3) return null
  const coords = Float64Array.from([...edge, edge[0]].flat())
  const area: Areas = {
    kind: 'areas',
    arcs: { coords, starts: Uint32Array.of(0, coords.length / 2) },
    refs: Int32Array.of(0),
    ringStarts: Uint32Array.of(0, 1),
    polygonStarts: Uint32Array.of(0, 1),
    featureStarts: Uint32Array.of(0, 1),
  }
  const { outline, kept } = featureOutline(projectGeometry(area, panel.lie()), [0], panel.to, panel.window)
  return kept.length && outlineBox(outline) ? outline : null
}

/** Places along an ellipse that are close enough for lines to touch it. */
const tangentPlaces = unitEllipse.filter((_, i) => i % 4 === 0)
const squareCorners: Point[] = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
]

/** The corners of a panel on paper; of a round one places all round it. */
const cornersOn = ({ round, window: { x, y, width, height } }: PanelView): Point[] =>
  (round ? tangentPlaces : squareCorners).map(([u, v]) => [x + u * width, y + v * height])

/** The corners of what `other` shows where they lie in `panel`, mm on the page before the panel is turned. */
function cornersWithin(panel: PanelView, other: PanelView): Point[] {
  return cornersOn(other).flatMap(([cx, cy]) => {
    const place = unproject(other.lie(), other.to, cx, cy)
    const [px, py] = place ? toPaper(panel.to, ...panel.lie().project(...place)) : [NaN, NaN]
    return Number.isFinite(px) && Number.isFinite(py) ? [[px, py] as Point] : []
  })
}

/**
 * The two lines that join one outline of corners to another without crossing either: the sides of the hull around
 * both that go from one to the other.
 */
export function joiningLines(from: readonly Point[], to: readonly Point[]): [Point, Point][] {
  const all = [...from, ...to]
  const side = ([ax, ay]: Point, [bx, by]: Point, [x, y]: Point) =>
    (bx - ax) * (y - ay) - (by - ay) * (x - ax)
  const lines: [Point, Point][] = []
  for (const a of from)
    for (const b of to) {
      const sides = all.filter((p) => p !== a && p !== b).map((p) => side(a, b, p))
      if (sides.every((s) => s >= -1e-9) || sides.every((s) => s <= 1e-9)) lines.push([a, b])
    }
  return lines.length > 2 ? longestOfEachSide(lines) : lines
}

/** Where corners lie in one line, of the lines on each side the one that spans most. */
function longestOfEachSide(lines: [Point, Point][]): [Point, Point][] {
  const length = ([[ax, ay], [bx, by]]: [Point, Point]) => Math.hypot(bx - ax, by - ay)
  return [...lines].sort((p, q) => length(q) - length(p)).slice(0, 2)
}

/** A footprint: its outline within the panel, and the lines that join it to the other panel. */
export function drawFootprint(
  look: Footprint,
  { panel, other, round, name }: { panel: PanelView; other: PanelView; round: boolean; name: string },
): { inside: Node[]; joins: Node[] } {
  const outline = footprintOutline(panel, other, round)
  if (!outline) return { inside: [], joins: [] }
  const box = outlineBox(outline)
  const small = box !== null && Math.max(box.width, box.height) < smallestMm
  const shape = small && box ? circle(box.x + box.width / 2, box.y + box.height / 2, smallestMm / 2) : outline
  const strokes = look.widthPt > 0 ? [stroke(look.colour, pointsToMm(look.widthPt), { join: 'miter' })] : []
  const fill = look.fill === null ? null : solid(withOpacity(look.fill, look.fillOpacity))
  const inside = [group(`${name} of ${other.name}`, [path(shape, { fill, strokes })])]
  if (!look.joined || small) return { inside, joins: [] }
  const own = cornersWithin(panel, other)
  // A footprint that reaches beyond the panel has no corners to join.
  if (own.length < 4 || !own.every(([x, y]) => isNear(panel.window, x, y))) return { inside, joins: [] }
  const theirs = cornersOn(other).map((corner) => toLocal(panel.frame, toPage(other.frame, corner)))
  const lines = joiningLines(own, theirs)
  const joins = lines.length
    ? [
        group(`${name} of ${other.name}, joined`, [
          path(polyline(...lines.map(([a, b]) => [...a, ...b])), {
            strokes: [stroke(look.colour, pointsToMm(Math.max(0.25, look.widthPt / 2)), { cap: 'butt' })],
          }),
        ]),
      ]
    : []
  return { inside, joins }
}
