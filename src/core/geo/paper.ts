import type { Bounds } from '@/core/scene/bounds'

/** Projected metres to paper millimetres: paper = metres × mmPerMetre + shift. */
export type PaperTransform = { mmPerMetre: number; dx: number; dy: number }

/** The part of the paper that a map is seen through, mm. */
export type PaperWindow = { x: number; y: number; width: number; height: number }

export const toPaper = (to: PaperTransform, x: number, y: number): [number, number] => [
  x * to.mmPerMetre + to.dx,
  y * to.mmPerMetre + to.dy,
]

export const toMetres = (to: PaperTransform, x: number, y: number): [number, number] => [
  (x - to.dx) / to.mmPerMetre,
  (y - to.dy) / to.mmPerMetre,
]

/** One of a list of projected places, x and y by turns, on paper. */
export const placeOnPaper = (
  to: PaperTransform,
  coords: ArrayLike<number>,
  place: number,
): [number, number] => toPaper(to, coords[2 * place], coords[2 * place + 1])

export const windowBounds = ({ x, y, width, height }: PaperWindow, room = 0): Bounds => [
  x - room,
  y - room,
  x + width + room,
  y + height + room,
]

/** Whether a place lies in a window or no farther than `room` from it, mm. */
export const isNear = (window: PaperWindow, x: number, y: number, room = 0): boolean =>
  x > window.x - room &&
  y > window.y - room &&
  x < window.x + window.width + room &&
  y < window.y + window.height + room

/** Whether bounds touch a window or come as near as `room`, mm. */
export const reaches = ([x0, y0, x1, y1]: Bounds, window: PaperWindow, room = 0): boolean =>
  x1 >= window.x - room &&
  y1 >= window.y - room &&
  x0 <= window.x + window.width + room &&
  y0 <= window.y + window.height + room
