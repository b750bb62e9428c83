import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { circle, polygon, polyline, rectangle, type Box, type Outline } from '@/core/scene/outline'
import { solid, stroke, type Stroke } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import { ellipse, insetBox, pen, roundedRectangle } from '@/core/scene/shapes'
import { pointsToMm } from '@/core/scene/units'
import { Fill, filled, paintOf } from '../../fill'
import { innerBox } from '../../page'
import { noRefs, type PartType } from '../../part'

export const shapeForms = ['rectangle', 'ellipse', 'line', 'bracket', 'polygon', 'freehand'] as const
export type ShapeForm = (typeof shapeForms)[number]

export const dashes = {
  solid: [],
  dashed: [4, 2],
  dotted: [0.01, 2],
  'dash and dot': [5, 2, 0.01, 2],
  long: [8, 3],
} as const satisfies Record<string, number[]>
export type Dash = keyof typeof dashes
const dashIds = Object.keys(dashes) as [Dash, ...Dash[]]

export const headForms = ['none', 'filled', 'open', 'dot', 'bar'] as const
export type HeadForm = (typeof headForms)[number]

export const ShapeSettings = z.object({
  form: z.enum(shapeForms),
  /** Places of a line, polygon or freehand line, in fractions of the box. */
  points: z
    .array(z.tuple([z.number().min(-1).max(2), z.number().min(-1).max(2)]))
    .min(2)
    .max(5000),
  cornerMm: z.number().min(0).max(500),
  fill: Fill,
  line: z.object({
    colour: Hex,
    widthPt: z.number().min(0).max(60),
    dash: z.enum(dashIds),
    cap: z.enum(['butt', 'round', 'square']),
    join: z.enum(['miter', 'round', 'bevel']),
  }),
  /** How a line begins and ends. */
  heads: z.object({ start: z.enum(headForms), end: z.enum(headForms), size: z.number().min(1).max(20) }),
})
export type ShapeSettings = z.infer<typeof ShapeSettings>

type Place = [number, number]

const placesOf = ({ points }: ShapeSettings, { x, y, width, height }: Box): Place[] =>
  points.map(([u, v]) => [x + u * width, y + v * height])

/** Whether a form is a line with two ends. */
export const isOpen = (form: ShapeForm): boolean =>
  form === 'line' || form === 'freehand' || form === 'bracket'

/** A freehand line, smooth through its places (Catmull and Rom 1974, as cubic curves). */
function smooth(places: Place[]): Outline {
  const drawing = pen().move(...places[0])
  for (let i = 0; i + 1 < places.length; i++) {
    const [a, b, c, d] = [
      places[Math.max(0, i - 1)],
      places[i],
      places[i + 1],
      places[Math.min(places.length - 1, i + 2)],
    ]
    drawing.curve(
      [b[0] + (c[0] - a[0]) / 6, b[1] + (c[1] - a[1]) / 6],
      [c[0] - (d[0] - b[0]) / 6, c[1] - (d[1] - b[1]) / 6],
      c,
    )
  }
  return drawing.outline()
}

/** A curly bracket along the longer side of a box, its point in the middle of the far side. */
function bracket({ x, y, width, height }: Box): Outline {
  const tall = height >= width
  const [length, depth] = tall ? [height, width] : [width, height]
  const p = (along: number, across: number): Place =>
    tall ? [x + across, y + along] : [x + along, y + across]
  const r = Math.min(depth / 2, length / 4)
  const mid = depth / 2
  return pen()
    .move(...p(0, 0))
    .curve(p(0, mid * 0.55), p(r * 0.45, mid), p(r, mid))
    .line(...p(length / 2 - r, mid))
    .curve(p(length / 2 - r * 0.45, mid), p(length / 2, mid + (depth - mid) * 0.45), p(length / 2, depth))
    .curve(p(length / 2, mid + (depth - mid) * 0.45), p(length / 2 + r * 0.45, mid), p(length / 2 + r, mid))
    .line(...p(length - r, mid))
    .curve(p(length - r * 0.45, mid), p(length, mid * 0.55), p(length, 0))
    .outline()
}

/** The outline of a shape, moved inwards where its form can be. */
export function outlineOf(settings: ShapeSettings, box: Box, inset = 0): Outline {
  const inner = insetBox(box, inset)
  switch (settings.form) {
    case 'rectangle':
      return settings.cornerMm > 0 ? roundedRectangle(inner, settings.cornerMm - inset) : rectangle(inner)
    case 'ellipse':
      return ellipse(inner)
    case 'bracket':
      return bracket(box)
    case 'polygon':
      return polygon(placesOf(settings, box).flat())
    case 'line':
      return polyline(placesOf(settings, box).flat())
    case 'freehand':
      return smooth(placesOf(settings, box))
  }
}

