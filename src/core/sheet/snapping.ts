import type { PartBox } from './part'
import { guideMm, type Sheet } from './spec'

/** What parts snap to, in page millimetres: lines, a grid, and the gaps between other parts. */
export type SnapTargets = { x: number[]; y: number[]; gridMm?: number | null; others?: PartBox[] }

/** A line that something snapped to, to be shown. */
export type SnapLine = { axis: 'x' | 'y'; at: number }

/** A distance between two parts that is being made, or that is as large as one being made. */
export type SnapGap = { axis: 'x' | 'y'; from: number; to: number; across: number }

/** Nothing to snap to. */
export const noTargets: SnapTargets = { x: [], y: [] }

/** The margins, the page's edges and centre, guides, grid, and the edges and centres of other parts. */
export function snapTargets(
  {
    page,
    margins,
    guides = { lines: [], locked: false, hidden: true },
    grid,
  }: Pick<Sheet, 'page' | 'margins'> & Partial<Pick<Sheet, 'guides' | 'grid'>>,
  others: PartBox[],
): SnapTargets {
  const lines = guides.hidden ? [] : guides.lines
  const at = (axis: 'x' | 'y') =>
    lines.filter((guide) => guide.axis === axis).map((guide) => guideMm(guide, page))
  return {
    x: [
      0,
      margins.left,
      page.widthMm / 2,
      page.widthMm - margins.right,
      page.widthMm,
      ...at('x'),
      ...others.flatMap((b) => [b.x, b.x + b.width / 2, b.x + b.width]),
    ],
    y: [
      0,
      margins.top,
      page.heightMm / 2,
      page.heightMm - margins.bottom,
      page.heightMm,
      ...at('y'),
      ...others.flatMap((b) => [b.y, b.y + b.height / 2, b.y + b.height]),
    ],
    gridMm: grid?.snaps ? grid.spacingMm : null,
    others,
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

/** The shift that brings the nearest of some places onto a grid, where that is within `tolerance`. */
function gridShift(places: number[], gridMm: number | null | undefined, tolerance: number) {
  if (!gridMm) return null
  const lines = places.map((place) => Math.round(place / gridMm) * gridMm)
  return nearestShift(places, lines, tolerance)
}

type Span = { start: number; end: number; across: [number, number] }

const spansOf = (boxes: PartBox[], axis: 'x' | 'y'): Span[] =>
  boxes.map(({ x, y, width, height }) =>
    axis === 'x'
      ? { start: x, end: x + width, across: [y, y + height] }
      : { start: y, end: y + height, across: [x, x + width] },
  )

/** A gap narrower than this is none that somebody made, mm. */
const leastGap = 0.5

/**
 * Where a box would stand at the same distance as others do: in the middle between two of them, or as far behind or
 * before one as that one is from its neighbour. Only those count that lie beside it.
 */
function equalGaps(box: PartBox, others: PartBox[], axis: 'x' | 'y'): { start: number; gaps: SnapGap[] }[] {
  const [own] = spansOf([box], axis)
  const size = own.end - own.start
  const beside = spansOf(others, axis)
    .filter(({ across }) => across[0] < own.across[1] && across[1] > own.across[0])
    .sort((a, b) => a.start - b.start)
  const across = (own.across[0] + own.across[1]) / 2
  const gap = (from: number, to: number): SnapGap => ({ axis, from, to, across })
  const places: { start: number; gaps: SnapGap[] }[] = []
  for (const [i, a] of beside.entries())
    for (const b of beside.slice(i + 1)) {
      const free = b.start - a.end
      if (free < leastGap) continue
      places.push(
        { start: b.end + free, gaps: [gap(a.end, b.start), gap(b.end, b.end + free)] },
        { start: a.start - free - size, gaps: [gap(a.start - free, a.start), gap(a.end, b.start)] },
      )
      const room = (free - size) / 2
      if (room >= leastGap)
        places.push({ start: a.end + room, gaps: [gap(a.end, a.end + room), gap(b.start - room, b.start)] })
    }
  return places
}

/**
 * A moved box shifted so that its nearest edge or centre lies on a target, or so that it stands at the same distance
 * as others do. Each axis snaps by itself.
 */
export function snapMove(
  box: PartBox,
  targets: SnapTargets,
  tolerance: number,
): { box: PartBox; lines: SnapLine[]; gaps: SnapGap[] } {
  const lines: SnapLine[] = []
  const gaps: SnapGap[] = []
  const shiftOf = (axis: 'x' | 'y'): number => {
    const [start, size] = axis === 'x' ? [box.x, box.width] : [box.y, box.height]
    const places = [start, start + size / 2, start + size]
    const snap = nearestShift(places, targets[axis], tolerance)
    const equal = equalGaps(box, targets.others ?? [], axis)
      .filter((one) => Math.abs(one.start - start) <= tolerance)
      .sort((p, q) => Math.abs(p.start - start) - Math.abs(q.start - start))[0]
    if (equal && (!snap || Math.abs(equal.start - start) < Math.abs(snap.shift) - 1e-9)) {
      gaps.push(...equal.gaps)
      return equal.start - start
    }
    const found = snap ?? gridShift([start, start + size], targets.gridMm, tolerance)
    if (found) lines.push({ axis, at: found.at })
    return found?.shift ?? 0
  }
  const [dx, dy] = [shiftOf('x'), shiftOf('y')]
  return { box: { ...box, x: box.x + dx, y: box.y + dy }, lines, gaps }
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
    const snap =
      nearestShift([edge], targets[axis], tolerance) ?? gridShift([edge], targets.gridMm, tolerance)
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
