import type { Bounds } from '@/core/scene/bounds'
import { rotateAround, type Transform } from '@/core/scene/scene'
import type { PartBox } from './part'

/**
 * The box of a part on the page with its rotation: clockwise degrees around the middle of the box. Whoever asks
 * where a part lies, what it covers or how it is taken hold of, asks here.
 */
export type Frame = { box: PartBox; rotationDeg: number }

export type Point = [x: number, y: number]

export const middleOf = ({ x, y, width, height }: PartBox): Point => [x + width / 2, y + height / 2]

const turned = ([x, y]: Point, [cx, cy]: Point, deg: number): Point => {
  if (!deg) return [x, y]
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
  return [cx + (x - cx) * cos - (y - cy) * sin, cy + (x - cx) * sin + (y - cy) * cos]
}

/** A place of the unturned part on the page, mm. */
export const toPage = ({ box, rotationDeg }: Frame, place: Point): Point =>
  turned(place, middleOf(box), rotationDeg)

/** A place on the page as the unturned part sees it, mm. */
export const toLocal = ({ box, rotationDeg }: Frame, place: Point): Point =>
  turned(place, middleOf(box), -rotationDeg)

/** The four corners on the page, clockwise from the one that is top left before it is turned. */
export function cornersOf(frame: Frame): [Point, Point, Point, Point] {
  const { x, y, width, height } = frame.box
  return [
    toPage(frame, [x, y]),
    toPage(frame, [x + width, y]),
    toPage(frame, [x + width, y + height]),
    toPage(frame, [x, y + height]),
  ]
}

/** The upright box around a frame. */
export function boxAround(frame: Frame): PartBox {
  if (!frame.rotationDeg) return frame.box
  const corners = cornersOf(frame)
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)]
  const [x, y] = [Math.min(...xs), Math.min(...ys)]
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y }
}

export function boundsOf(frame: Frame, room = 0): Bounds {
  const { x, y, width, height } = boxAround(frame)
  return [x - room, y - room, x + width + room, y + height + room]
}

/** The upright box around several boxes; null for none. */
export function boxAroundAll(boxes: readonly PartBox[]): PartBox | null {
  if (!boxes.length) return null
  const [x, y] = [Math.min(...boxes.map((b) => b.x)), Math.min(...boxes.map((b) => b.y))]
  const right = Math.max(...boxes.map((b) => b.x + b.width))
  const bottom = Math.max(...boxes.map((b) => b.y + b.height))
  return { x, y, width: right - x, height: bottom - y }
}

/** Whether a place on the page lies in a frame or no farther than `room` from it, mm. */
export function holds(frame: Frame, place: Point, room = 0): boolean {
  const [x, y] = toLocal(frame, place)
  const { box } = frame
  return (
    x >= box.x - room && y >= box.y - room && x <= box.x + box.width + room && y <= box.y + box.height + room
  )
}

/** What turns a part that was composed upright into its place; null where it is not turned. */
export const frameTransform = ({ box, rotationDeg }: Frame): Transform | null =>
  rotationDeg ? rotateAround(rotationDeg, ...middleOf(box)) : null

/** The upright box that `other` takes up as seen from within `frame`, before that is turned. */
export function boxWithin(frame: Frame, other: Frame): PartBox {
  if (!frame.rotationDeg && !other.rotationDeg) return other.box
  const corners = cornersOf(other).map((corner) => toLocal(frame, corner))
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)]
  const [x, y] = [Math.min(...xs), Math.min(...ys)]
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y }
}

/**
 * A frame whose box became another one, as seen in its own unturned space, kept where it was on the page: what did
 * not move within the part does not move on the page, though the middle that it turns around did.
 */
export function reframed(frame: Frame, box: PartBox): PartBox {
  if (!frame.rotationDeg) return box
  const [mx, my] = toPage(frame, middleOf(box))
  return { ...box, x: mx - box.width / 2, y: my - box.height / 2 }
}

/** An angle in degrees, above −180 and at most 180, to a hundredth. */
export function tidyAngle(deg: number): number {
  const within = deg - 360 * Math.ceil((deg - 180) / 360)
  return Math.round(within * 100) / 100 || 0
}

/** Turns a frame around a place on the page, as the parts of a selection turn together. */
export function turnedAround(frame: Frame, [cx, cy]: Point, deg: number): Frame {
  const [mx, my] = turned(middleOf(frame.box), [cx, cy], deg)
  const { width, height } = frame.box
  return {
    box: { x: mx - width / 2, y: my - height / 2, width, height },
    rotationDeg: tidyAngle(frame.rotationDeg + deg),
  }
}
