import type { PartBox } from './part'
import type { Sheet } from './spec'

/** Lines that parts snap to, in page millimetres. */
export type SnapTargets = { x: number[]; y: number[] }

/** A line that something snapped to, to be shown. */
export type SnapLine = { axis: 'x' | 'y'; at: number }

/** The margins, the page's edges and centre, and the edges and centres of other parts. */
export function snapTargets(
  { page, margins }: Pick<Sheet, 'page' | 'margins'>,
  others: PartBox[],
): SnapTargets {
  return {
    x: [
      0,
      margins.left,
      page.widthMm / 2,
      page.widthMm - margins.right,
      page.widthMm,
      ...others.flatMap((b) => [b.x, b.x + b.width / 2, b.x + b.width]),
    ],
    y: [
      0,
      margins.top,
      page.heightMm / 2,
      page.heightMm - margins.bottom,
      page.heightMm,
      ...others.flatMap((b) => [b.y, b.y + b.height / 2, b.y + b.height]),
    ],
  }
}

/** The nearest target within `tolerance` of one of the places, as a shift; null where none is near. */
function nearestShift(
  places: number[],
  targets: number[],
  tolerance: number,
): { shift: number; at: number } | null {
  let best: { shift: number; at: number } | null = null
  for (const place of places)
    for (const at of targets) {
      const shift = at - place
      if (Math.abs(shift) <= tolerance && (!best || Math.abs(shift) < Math.abs(best.shift)))
        best = { shift, at }
    }
  return best
}

/** A moved box shifted so that its nearest edge or centre lies on a target. Each axis snaps by itself. */
export function snapMove(
  box: PartBox,
  targets: SnapTargets,
  tolerance: number,
): { box: PartBox; lines: SnapLine[] } {
  const x = nearestShift([box.x, box.x + box.width / 2, box.x + box.width], targets.x, tolerance)
  const y = nearestShift([box.y, box.y + box.height / 2, box.y + box.height], targets.y, tolerance)
  const lines: SnapLine[] = []
  if (x) lines.push({ axis: 'x', at: x.at })
  if (y) lines.push({ axis: 'y', at: y.at })
  return { box: { ...box, x: box.x + (x?.shift ?? 0), y: box.y + (y?.shift ?? 0) }, lines }
}

/** Which edges a handle pulls: −1 left or top, 1 right or bottom, 0 neither. */
export type Handle = { x: -1 | 0 | 1; y: -1 | 0 | 1 }

/** Millimetres below which nothing can be taken hold of. */
const smallest = 4

/**
 * A box pulled at a handle by (dx, dy), its moving edges snapped, never smaller than 4 mm; the other edges
 * stay.
 */
export function resizeBox(
  box: PartBox,
  handle: Handle,
  { dx, dy, targets, tolerance }: { dx: number; dy: number; targets: SnapTargets; tolerance: number },
): { box: PartBox; lines: SnapLine[] } {
  const lines: SnapLine[] = []
  const pull = (axis: 'x' | 'y', [start, size]: [number, number], by: number): [number, number] => {
    const side = handle[axis]
    if (side === 0) return [start, size]
    const edge = (side === 1 ? start + size : start) + by
    const snap = nearestShift([edge], targets[axis], tolerance)
    if (snap) lines.push({ axis, at: snap.at })
    const moved = snap ? snap.at : edge
    return side === 1
      ? [start, Math.max(smallest, moved - start)]
      : [Math.min(moved, start + size - smallest), Math.max(smallest, start + size - moved)]
  }
  const [x, width] = pull('x', [box.x, box.width], dx)
  const [y, height] = pull('y', [box.y, box.height], dy)
  return { box: { x, y, width, height }, lines }
}
