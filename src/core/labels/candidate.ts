import { emptyBounds, type Bounds } from '@/core/scene/bounds'
import type { Text } from '@/core/scene/scene'

/** A place where a label could stand. */
export type Candidate = {
  /** What it covers: one box, or one for each letter where it is turned or curved. */
  boxes: Bounds[]
  /** The middle of the label. */
  x: number
  y: number
  /** Whether the place is one of those that read best. */
  preferred: boolean
  /** From the label to what it names. */
  leader: [x0: number, y0: number, x1: number, y1: number] | null
  nodes: () => Text[]
}

/** The box around some boxes. */
export const around = (boxes: Bounds[]): Bounds =>
  boxes.reduce<Bounds>(
    ([x0, y0, x1, y1], b) => [Math.min(x0, b[0]), Math.min(y0, b[1]), Math.max(x1, b[2]), Math.max(y1, b[3])],
    emptyBounds(),
  )

/** What lies on the window's edge or outside is no place for a label. */
export const within = (
  box: Bounds,
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
): boolean => box[0] > x && box[1] > y && box[2] < x + width && box[3] < y + height

/** The box of a block of text with its middle at a place, hanging letters and a little air included. */
export function blockBox(
  {
    widthMm,
    heightMm,
    descentMm,
    sizeMm,
  }: { widthMm: number; heightMm: number; descentMm: number; sizeMm: number },
  x: number,
  y: number,
): Bounds {
  const air = 0.06 * sizeMm
  return [
    x - widthMm / 2 - air,
    y - heightMm / 2 - air,
    x + widthMm / 2 + air,
    y + heightMm / 2 + descentMm * 0.6 + air,
  ]
}
