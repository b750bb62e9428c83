import { cosineFromMiddle, type Frame, type Lobe, type Loop } from '@/core/projection/frame'
import type { Arcs } from '../geometry'
import { eastward } from './longitudes'
import { walkerOf, type Path } from './path'

/**
 * A piece of an arc that lies in one lobe: where it enters and leaves it along the lobe's edge, null where it
 * begins or ends with the arc.
 */
export type Piece = { lobe: number; arc: number; enters: number | null; leaves: number | null }

/** Arcs as they are made, in metres, with the lobe that each lies in and its two ends in the frame. */
export type Builder = { coords: number[]; starts: number[]; lobes: number[]; ends: number[] }

/** Ends the arc that is being made. */
export function endArc(builder: Builder, lobe: number, ends: readonly number[]): number {
  builder.starts.push(builder.coords.length / 2)
  builder.lobes.push(lobe)
  builder.ends.push(...ends)
  return builder.starts.length - 2
}

export const finished = ({ coords, starts }: Builder): Arcs => ({
  coords: Float64Array.from(coords),
  starts: Uint32Array.from(starts),
})

export function placeArcs(
  { coords, starts }: Arcs,
  { frame, loops }: { frame: Frame; loops: Loop[] },
  out: Builder,
): Map<number, Piece[]> {
  const walk = walkerOf(frame)
  const torn: number[] = []
  const path: Path = { xs: [], ys: [] }
  for (let arc = 0; arc + 1 < starts.length; arc++) {
    walk(coords, [starts[arc], starts[arc + 1]], path)
    const lobe = wholeIn(path, frame)
    if (lobe < 0) torn.push(arc)
    else
      for (let i = 0; i < path.xs.length; i++) {
        const [x, y] = frame.place(path.xs[i], path.ys[i], lobe)
        out.coords.push(x, y)
      }
    const end = path.xs.length - 1
    endArc(out, lobe, [path.xs[0], path.ys[0], path.xs[end], path.ys[end]])
  }
  const pieces = new Map<number, Piece[]>()
  for (const arc of torn) {
    walk(coords, [starts[arc], starts[arc + 1]], path)
    pieces.set(arc, cutPath(path, { frame, loops, builder: out }))
  }
  return pieces
}

/** The lobe in which a path lies whole; −1 where it is torn. */
export function wholeIn({ xs, ys }: Path, { domain }: Frame): number {
  if (domain.kind === 'cap') {
    const least = Math.cos((domain.degrees * Math.PI) / 180)
    for (let i = 0; i < xs.length; i++) if (cosineFromMiddle(xs[i], ys[i]) < least) return -1
    return 0
  }
  if (!xs.length) return 0
  for (let i = 1; i < xs.length; i++) {
    const step = xs[i] - xs[i - 1]
    if (step > 180 || step < -180) return -1
  }
  return domain.lobes.findIndex((lobe) => {
    for (let i = 0; i < xs.length; i++)
      if (xs[i] < lobe.west || xs[i] > lobe.east || ys[i] < lobe.south || ys[i] > lobe.north) return false
    return true
  })
}

/** The parts of an edge (shares of its length, 0 to 1) that lie in a lobe or cap. */
type Inside = { lobe: number; from: number; to: number; shift: number }

