import { emptyBounds, isEmpty, takeIn } from './bounds'
/** Coordinates × `scale` + (`dx`, `dy`) lie in the space of the node that is drawn. */
export type Place = { scale: number; dx: number; dy: number }

/**
 * The geometry of a drawn thing, in paper millimetres.
 * - `rings`: straight-sided subpaths. `coords` holds x, y, x, y…; subpath `i` runs from vertex `starts[i]` up
 * to
 *   `ends[i]`. Several outlines may share one list of coordinates and take different subpaths of it, each
 * putting
 *   it in its own place on the paper, so that a change of colours or of the view copies no vertex.
 * - `curves`: a list of verbs with their coordinates in order.
 * - `circle`: so that formats that know circles write one.
 * - `dots`: many discs of one size, by their middles; what is NaN is not drawn. They are filled with one plain colour
 *   and have no strokes, so that a million of them are drawn and written at once.
 */
export type Outline =
  | {
      kind: 'rings'
      coords: Float64Array
      starts: Uint32Array
      ends: Uint32Array
      closed: boolean
      place: Place
    }
  | { kind: 'curves'; verbs: Verb[]; coords: Float64Array }
  | Circle
  | Dots

export type Dots = { kind: 'dots'; coords: Float64Array; r: number; place: Place }
export type Circle = { kind: 'circle'; x: number; y: number; r: number }
export type Rings = Extract<Outline, { kind: 'rings' }>

/** Coordinates that are paper millimetres already. */
export const onPaper: Place = { scale: 1, dx: 0, dy: 0 }

/** move (2 numbers), line (2), cubic curve (6), close (0). */
export type Verb = 'M' | 'L' | 'C' | 'Z'

export interface OutlineSink {
  moveTo(x: number, y: number): void
  lineTo(x: number, y: number): void
  bezierCurveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void
  closePath(): void
}

/** Draws an outline into a sink; `from` and `to` choose a range of subpaths of a `rings` outline. */
export function trace(outline: Outline, sink: OutlineSink, from = 0, to = Infinity): void {
  if (outline.kind === 'circle') return traceCircle(outline, sink)
  if (outline.kind === 'curves') return traceCurves(outline, sink)
  if (outline.kind === 'dots') return traceDots(outline, sink)
  const { coords, starts, ends, closed } = outline
  const { scale, dx, dy } = outline.place
  const end = Math.min(to, starts.length)
  for (let ring = from; ring < end; ring++) {
    const first = starts[ring]
    const last = ends[ring]
    if (last - first < 2) continue
    sink.moveTo(coords[2 * first] * scale + dx, coords[2 * first + 1] * scale + dy)
    for (let v = first + 1; v < last; v++)
      sink.lineTo(coords[2 * v] * scale + dx, coords[2 * v + 1] * scale + dy)
    if (closed) sink.closePath()
  }
}

function traceCurves({ verbs, coords }: Extract<Outline, { kind: 'curves' }>, sink: OutlineSink): void {
  let i = 0
  for (const verb of verbs) {
    if (verb === 'M') sink.moveTo(coords[i++], coords[i++])
    else if (verb === 'L') sink.lineTo(coords[i++], coords[i++])
    else if (verb === 'C')
      sink.bezierCurveTo(coords[i++], coords[i++], coords[i++], coords[i++], coords[i++], coords[i++])
    else sink.closePath()
  }
}

export type Box = { x: number; y: number; width: number; height: number }

/** The smallest box around an outline's vertices and control points, or null where there are none. */
export function outlineBox(outline: Outline): Box | null {
  if (outline.kind === 'circle')
    return { x: outline.x - outline.r, y: outline.y - outline.r, width: 2 * outline.r, height: 2 * outline.r }
  const { coords } = outline
  const bounds = emptyBounds()
  if (outline.kind === 'curves' || outline.kind === 'dots') takeIn(bounds, coords)
  else outline.starts.forEach((start, ring) => takeIn(bounds, coords, start, outline.ends[ring]))
  if (isEmpty(bounds)) return null
  const [x0, y0, x1, y1] = bounds
  const { scale, dx, dy } = outline.kind === 'curves' ? onPaper : outline.place
  const box = { x: x0 * scale + dx, y: y0 * scale + dy, width: (x1 - x0) * scale, height: (y1 - y0) * scale }
  if (outline.kind !== 'dots') return box
  const { r } = outline
  return { x: box.x - r, y: box.y - r, width: box.width + 2 * r, height: box.height + 2 * r }
}

export function rectangle({ x, y, width, height }: Box): Outline {
  return polygon([x, y, x + width, y, x + width, y + height, x, y + height])
}

export const polygon = (...rings: number[][]): Outline => fromRings(rings, true)
export const polyline = (...lines: number[][]): Outline => fromRings(lines, false)

function fromRings(rings: number[][], closed: boolean): Outline {
  const limits = new Uint32Array(rings.length + 1)
  rings.forEach((ring, i) => (limits[i + 1] = limits[i] + ring.length / 2))
  return {
    kind: 'rings',
    coords: Float64Array.from(rings.flat()),
    ...subpaths(limits),
    closed,
    place: onPaper,
  }
}

/** Subpaths that follow each other: `limits` are where each begins, and last where the last one ends. */
export const subpaths = (limits: Uint32Array): Pick<Rings, 'starts' | 'ends'> => ({
  starts: limits.subarray(0, -1),
  ends: limits.subarray(1),
})

export const circle = (x: number, y: number, r: number): Circle => ({ kind: 'circle', x, y, r })

function traceDots({ coords, r, place: { scale, dx, dy } }: Dots, sink: OutlineSink): void {
  for (let i = 0; i < coords.length; i += 2) {
    const [x, y] = [coords[i] * scale + dx, coords[i + 1] * scale + dy]
    if (Number.isFinite(x) && Number.isFinite(y)) traceCircle({ kind: 'circle', x, y, r }, sink)
  }
}

/** Four cubic curves that follow a circle to 0.03 % of its radius. */
function traceCircle({ x, y, r }: Circle, sink: OutlineSink): void {
  const k = 0.5522847498 * r
  sink.moveTo(x + r, y)
  sink.bezierCurveTo(x + r, y + k, x + k, y + r, x, y + r)
  sink.bezierCurveTo(x - k, y + r, x - r, y + k, x - r, y)
  sink.bezierCurveTo(x - r, y - k, x - k, y - r, x, y - r)
  sink.bezierCurveTo(x + k, y - r, x + r, y - k, x + r, y)
  sink.closePath()
}
