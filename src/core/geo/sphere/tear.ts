import {
  cosineFromMiddle,
  loopsOf,
  marksAlong,
  type Frame,
  type Lobe,
  type Loop,
} from '@/core/projection/frame'
import { featureAt } from '../feature-at'
import { featureCount, type Arcs, type Areas, type Lines } from '../geometry'
import { eastward } from './longitudes'
import { holdsNorthPole, isWholeGlobe, polygonHolds } from './rings'

/**
 * Edges are straight in longitude and latitude (RFC 7946, section 3.1.1) and so mostly bent on the map: longer ones
 * are cut into steps of so many degrees, and into as many that none lies farther off than so many metres.
 */
const stepDegrees = 0.5
const toleranceMetres = 3
/** Shorter edges are straight enough, except on the far side of a cap, where all is stretched; degrees. */
const straightDegrees = { near: 0.1, far: 0.004 }
const mostSteps = 512

/**
 * A piece of an arc that lies in one lobe: where it enters and leaves it along the lobe's edge, null where it
 * begins or ends with the arc.
 */
type Piece = { lobe: number; arc: number; enters: number | null; leaves: number | null }

/** Arcs as they are made, in metres, with the lobe that each lies in and its two ends in the frame. */
type Builder = { coords: number[]; starts: number[]; lobes: number[]; ends: number[] }

/** Ends the arc that is being made. */
function endArc(builder: Builder, lobe: number, ends: readonly number[]): number {
  builder.starts.push(builder.coords.length / 2)
  builder.lobes.push(lobe)
  builder.ends.push(...ends)
  return builder.starts.length - 2
}

/**
 * A geometry as a frame shows it, in metres. Arcs that the edge of its domain does not cross are shared as before
 * and have the same numbers; those that it crosses are empty, and their pieces follow as arcs of their own,
 * shared by both neighbours. Areas that are torn are closed along the edge; arcs from `cutFrom` on run there.
 * @see the domains of `Frame`
 */
export function tearGeometry<G extends Areas | Lines>(geometry: G, frame: Frame): G {
  const loops = loopsOf(frame.domain)
  const builder: Builder = { coords: [], starts: [0], lobes: [], ends: [] }
  const torn = placeArcs(geometry.arcs, { frame, loops }, builder)
  const at = { frame, loops, builder, torn }
  return (geometry.kind === 'areas' ? tearAreas(geometry, at) : tearLines(geometry, at)) as G
}

type Tearing = {
  frame: Frame
  loops: Loop[]
  builder: Builder
  /** Pieces of each arc that is torn; arcs that are whole are not listed. */
  torn: Map<number, Piece[]>
}

const finished = ({ coords, starts }: Builder): Arcs => ({
  coords: Float64Array.from(coords),
  starts: Uint32Array.from(starts),
})

/** The arcs in metres where none of them is torn and all lie in one lobe, else null. */
export function placeWhole({ coords, starts }: Arcs, frame: Frame): Arcs | null {
  const walk = walkerOf(frame)
  const path: Path = { xs: [], ys: [] }
  const builder: Builder = { coords: [], starts: [0], lobes: [], ends: [] }
  for (let arc = 0; arc + 1 < starts.length; arc++) {
    walk(coords, [starts[arc], starts[arc + 1]], path)
    const lobe = wholeIn(path, frame)
    if (lobe < 0 || lobe !== (builder.lobes[0] ?? lobe)) return null
    for (let i = 0; i < path.xs.length; i++) {
      const [x, y] = frame.place(path.xs[i], path.ys[i], lobe)
      builder.coords.push(x, y)
    }
    endArc(builder, lobe, [])
  }
  return finished(builder)
}

/** Whether an area may reach all round the edge of a frame without a border of its own there. */
export function reachesRound(areas: Areas, frame: Frame): boolean {
  if (frame.domain.kind === 'cap')
    return loopsOf(frame.domain).some((loop) => featureAt(areas, ...frame.toDegrees(...loop.at(0))) >= 0)
  for (let p = 0; p + 1 < areas.polygonStarts.length; p++)
    if (areas.polygonStarts[p] < areas.polygonStarts[p + 1] && isWholeGlobe(areas, areas.polygonStarts[p]))
      return true
  return false
}