/** A head at a place, pointing away from `from`; `size` is in widths of the line. */
function head(form: HeadForm, [x, y]: Place, from: Place, { line, heads }: ShapeSettings): Node[] {
  if (form === 'none') return []
  const width = pointsToMm(line.widthPt)
  const size = heads.size * width
  const angle = Math.atan2(y - from[1], x - from[0])
  const [ux, uy] = [Math.cos(angle), Math.sin(angle)]
  const at = (along: number, across: number): Place => [
    x + along * ux - across * uy,
    y + along * uy + across * ux,
  ]
  const fill = solid(line.colour)
  const edge = stroke(line.colour, width, { cap: 'round', join: 'round' })
  switch (form) {
    case 'filled':
      return [path(polygon([...at(0, 0), ...at(-size, size * 0.36), ...at(-size, -size * 0.36)]), { fill })]
    case 'open':
      return [
        path(polyline([...at(-size, size * 0.4), ...at(0, 0), ...at(-size, -size * 0.4)]), {
          strokes: [edge],
        }),
      ]
    case 'dot':
      return [path(circle(x, y, size / 3), { fill })]
    case 'bar':
      return [path(polyline([...at(0, size * 0.4), ...at(0, -size * 0.4)]), { strokes: [edge] })]
  }
}

/** The line without what its heads cover, so that nothing sticks out at their tips. */
function shortened(places: Place[], { line, heads }: ShapeSettings): Place[] {
  const cut = 0.8 * heads.size * pointsToMm(line.widthPt)
  const out = places.map((place): Place => [...place])
  const pull = (tip: number, next: number): void => {
    const [dx, dy] = [out[next][0] - out[tip][0], out[next][1] - out[tip][1]]
    const length = Math.hypot(dx, dy)
    const by = Math.min(cut, 0.9 * length)
    if (length > 0) out[tip] = [out[tip][0] + (dx / length) * by, out[tip][1] + (dy / length) * by]
  }
  if (heads.start === 'filled') pull(0, 1)
  if (heads.end === 'filled') pull(out.length - 1, out.length - 2)
  return out
}

const penOf = ({ line }: ShapeSettings): Stroke => {
  const widthMm = pointsToMm(line.widthPt)
  return stroke(line.colour, widthMm, {
    cap: line.dash === 'dotted' || line.dash === 'dash and dot' ? 'round' : line.cap,
    join: line.join,
    dashMm: dashes[line.dash].map((n) => n * widthMm),
  })
}

/** Rectangles, ellipses, lines with heads, brackets, polygons and freehand lines. */
export const shape: PartType<ShapeSettings> = {
  label: 'Shape',
  group: 'ornament',
  settings: ShapeSettings,
  resize: 'free',
  keepsLabelsOff: false,
  styles: [],
  measure: (_, { width, height }) => ({ width, height }),
  compose(settings, box, _, { name }) {
    const { form, line, heads } = settings
    const strokes = line.widthPt > 0 ? [penOf(settings)] : []
    if (form === 'line' || form === 'freehand') {
      const places = placesOf(settings, box)
      const last = places.length - 1
      const cut = shortened(places, settings)
      const drawn = form === 'line' ? polyline(cut.flat()) : smooth(cut)
      return [
        path(drawn, { strokes }),
        ...head(heads.start, places[0], places[1], settings),
        ...head(heads.end, places[last], places[last - 1], settings),
      ]
    }
    if (form === 'bracket') return [path(outlineOf(settings, box), { strokes })]
    if (settings.fill.by !== 'inward')
      return [path(outlineOf(settings, box), { fill: paintOf(settings.fill, box), strokes })]
    const inset = (by: number) => outlineOf(settings, box, by)
    return [...filled(`${name} fill`, settings.fill, box, inset), path(inset(0), { strokes })]
  },
  leansOn: () => [],
  fonts: () => [],
  initial({ sheet }) {
    const { x, y } = innerBox(sheet)
    return { box: { x: x + 10, y: y + 10, width: 40, height: 25 }, settings: plainShape() }
  },
  refs: () => noRefs,
  remap: (settings) => settings,
}

/** The settings of a new shape. */
export const plainShape = (more: Partial<ShapeSettings> = {}): ShapeSettings => ({
  form: 'rectangle',
  points: [
    [0, 0],
    [1, 1],
  ],
  cornerMm: 0,
  fill: { by: 'none' },
  line: { colour: '#1b1b1b', widthPt: 0.75, dash: 'solid', cap: 'butt', join: 'miter' },
  heads: { start: 'none', end: 'none', size: 6 },
  ...more,
})
