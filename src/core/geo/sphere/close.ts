import { marksAlong, type Frame, type Loop } from '@/core/projection/frame'
import type { Areas } from '../geometry'
import { endArc, inOrder, type Builder, type Piece } from './pieces'

export type Tearing = {
  frame: Frame
  loops: Loop[]
  builder: Builder
  /** Pieces of each arc that is torn; arcs that are whole are not listed. */
  torn: Map<number, Piece[]>
}

type Strand = { enters: number; leaves: number; refs: number[]; used: boolean }

type Closing = Tearing & { covers: (lobe: number) => boolean }

/** The rings of a torn polygon: its strands in each lobe, joined along the lobe's edge. */
export function closedRings(areas: Areas, [from, to]: [number, number], at: Closing): number[][] {
  const rings: number[][] = []
  at.loops.forEach((loop, lobe) => {
    const strands: Strand[] = []
    for (let r = from; r < to; r++) {
      const found = strandsIn(areas, r, { ...at, lobe })
      if (found.ring) rings.push(found.ring)
      strands.push(...found.strands)
    }
    if (strands.length) rings.push(...joinAround(strands, loop, { ...at, lobe }))
    else if (at.covers(lobe)) rings.push([edgeArc(loop, [0, loop.length], { ...at, lobe })])
  })
  return rings
}

type InLobe = Tearing & { lobe: number }

type Item = Pick<Piece, 'enters' | 'leaves'> & { ref: number; from: number[]; to: number[] }

/** The parts of a ring that lie in a lobe, in order. */
function itemsIn(areas: Areas, ring: number, { torn, lobe, builder }: InLobe): Item[] {
  const items: Item[] = []
  const add = (arc: number, back: boolean, { enters, leaves }: Pick<Piece, 'enters' | 'leaves'>) => {
    const [first, last] = [
      builder.ends.slice(4 * arc, 4 * arc + 2),
      builder.ends.slice(4 * arc + 2, 4 * arc + 4),
    ]
    items.push({
      enters,
      leaves,
      ref: back ? ~arc : arc,
      from: back ? last : first,
      to: back ? first : last,
    })
  }
  for (let k = areas.ringStarts[ring]; k < areas.ringStarts[ring + 1]; k++) {
    const ref = areas.refs[k]
    const arc = ref < 0 ? ~ref : ref
    const pieces = torn.get(arc)
    if (!pieces) {
      if (builder.lobes[arc] === lobe) add(arc, ref < 0, { enters: null, leaves: null })
    } else for (const piece of inOrder(pieces, ref)) if (piece.lobe === lobe) add(piece.arc, ref < 0, piece)
  }
  return items
}

const near = 1e-9

/** The strands of a ring in a lobe, or the whole ring where it never leaves it. */
function strandsIn(areas: Areas, ring: number, at: InLobe): { ring: number[] | null; strands: Strand[] } {
  const items = itemsIn(areas, ring, at)
  const loop = at.loops[at.lobe]
  const broken = (a: Item, b: Item): boolean =>
    a.leaves !== null ||
    b.enters !== null ||
    Math.abs(a.to[0] - b.from[0]) > near ||
    Math.abs(a.to[1] - b.from[1]) > near
  const itemAt = (i: number) => items[(i + items.length) % items.length]
  const first = items.findIndex((item, i) => broken(itemAt(i - 1), item))
  if (first < 0) return { ring: items.length ? items.map(({ ref }) => ref) : null, strands: [] }
  const strands: Strand[] = []
  for (let i = first; i < first + items.length; i++) {
    const item = itemAt(i)
    if (broken(itemAt(i - 1), item))
      strands.push({
        enters: item.enters ?? loop.of(item.from[0], item.from[1]),
        leaves: 0,
        refs: [],
        used: false,
      })
    const strand = strands[strands.length - 1]
    strand.refs.push(item.ref)
    strand.leaves = item.leaves ?? loop.of(item.to[0], item.to[1])
  }
  return { ring: null, strands }
}

/** Strands joined to rings: from where one leaves the lobe along its edge, inside on the left, to the next. */
function joinAround(strands: Strand[], loop: Loop, at: InLobe): number[][] {
  const byEntry = [...strands].sort((a, b) => a.enters - b.enters)
  const nextFrom = (s: number): Strand => {
    const after = byEntry.find((strand) => !strand.used && strand.enters >= s - near)
    return after ?? (byEntry.find((strand) => !strand.used) as Strand)
  }
  const rings: number[][] = []
  for (const first of strands) {
    if (first.used) continue
    const ring: number[] = []
    let strand = first
    do {
      ring.push(...strand.refs)
      const next = nextFrom(strand.leaves)
      next.used = true
      const ahead = next.enters - strand.leaves
      const to = next.enters + (ahead < -near ? loop.length : 0)
      ring.push(edgeArc(loop, [strand.leaves, to], { ...at, between: [ring[ring.length - 1], next.refs[0]] }))
      strand = next
    } while (strand !== first)
    rings.push(ring)
  }
  return rings
}

/** A run along the edge of a lobe as an arc of its own, bent like the edge, `between` two others. */
function edgeArc(
  loop: Loop,
  [from, to]: [number, number],
  { builder, frame, lobe, between }: InLobe & { between?: [before: number, after: number] },
): number {
  const begin = builder.coords.length
  let ends: number[] = []
  const marks = frame.flat ? cornersBetween(loop, from, to) : marksAlong(loop, from, to)
  for (const s of marks) {
    const [x, y] = loop.at(s)
    builder.coords.push(...frame.place(x, y, lobe))
    ends = ends.length ? [ends[0], ends[1], x, y] : [x, y, x, y]
  }
  if (between) {
    // Exactly where the strands end and begin, so that rings close.
    builder.coords.splice(begin, 2, ...endPlace(builder, between[0], true))
    builder.coords.splice(-2, 2, ...endPlace(builder, between[1], false))
  }
  return endArc(builder, lobe, ends)
}

/** The last or first place of an arc as a reference runs along it. */
function endPlace({ coords, starts }: Builder, ref: number, last: boolean): [number, number] {
  const arc = ref < 0 ? ~ref : ref
  const v = ref < 0 === last ? starts[arc] : starts[arc + 1] - 1
  return [coords[2 * v], coords[2 * v + 1]]
}

const cornersBetween = ({ corners, length }: Loop, from: number, to: number): number[] => [
  from,
  ...corners
    .flatMap((s) => [s, s + length])
    .filter((s) => s > from && s < to)
    .sort((a, b) => a - b),
  to,
]