function cutPath(
  path: Path,
  { frame, loops, builder }: { frame: Frame; loops: Loop[]; builder: Builder },
): Piece[] {
  const { xs, ys } = path
  const pieces: Piece[] = []
  type Open = { places: [number, number][]; enters: number | null; reached: number }
  const open = new Map<number, Open>()
  const close = (lobe: number, leaves: number | null) => {
    const one = open.get(lobe)
    open.delete(lobe)
    if (!one || one.places.length < 2) return
    for (const [x, y] of one.places) builder.coords.push(...frame.place(x, y, lobe))
    const arc = endArc(builder, lobe, [...one.places[0], ...one.places[one.places.length - 1]])
    pieces.push({ lobe, arc, enters: one.enters, leaves })
  }
  const last = xs.length - 2
  for (let i = 0; i <= last; i++) {
    const span = eastward(xs[i], xs[i + 1])
    const rise = ys[i + 1] - ys[i]
    const along = (t: number, shift: number): [number, number] => [xs[i] + shift + span * t, ys[i] + rise * t]
    for (const { lobe, from, to, shift } of insidesOf(frame, [xs[i], ys[i]], [span, rise])) {
      const [start, end] = [along(from, shift), along(to, shift)]
      const before = open.get(lobe)
      if (before && before.reached === i && from === 0) {
        const [px, py] = before.places[before.places.length - 1]
        // A step over the date line of the frame leaves the lobe on one side and enters it on the other.
        if (Math.abs(px - start[0]) > 180) {
          close(lobe, loops[lobe].of(px, py))
          open.set(lobe, { places: [start], enters: loops[lobe].of(...start), reached: NaN })
        }
      } else {
        if (before) close(lobe, loops[lobe].of(...before.places[before.places.length - 1]))
        open.set(lobe, {
          places: [start],
          enters: from === 0 && i === 0 ? null : loops[lobe].of(...start),
          reached: NaN,
        })
      }
      const one = open.get(lobe) as Open
      one.places.push(end)
      one.reached = to === 1 ? i + 1 : NaN
      if (to < 1) close(lobe, loops[lobe].of(...end))
    }
    for (const [lobe, one] of open)
      if (one.reached !== i + 1) close(lobe, loops[lobe].of(...one.places[one.places.length - 1]))
  }
  for (const lobe of [...open.keys()]) close(lobe, null)
  return pieces
}

const least = 1e-12

/** Where an edge from a place of the frame lies in the domain, in the order in which it is run along. */
function insidesOf({ domain }: Frame, [x, y]: [number, number], [span, rise]: [number, number]): Inside[] {
  if (domain.kind === 'cap') return insideCap(domain.degrees, [x, y], [span, rise])
  // An edge over the date line of the frame is also one that begins a turn to the other side.
  const end = x + span
  const shifts = Math.abs(end) > 180 ? [0, -360 * Math.sign(end)] : [0]
  return domain.lobes
    .flatMap((lobe, l) =>
      shifts.flatMap((shift): Inside[] => {
        const part = insideLobe(lobe, [x + shift, y], [span, rise])
        return part ? [{ lobe: l, from: part[0], to: part[1], shift }] : []
      }),
    )
    .sort((a, b) => a.from - b.from)
}

/** The share of an edge inside a lobe (Liang and Barsky 1984), null where there is none. */
function insideLobe(
  { west, east, south, north }: Lobe,
  [x, y]: [number, number],
  [dx, dy]: [number, number],
): [number, number] | null {
  let [from, to] = [0, 1]
  for (const [step, room] of [
    [-dx, x - west],
    [dx, east - x],
    [-dy, y - south],
    [dy, north - y],
  ]) {
    if (step === 0) {
      if (room < 0) return null
      continue
    }
    const t = room / step
    if (step < 0) from = Math.max(from, t)
    else to = Math.min(to, t)
  }
  return to - from > least ? [from, to] : null
}

function insideCap(degrees: number, [x, y]: [number, number], [span, rise]: [number, number]): Inside[] {
  const limit = Math.cos((degrees * Math.PI) / 180)
  const height = (t: number) => cosineFromMiddle(x + span * t, y + rise * t) - limit
  const [a, b] = [height(0), height(1)]
  if (a < 0 && b < 0) return []
  if (a >= 0 && b >= 0) return [{ lobe: 0, from: 0, to: 1, shift: 0 }]
  let [low, high] = [0, 1]
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2
    if (height(middle) >= 0 === a >= 0) low = middle
    else high = middle
  }
  const at = (low + high) / 2
  const part = a >= 0 ? { from: 0, to: at } : { from: at, to: 1 }
  return part.to - part.from > least ? [{ lobe: 0, ...part, shift: 0 }] : []
}

/** The pieces of an arc as a reference runs along it. */
export function inOrder(pieces: Piece[], ref: number): Piece[] {
  if (ref >= 0) return pieces
  return [...pieces].reverse().map((piece) => ({ ...piece, enters: piece.leaves, leaves: piece.enters }))
}
