/**
 * The geometry of a drawn thing, in paper millimetres.
 * - `rings`: straight-sided subpaths. `coords` holds x, y, x, y…; subpath `i` runs from vertex `starts[i]` up to
 *   `starts[i + 1]` (the last entry of `starts` is the number of vertices).
 * - `curves`: a list of verbs with their coordinates in order.
 */
export type Outline =
  | { kind: 'rings'; coords: Float64Array; starts: Uint32Array; closed: boolean }
  | { kind: 'curves'; verbs: Verb[]; coords: Float64Array }

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
  if (outline.kind === 'curves') return traceCurves(outline, sink)
  const { coords, starts, closed } = outline
  const end = Math.min(to, starts.length - 1)
  for (let ring = from; ring < end; ring++) {
    const first = starts[ring]
    const last = starts[ring + 1]
    if (last - first < 2) continue
    sink.moveTo(coords[2 * first], coords[2 * first + 1])
    for (let v = first + 1; v < last; v++) sink.lineTo(coords[2 * v], coords[2 * v + 1])
    if (closed) sink.closePath()
  }
}

function traceCurves({ verbs, coords }: Extract<Outline, { kind: 'curves' }>, sink: OutlineSink): void {
  let i = 0
  for (const verb of verbs) {
    if (verb === 'M') sink.moveTo(coords[i++], coords[i++])
    else if (verb === 'L') sink.lineTo(coords[i++], coords[i++])
    else if (verb === 'C') sink.bezierCurveTo(coords[i++], coords[i++], coords[i++], coords[i++], coords[i++], coords[i++])
    else sink.closePath()
  }
}

export type Box = { x: number; y: number; width: number; height: number }

/** The smallest box around an outline's vertices and control points, or null where there are none. */
export function outlineBox({ coords }: Outline): Box | null {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < coords.length; i += 2) {
    if (coords[i] < x0) x0 = coords[i]
    if (coords[i] > x1) x1 = coords[i]
    if (coords[i + 1] < y0) y0 = coords[i + 1]
    if (coords[i + 1] > y1) y1 = coords[i + 1]
  }
  return x1 < x0 ? null : { x: x0, y: y0, width: x1 - x0, height: y1 - y0 }
}

export function rectangle({ x, y, width, height }: Box): Outline {
  return polygon([x, y, x + width, y, x + width, y + height, x, y + height])
}

export const polygon = (...rings: number[][]): Outline => fromRings(rings, true)
export const polyline = (...lines: number[][]): Outline => fromRings(lines, false)

function fromRings(rings: number[][], closed: boolean): Outline {
  const starts = new Uint32Array(rings.length + 1)
  rings.forEach((ring, i) => (starts[i + 1] = starts[i] + ring.length / 2))
  return { kind: 'rings', coords: Float64Array.from(rings.flat()), starts, closed }
}

/** Four cubic curves that follow a circle to 0.03 % of its radius. */
export function circle(x: number, y: number, r: number): Outline {
  const k = 0.5522847498 * r
  return {
    kind: 'curves',
    verbs: ['M', 'C', 'C', 'C', 'C', 'Z'],
    coords: Float64Array.from([
      x + r, y, x + r, y + k, x + k, y + r, x, y + r, x - k, y + r, x - r, y + k, x - r, y,
      x - r, y - k, x - k, y - r, x, y - r, x + k, y - r, x + r, y - k, x + r, y,
    ]),
  }
}
