import type { BlendMode, Colour, Paint, Stroke } from './paint'
import type { Box, Outline } from './outline'
import type { TextFont } from './fonts'

/** Glyphs of one font file in a line: `xMm` is the left end from the start of the line. */
export type GlyphRun = {
  file: string
  text: string
  xMm: number
  glyphs: { id: number; xMm: number; yMm: number }[]
}

/** Affine transform [a, b, c, d, e, f]: x' = a·x + c·y + e, y' = b·x + d·y + f. */
export type Transform = [number, number, number, number, number, number]

/**
 * Nodes under one name. `layer` marks a group that becomes a layer of its own in formats that have layers.
 * A group with a clip, an opacity under 1 or a blend mode is isolated: its children blend with each other
 * first. With a mask it is seen as far as the mask, which is drawn on black, is light: white shows all, black
 * nothing.
 */
export type Group = {
  type: 'group'
  id: string
  name: string
  layer: boolean
  opacity: number
  blend: BlendMode
  clip: Outline | null
  mask: Node[] | null
  transform: Transform | null
  children: Node[]
  /** What its texts say together, where they are set in pieces: letter by letter, or capitals of two sizes. */
  says?: string
}

/**
 * An outline that is filled and stroked. `features` tells which subpaths of a `rings` outline belong to which
 * feature, so that a writer of an editable format can make one object of each: feature `i` owns the subpaths
 * from `offsets[i]` up to `offsets[i + 1]`.
 */
export type Path = {
  type: 'path'
  outline: Outline
  fill: Paint | null
  fillRule: 'nonzero' | 'evenodd'
  strokes: Stroke[]
  features: { offsets: Uint32Array; names: string[] } | null
}

/**
 * One line of text with its glyphs already placed; (x, y) is the left end of the baseline, before rotation.
 * With `letters` each glyph stands by itself, its baseline's left end on paper and its turn given in the
 * order of the runs; (x, y) and the rotation are then zero.
 */
export type Text = {
  type: 'text'
  x: number
  y: number
  rotationDeg: number
  text: string
  font: TextFont
  sizeMm: number
  letterSpacingMm: number
  colour: Colour
  halo: { colour: Colour; widthMm: number } | null
  widthMm: number
  runs: GlyphRun[]
  letters?: { x: number; y: number; rotationDeg: number }[]
}

/** An encoded picture (PNG or JPEG) stretched to a box. */
export type Picture = { type: 'picture'; box: Box; mime: 'image/png' | 'image/jpeg'; bytes: Uint8Array }

/**
 * A grid of RGBA cells stretched to a box, rows from the top. `rgba` gives those of some rows, up to but without `to`:
 * large ones are painted band by band as they are asked for, so that no page is ever held whole.
 */
export type Raster = {
  type: 'raster'
  box: Box
  columns: number
  rows: number
  rgba: (from: number, to: number) => Uint8ClampedArray
  /**
   * Reckons its cells in pieces, saying how much is done (0 to 1), so that they are at hand when they are asked for;
   * missing where that is quick.
   */
  paint?: () => Generator<number, void, void>
  smooth: boolean
}

export type Node = Group | Path | Text | Picture | Raster

/** Everything to be seen on a page or map view, in paper millimetres from the top left corner. */
export type Scene = {
  widthMm: number
  heightMm: number
  background: Colour | null
  title: string
  author: string
  /** What is to be seen, in words. */
  description?: string
  children: Node[]
}

/** Cells that are at hand, for `Raster`. */
export const cellsAtHand =
  (rgba: Uint8ClampedArray, columns: number): Raster['rgba'] =>
  (from, to) =>
    rgba.subarray(4 * columns * from, 4 * columns * to)

export function group(
  id: string,
  children: Node[],
  more: Partial<Omit<Group, 'type' | 'id' | 'children'>> = {},
): Group {
  return {
    type: 'group',
    id,
    name: more.name ?? id,
    layer: false,
    opacity: 1,
    blend: 'normal',
    clip: null,
    mask: null,
    transform: null,
    ...more,
    children,
  }
}

export function path(outline: Outline, more: Partial<Omit<Path, 'type' | 'outline'>> = {}): Path {
  return { type: 'path', outline, fill: null, fillRule: 'nonzero', strokes: [], features: null, ...more }
}

/** Whether a group must be composited apart from what lies under it. */
export function needsCompositing(node: Group): boolean {
  return (
    node.opacity < 1 ||
    node.mask !== null ||
    node.blend !== 'normal' ||
    (node.clip !== null && node.children.some(hasBlend))
  )
}

function hasBlend(node: Node): boolean {
  if (node.type !== 'group') return false
  if (node.blend !== 'normal') return true
  return !needsCompositing(node) && node.children.some(hasBlend)
}

/** All nodes, parents before children, in drawing order. */
export function* walk(nodes: Node[]): Generator<Node> {
  for (const node of nodes) {
    yield node
    if (node.type === 'group') yield* walk(node.children)
  }
}

export const translate = (x: number, y: number): Transform => [1, 0, 0, 1, x, y]

/** Turns by degrees, clockwise on the page, around a point. */
export function rotateAround(deg: number, x: number, y: number): Transform {
  const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
  return [c, s, -s, c, x - c * x + s * y, y - s * x - c * y]
}
