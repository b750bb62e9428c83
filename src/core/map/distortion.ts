import { contours } from 'd3-contour'
import { entryOf } from '@/core/projection/catalogue'
import { indicatrixAt } from '@/core/projection/distortion'
import type { Projection } from '@/core/projection/projection'
import { polygon, polyline } from '@/core/scene/outline'
import { solid, stroke, withOpacity } from '@/core/scene/paint'
import { group, path, type Group, type Node } from '@/core/scene/scene'
import { textNode, type FontBook, type TextFont } from '@/core/scene/text'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import { toMetres } from '@/core/geo/paper'

/** Tissot's ellipses, or lines of equal error. */
export type DistortionView = 'ellipses' | 'lines'

const ink = '#9c1f5e'
const type: TextFont = { family: 'source-sans-3', weight: 600, italic: false }
export const distortionFonts: TextFont[] = [type]

/** How a projection distorts what is seen in a window. */
export function drawDistortion(
  view: DistortionView,
  projection: Projection,
  to: PaperTransform,
  { window, fonts }: { window: PaperWindow; fonts: FontBook },
): Group {
  return group(
    'Distortion',
    view === 'ellipses' ? ellipses(projection, to, window) : errorLines(projection, to, window, fonts),
    { layer: true },
  )
}

const placeOf = (projection: Projection, to: PaperTransform, x: number, y: number) =>
  projection.invert(...toMetres(to, x, y))

/** The scale of lengths at the middle of the window, against which others are held. */
function middleScale(
  projection: Projection,
  to: PaperTransform,
  { x, y, width, height }: PaperWindow,
): number {
  const place = placeOf(projection, to, x + width / 2, y + height / 2) ?? projection.spec.centre
  return Math.sqrt(indicatrixAt(projection, ...place)?.areaScale ?? 1)
}

const apartMm = 21
const radiusMm = 4

function ellipses(projection: Projection, to: PaperTransform, window: PaperWindow): Node[] {
  const scale = middleScale(projection, to, window)
  const nodes: Node[] = []
  const columns = Math.max(1, Math.floor(window.width / apartMm))
  const rows = Math.max(1, Math.floor(window.height / apartMm))
  for (let i = 0; i < columns; i++)
    for (let j = 0; j < rows; j++) {
      const [x, y] = [
        window.x + ((i + 0.5) * window.width) / columns,
        window.y + ((j + 0.5) * window.height) / rows,
      ]
      const place = placeOf(projection, to, x, y)
      const ellipse = place && indicatrixAt(projection, ...place)
      if (!ellipse || ellipse.a / scale > 8) continue
      const { east, north } = ellipse
      const r = radiusMm / scale
      const ring = Array.from({ length: 48 }, (_, k) => (k * Math.PI) / 24).flatMap((t) => [
        x + r * (Math.cos(t) * east[0] + Math.sin(t) * north[0]),
        y + r * (Math.cos(t) * east[1] + Math.sin(t) * north[1]),
      ])
      const axes = [-1, 1].flatMap((side) => [x + side * r * east[0], y + side * r * east[1]])
      nodes.push(
        path(polygon(ring), { fill: solid(withOpacity(ink, 0.16)), strokes: [stroke(ink, 0.22)] }),
        path(polyline(axes), { strokes: [stroke(ink, 0.12)] }),
      )
    }
  return nodes
}

const rounded = [0.001, 0.01, 0.1, 1, 10, 100].flatMap((power) =>
  [1, 2, 5].map((n) => Number((n * power).toPrecision(1))),
)
const most = 9

/** Round values between two, on both sides of zero, the largest of them where there are many. */
export function errorSteps(low: number, high: number): number[] {
  const inside = [...rounded, ...rounded.map((step) => -step)].filter((step) => step > low && step < high)
  return inside
    .sort((a, b) => Math.abs(b) - Math.abs(a))
    .slice(0, most)
    .sort((a, b) => a - b)
}

/** Lines of equal error: of angles in degrees where areas are true, of areas in per cent elsewhere. */
function errorLines(
  projection: Projection,
  to: PaperTransform,
  window: PaperWindow,
  fonts: FontBook,
): Node[] {
  const equalArea = entryOf(projection.spec).property === 'equal-area'
  const scale = middleScale(projection, to, window) ** 2
  const cell = Math.max(window.width, window.height) / 70
  const [columns, rows] = [
    Math.max(2, Math.ceil(window.width / cell) + 1),
    Math.max(2, Math.ceil(window.height / cell) + 1),
  ]
  const values = Array.from({ length: columns * rows }, (_, i) => {
    const place = placeOf(
      projection,
      to,
      window.x + (i % columns) * cell,
      window.y + Math.floor(i / columns) * cell,
    )
    const ellipse = place && indicatrixAt(projection, ...place)
    if (!ellipse) return NaN
    return equalArea ? ellipse.angularDeg : 100 * (ellipse.areaScale / scale - 1)
  })
  const known = values.filter(Number.isFinite)
  if (!known.length) return []
  const [low, high] = [Math.min(...known), Math.max(...known)]
  const steps = errorSteps(low, high)
  // Contours close along the edge of the grid; that part is no line of equal error.
  const make = contours().size([columns, rows]).smooth(true)
  return steps.flatMap((step) => {
    const lines = make
      .contour(
        values.map((value) => (Number.isFinite(value) ? value : low)),
        step,
      )
      .coordinates.flat()
      .flatMap((ring) => openParts(ring as [number, number][], columns, rows, values))
    const onPaper = lines.map((line) =>
      line.flatMap(([gx, gy]) => [window.x + (gx - 0.5) * cell, window.y + (gy - 0.5) * cell]),
    )
    if (!onPaper.length) return []
    const longest = onPaper.reduce((a, b) => (b.length > a.length ? b : a))
    const at = 2 * Math.floor(longest.length / 4)
    const words = equalArea ? `${step}°` : `${step > 0 ? '+' : '−'}${Math.abs(step)} %`
    return [
      group(words, [
        path(polyline(...onPaper), { strokes: [stroke(ink, 0.25)] }),
        textNode(
          fonts,
          words,
          { font: type, sizeMm: 2.6, letterSpacingMm: 0 },
          {
            x: longest[at],
            y: longest[at + 1] + 0.9,
            colour: ink,
            anchor: 'middle',
            halo: { colour: '#ffffff', widthMm: 0.5 },
          },
        ),
      ]),
    ]
  })
}

/**
 * The stretches of a ring that run neither along the edge of the grid nor along that of the world, beyond
 * which nothing is known.
 */
function openParts(
  ring: [number, number][],
  columns: number,
  rows: number,
  values: number[],
): [number, number][][] {
  const unknown = (column: number, row: number): boolean => !Number.isFinite(values[row * columns + column])
  const onEdge = ([x, y]: [number, number]): boolean => {
    if (x <= 0.5 || y <= 0.5 || x >= columns - 0.5 || y >= rows - 0.5) return true
    const [left, top] = [Math.floor(x - 0.5), Math.floor(y - 0.5)]
    const [right, foot] = [Math.min(columns - 1, left + 1), Math.min(rows - 1, top + 1)]
    return unknown(left, top) || unknown(right, top) || unknown(left, foot) || unknown(right, foot)
  }
  const parts: [number, number][][] = []
  let part: [number, number][] = []
  for (const point of ring) {
    if (!onEdge(point)) part.push(point)
    else {
      if (part.length > 1) parts.push(part)
      part = []
    }
  }
  if (part.length > 1) parts.push(part)
  return parts
}