function placeArcs(
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

/** Places of a frame. */
type Path = { xs: number[]; ys: number[] }

/** Fills a path with the vertices of an arc, as the frame sees them, long edges bent. */
function walkerOf(
  frame: Frame,
): (coords: Float64Array, range: [from: number, to: number], path: Path) => void {
  const cap = frame.domain.kind === 'cap'
  return (coords, [from, to], path) => {
    const { xs, ys } = path
    xs.length = ys.length = 0
    for (let v = from; v < to; v++) {
      const [lon, lat] = [coords[2 * v], coords[2 * v + 1]]
      const [x, y] = frame.toFrame(lon, lat)
      if (v > from) {
        const [lon0, lat0] = [coords[2 * v - 2], coords[2 * v - 1]]
        const span = eastward(lon0, lon)
        const size = Math.max(Math.abs(span), Math.abs(lat - lat0))
        const far = cap && cosineFromMiddle(x, y) < -0.6
        if (!frame.flat && size > (far ? straightDegrees.far : straightDegrees.near)) {
          const before: [number, number] = [xs[xs.length - 1], ys[ys.length - 1]]
          const middle = frame.toFrame(lon0 + span / 2, (lat0 + lat) / 2)
          const steps = Math.max(size / stepDegrees, bend(frame, before, middle, [x, y]))
          for (let s = 1; s < steps; s++) {
            const share = s / Math.ceil(steps)
            const [px, py] = frame.toFrame(lon0 + span * share, lat0 + (lat - lat0) * share)
            xs.push(px)
            ys.push(py)
          }
        }
      }
      xs.push(x)
      ys.push(y)
    }
  }
}

/** Into how many steps an edge has to be cut: what it lies off the straight line falls with their square. */
function bend(frame: Frame, from: [number, number], middle: [number, number], to: [number, number]): number {
  const { domain } = frame
  // What lies beyond a horizon is not drawn, and its formula may run to infinity there.
  if (domain.kind === 'cap') {
    const least = Math.cos((domain.degrees * Math.PI) / 180)
    if (cosineFromMiddle(...from) < least || cosineFromMiddle(...to) < least) return 1
  }
  const lobe = lobeAt(frame, middle)
  const [ax, ay] = frame.place(...from, lobe)
  const [bx, by] = frame.place(...to, lobe)
  const [mx, my] = frame.place(...middle, lobe)
  const off = Math.hypot(mx - (ax + bx) / 2, my - (ay + by) / 2)
  // About a pole, formulas bend unevenly.
  const more = Math.abs(middle[1]) > 80 ? 4 : 1
  return off * more > toleranceMetres ? Math.min(mostSteps, more * Math.sqrt(off / toleranceMetres)) : 1
}

function lobeAt({ domain }: Frame, [x, y]: [number, number]): number {
  if (domain.kind === 'cap' || domain.lobes.length === 1) return 0
  return Math.max(
    0,
    domain.lobes.findIndex(
      ({ west, east, south, north }) => x >= west && x <= east && y >= south && y <= north,
    ),
  )
}

/** The lobe in which a path lies whole; −1 where it is torn. */
function wholeIn({ xs, ys }: Path, { domain }: Frame): number {
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

function tearLines(geometry: Lines, { builder, torn }: Tearing): Lines {
  const refs: number[] = []
  const ringStarts = [0]
  const featureStarts = new Uint32Array(geometry.featureStarts.length)
  for (let f = 0; f < featureCount(geometry); f++) {
    for (let r = geometry.featureStarts[f]; r < geometry.featureStarts[f + 1]; r++) {
      const end = () => {
        if (refs.length > ringStarts[ringStarts.length - 1]) ringStarts.push(refs.length)
      }
      for (let k = geometry.ringStarts[r]; k < geometry.ringStarts[r + 1]; k++) {
        const ref = geometry.refs[k]
        const pieces = torn.get(ref < 0 ? ~ref : ref)
        if (!pieces) {
          refs.push(ref)
          continue
        }
        for (const piece of inOrder(pieces, ref)) {
          if (piece.enters !== null) end()
          refs.push(ref < 0 ? ~piece.arc : piece.arc)
          if (piece.leaves !== null) end()
        }
        if (!pieces.length) end()
      }
      end()
    }
    featureStarts[f + 1] = ringStarts.length - 1
  }
  return {
    kind: 'lines',
    arcs: finished(builder),
    refs: Int32Array.from(refs),
    ringStarts: Uint32Array.from(ringStarts),
    featureStarts,
  }
}

/** The pieces of an arc as a reference runs along it. */
function inOrder(pieces: Piece[], ref: number): Piece[] {
  if (ref >= 0) return pieces
  return [...pieces].reverse().map((piece) => ({ ...piece, enters: piece.leaves, leaves: piece.enters }))
}

function tearAreas(areas: Areas, at: Tearing): Areas {
  const { builder, loops, frame } = at
  const cutFrom = builder.starts.length - 1
  const refs: number[] = []
  const ringStarts = [0]
  const polygonStarts = [0]
  const featureStarts = new Uint32Array(areas.featureStarts.length)
  const lobeOf = (ref: number): number => builder.lobes[ref < 0 ? ~ref : ref]
  // A place on the edge of every lobe, to see what covers a lobe that no border enters.
  const probes = loops.map((loop) => frame.toDegrees(...loop.at(loop.length * 0.1234)))
  for (let f = 0; f < featureCount(areas); f++) {
    for (let p = areas.featureStarts[f]; p < areas.featureStarts[f + 1]; p++) {
      // The frame of the whole globe is no line: every lobe is inside, but for holes.
      const [first, to] = [areas.polygonStarts[p], areas.polygonStarts[p + 1]]
      const from = first < to && isWholeGlobe(areas, first) ? first + 1 : first
      const own = areas.refs.subarray(areas.ringStarts[from], areas.ringStarts[to])
      const north = holdsNorthPole(areas, p)
      const covers = (l: number) => polygonHolds(areas, p, probes[l], north)
      const lobe = own.length ? lobeOf(own[0]) : 0
      const isWhole = lobe >= 0 && own.every((ref) => lobeOf(ref) === lobe)
      if (isWhole && !((mayCover(frame) || north) && loops.some((_, l) => covers(l)))) {
        for (let r = from; r < to; r++) {
          for (let k = areas.ringStarts[r]; k < areas.ringStarts[r + 1]; k++) refs.push(areas.refs[k])
          ringStarts.push(refs.length)
        }
      } else
        for (const ring of closedRings(areas, [from, to], { ...at, covers })) {
          for (const ref of ring) refs.push(ref)
          ringStarts.push(refs.length)
        }
      if (ringStarts.length - 1 > polygonStarts[polygonStarts.length - 1])
        polygonStarts.push(ringStarts.length - 1)
    }
    featureStarts[f + 1] = polygonStarts.length - 1
  }
  return {
    kind: 'areas',
    arcs: finished(builder),
    refs: Int32Array.from(refs),
    ringStarts: Uint32Array.from(ringStarts),
    polygonStarts: Uint32Array.from(polygonStarts),
    featureStarts,
    cutFrom,
  }
}

/** Whether an area without a border on the edge of the domain may cover all of it; one lobe has the poles on it. */
const mayCover = ({ domain }: Frame): boolean => domain.kind === 'cap' || domain.lobes.length > 1

type Strand = { enters: number; leaves: number; refs: number[]; used: boolean }

type Closing = Tearing & { covers: (lobe: number) => boolean }

/** The rings of a torn polygon: its strands in each lobe, joined along the lobe's edge. */
function closedRings(areas: Areas, [from, to]: [number, number], at: Closing): number[][] {
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
