import { circle, polygon, rectangle, type Outline } from '@/core/scene/outline'
import { pictureOutline, unitOutline, type SymbolPicture } from './pictures'

export const shapes = ['circle', 'square', 'diamond', 'triangle', 'drop', 'bar', 'picture'] as const
/** Shapes that need nothing else to be drawn. */
export const plainShapes = ['circle', 'square', 'diamond', 'triangle', 'drop', 'bar'] as const
export type PlainShape = (typeof plainShapes)[number]
export type Shape = (typeof shapes)[number]

export const firstPicture: SymbolPicture = { from: 'set', id: 'book' }

export const fillRuleOf = (shape: Shape, picture: SymbolPicture): 'nonzero' | 'evenodd' =>
  shape === 'picture' ? unitOutline(picture).fillRule : 'nonzero'

export const shapeWords: Record<Shape, string> = {
  circle: 'circles',
  square: 'squares',
  diamond: 'diamonds',
  triangle: 'triangles',
  drop: 'drops',
  bar: 'bars',
  picture: 'pictures',
}

/**
 * How far a symbol reaches from its place, as shares of its size: left, up, right, down; and its area as a
 * share of size².
 */
export const extents: Record<
  Exclude<Shape, 'picture'>,
  { box: [number, number, number, number]; area: number }
> = {
  circle: { box: [0.5, 0.5, 0.5, 0.5], area: Math.PI / 4 },
  square: { box: [0.5, 0.5, 0.5, 0.5], area: 1 },
  diamond: { box: [0.5, 0.5, 0.5, 0.5], area: 0.5 },
  triangle: { box: [0.5, Math.sqrt(3) / 3, 0.5, Math.sqrt(3) / 6], area: Math.sqrt(3) / 4 },
  drop: { box: [0.31, 1, 0.31, 0], area: 0.4 },
  bar: { box: [0, 1, 0, 0], area: 0 },
}

/** How far a symbol of a size reaches from its place, mm. */
export function symbolReach(
  shape: Shape,
  sizeMm: number,
  barWidthMm: number,
  picture: SymbolPicture = firstPicture,
): { left: number; up: number; right: number; down: number } {
  if (shape === 'picture') {
    const half = (unitOutline(picture).width * sizeMm) / 2
    return { left: half, up: sizeMm / 2, right: half, down: sizeMm / 2 }
  }
  const [left, up, right, down] = extents[shape].box.map((share) => share * sizeMm)
  return shape === 'bar'
    ? { left: barWidthMm / 2, up, right: barWidthMm / 2, down }
    : { left, up, right, down }
}

/** The outline of a symbol at a place; a drop's tip and a bar's foot stand on it. */
export function symbolOutline(
  shape: Shape,
  x: number,
  {
    y,
    sizeMm,
    barWidthMm,
    picture = firstPicture,
  }: { y: number; sizeMm: number; barWidthMm: number; picture?: SymbolPicture },
): Outline {
  if (shape === 'picture') return pictureOutline(picture, x, y, sizeMm)
  const r = sizeMm / 2
  if (shape === 'circle') return circle(x, y, r)
  if (shape === 'square') return rectangle({ x: x - r, y: y - r, width: sizeMm, height: sizeMm })
  if (shape === 'diamond') return polygon([x, y - r, x + r, y, x, y + r, x - r, y])
  if (shape === 'bar')
    return rectangle({ x: x - barWidthMm / 2, y: y - sizeMm, width: barWidthMm, height: sizeMm })
  if (shape === 'triangle') {
    const h = (sizeMm * Math.sqrt(3)) / 2
    return polygon([x, y - (2 * h) / 3, x + r, y + h / 3, x - r, y + h / 3])
  }
  // A circle drawn out to a tip: of its height, the circle takes the upper part.
  const c = 0.31 * sizeMm
  const cy = y - sizeMm + c
  const k = 0.5522847498 * c
  return {
    kind: 'curves',
    verbs: ['M', 'C', 'C', 'C', 'C', 'Z'],
    coords: Float64Array.from([
      x,
      y,
      x,
      y - 0.26 * sizeMm,
      x + c,
      cy + 0.75 * c,
      x + c,
      cy,
      x + c,
      cy - k,
      x + k,
      cy - c,
      x,
      cy - c,
      x - k,
      cy - c,
      x - c,
      cy - k,
      x - c,
      cy,
      x - c,
      cy + 0.75 * c,
      x,
      y - 0.26 * sizeMm,
      x,
      y,
    ]),
  }
}
