import {
  boxAround,
  boxAroundAll,
  middleOf,
  reframed,
  tidyAngle,
  toLocal,
  turnedAround,
  type Frame,
  type Point,
} from '@/core/sheet/frame'
import type { PartBox } from '@/core/sheet/part'
import {
  noTargets,
  resizeBox,
  snapMove,
  snapTargets,
  type Handle,
  type SnapGap,
  type SnapLine,
  type SnapTargets,
} from '@/core/sheet/snapping'
import type { Part, Sheet } from '@/core/sheet/spec'
import type { FrameOf } from '../selecting'

/** What the pointer is doing with parts that it took hold of. All places are on the page, mm. */
export type Gesture =
  | { does: 'move'; parts: Part[]; start: Point; moved: boolean; copies: boolean; ids: string[] }
  | { does: 'resize'; part: Part; frame: Frame; handle: Handle; start: Point; moved: boolean }
  | { does: 'turn'; parts: Part[]; middle: Point; start: Point; moved: boolean }
  | { does: 'frame'; start: Point; now: Point; moved: boolean; before: string[] }

export type Shown = { lines: SnapLine[]; gaps: SnapGap[] }
export const nothingShown: Shown = { lines: [], gaps: [] }

type Snapping = { sheet: Sheet; frameOf: FrameOf; tolerance: number; on: boolean }

function targetsFor(parts: readonly Part[], { sheet, frameOf, on }: Snapping): SnapTargets {
  if (!on) return noTargets
  const held = new Set(parts.map(({ id }) => id))
  const others = sheet.parts.filter((part) => !held.has(part.id) && !part.hidden)
  return snapTargets(
    sheet,
    others.map((part) => boxAround(frameOf(part))),
  )
}

/** Kept to a hundredth of a millimetre, but for what stands exactly on something. */
const tidy = (mm: number): number => Math.round(mm * 100) / 100
const exact = (mm: number): number => Math.round(mm * 1e6) / 1e6

/** By how much parts are moved together, so that they snap as one. */
export function movedBy(
  parts: readonly Part[],
  [dx, dy]: Point,
  snapping: Snapping,
): { shift: Point; shown: Shown } {
  const box = boxAroundAll(parts.map((part) => boxAround(snapping.frameOf(part))))
  if (!box) return { shift: [0, 0], shown: nothingShown }
  const wished = { ...box, x: box.x + dx, y: box.y + dy }
  const { box: to, lines, gaps } = snapMove(wished, targetsFor(parts, snapping), snapping.tolerance)
  const along = (axis: 'x' | 'y'): number => {
    const snapped = to[axis] !== wished[axis]
    return exact((snapped ? to[axis] : tidy(to[axis])) - box[axis])
  }
  return { shift: [along('x'), along('y')], shown: { lines, gaps } }
}

/** The box of a part whose handle was pulled from one place to another. Turned parts snap to nothing. */
export function resizedTo(
  { part, frame, handle, start }: Extract<Gesture, { does: 'resize' }>,
  to: Point,
  snapping: Snapping,
): { box: PartBox; shown: Shown } {
  const [[x0, y0], [x1, y1]] = [toLocal(frame, start), toLocal(frame, to)]
  const targets = frame.rotationDeg ? noTargets : targetsFor([part], snapping)
  const { box, lines } = resizeBox(frame.box, handle, {
    dx: x1 - x0,
    dy: y1 - y0,
    targets,
    tolerance: snapping.tolerance,
  })
  const { x, y, width, height } = reframed(frame, box)
  return {
    box: { x: tidy(x), y: tidy(y), width: tidy(width), height: tidy(height) },
    shown: { lines, gaps: [] },
  }
}

/** How far around a middle one place lies from another, degrees clockwise; in steps of 15 on wish. */
export function turnBetween([mx, my]: Point, [x0, y0]: Point, [x1, y1]: Point): number {
  const angle = (x: number, y: number) => (Math.atan2(y - my, x - mx) * 180) / Math.PI
  return tidyAngle(angle(x1, y1) - angle(x0, y0))
}

/** Frames of parts turned together around a middle. `stepDeg` rounds where a part by itself comes to stand. */
export function turnedTo(
  { parts, middle, start }: Extract<Gesture, { does: 'turn' }>,
  to: Point,
  { frameOf, stepDeg }: { frameOf: FrameOf; stepDeg: number | null },
): { id: string; frame: Frame }[] {
  const raw = turnBetween(middle, start, to)
  const base = parts.length === 1 ? parts[0].rotationDeg : 0
  const whole =
    stepDeg === null ? Math.round((base + raw) * 10) / 10 : Math.round((base + raw) / stepDeg) * stepDeg
  return parts.map((part) => ({
    id: part.id,
    frame: turnedAround(frameOf(part), middle, whole - base),
  }))
}

/** The middle that parts turn around: that of the part, or of the box around all. */
export function turningMiddle(parts: readonly Part[], frameOf: FrameOf): Point {
  const boxes = parts.length === 1 ? [frameOf(parts[0]).box] : parts.map((part) => boxAround(frameOf(part)))
  const box = boxAroundAll(boxes)
  return box ? middleOf(box) : [0, 0]
}

/** The box between two places. */
export const boxBetween = ([x0, y0]: Point, [x1, y1]: Point): PartBox => ({
  x: Math.min(x0, x1),
  y: Math.min(y0, y1),
  width: Math.abs(x1 - x0),
  height: Math.abs(y1 - y0),
})
