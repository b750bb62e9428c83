import type { Arcs } from './geometry'

/**
 * Rings or paths one after the other: `coords` are longitudes and latitudes by turns, run `r` has the vertices from
 * `starts[r]` up to `starts[r + 1]`. A ring ends with its first vertex.
 */
export type Runs = Arcs & { closed: boolean }

/** Arcs that runs share: run `r` is made of `refs[refStarts[r]…refStarts[r + 1]]`, `~a` being arc `a` backwards. */
export type Shared = { arcs: Arcs; refs: Int32Array; refStarts: Uint32Array }

/**
 * Cuts runs where they part and gives each piece once, whichever run it is of and whichever way it is run along. Places
 * count as the same where they are equal in all figures. The method is that of TopoJSON (Bostock 2013): a vertex that
 * runs pass with other neighbours on one side than before is a junction, and so are the ends of paths; a ring begins at
 * its first junction, if it has one. Everything stays in typed lists, because borders of a million vertices are
 * ordinary.
 */
export function sharedArcs({ coords, starts, closed }: Runs): Shared {
  const places = placesOf(coords)
  const cuts: Cuts = { places, junctions: junctionsOf(places, starts, closed) }
  const found = new Pieces(places)
  const refs: number[] = []
  const refStarts = new Uint32Array(starts.length)
  for (let r = 0; r + 1 < starts.length; r++) {
    const [from, to] = [starts[r], starts[r + 1]]
    if (closed) cutRing(from, to - from - 1, cuts, (piece) => refs.push(found.add(piece)))
    else cutPath(from, to, cuts, (piece) => refs.push(found.add(piece)))
    refStarts[r + 1] = refs.length
  }
  return { arcs: found.arcs(coords), refs: Int32Array.from(refs), refStarts }
}

/** For each vertex the first one that lies on the same place. */
function placesOf(coords: Float64Array): Int32Array {
  const count = coords.length / 2
  // Zero has two signs, and one place.
  for (let i = 0; i < coords.length; i++) coords[i] += 0
  const words = new Int32Array(coords.buffer, coords.byteOffset, 2 * coords.length)
  let size = 16
  while (size < 2 * count) size *= 2
  const table = new Int32Array(size).fill(-1)
  const places = new Int32Array(count)
  for (let v = 0; v < count; v++) {
    let hash =
      Math.imul(words[4 * v], 0x9e3779b1) ^
      Math.imul(words[4 * v + 1], 0x85ebca6b) ^
      Math.imul(words[4 * v + 2], 0xc2b2ae35) ^
      Math.imul(words[4 * v + 3], 0x27d4eb2f)
    hash = Math.imul(hash ^ (hash >>> 15), 0x2c1b3c6d)
    let at = (hash ^ (hash >>> 13)) & (size - 1)
    while (table[at] >= 0) {
      const other = table[at]
      if (coords[2 * other] === coords[2 * v] && coords[2 * other + 1] === coords[2 * v + 1]) break
      at = (at + 1) & (size - 1)
    }
    if (table[at] < 0) table[at] = v
    places[v] = table[at]
  }
  return places
}

/** 1 for places at which runs part. */
function junctionsOf(places: Int32Array, starts: Uint32Array, closed: boolean): Uint8Array {
  const junctions = new Uint8Array(places.length)
  const left = new Int32Array(places.length).fill(-1)
  const right = new Int32Array(places.length)
  // A run that comes to a place a second time says nothing new of it.
  const seenBy = new Int32Array(places.length).fill(-1)
  const pass = (run: number, before: number, place: number, after: number) => {
    if (seenBy[place] === run) return
    seenBy[place] = run
    if (left[place] < 0) {
      left[place] = before
      right[place] = after
      return
    }
    const alike = left[place] === before && right[place] === after
    const turned = left[place] === after && right[place] === before
    if (!alike && !turned) junctions[place] = 1
  }
  for (let r = 0; r + 1 < starts.length; r++) {
    const [from, last] = [starts[r], starts[r + 1] - 1]
    if (last < from) continue
    for (let v = from + 1; v < last; v++) pass(r, places[v - 1], places[v], places[v + 1])
    if (closed && last > from) pass(r, places[last - 1], places[from], places[from + 1])
    else if (!closed) junctions[places[from]] = junctions[places[last]] = 1
  }
  return junctions
}

/**
 * A piece of a run: vertex `k` of it, 0 to `length`, is vertex `from + (begin + k) % turn` of all; of paths `turn` is
 * larger than any. `whole`: a ring without a junction, which may begin anywhere.
 */
type Piece = { from: number; begin: number; turn: number; length: number; whole: boolean }

/** The place of each vertex, and 1 for places at which runs are cut. */
type Cuts = { places: Int32Array; junctions: Uint8Array }

function cutRing(
  from: number,
  turn: number,
  { junctions, places }: Cuts,
  take: (piece: Piece) => void,
): void {
  if (turn < 1) return
  let first = 0
  while (first < turn && !junctions[places[from + first]]) first++
  if (first === turn) return take({ from, begin: 0, turn, length: turn, whole: true })
  let begin = 0
  for (let k = 1; k <= turn; k++)
    if (k === turn || junctions[places[from + ((first + k) % turn)]]) {
      take({ from, begin: first + begin, turn, length: k - begin, whole: false })
      begin = k
    }
}

function cutPath(from: number, to: number, { junctions, places }: Cuts, take: (piece: Piece) => void): void {
  let begin = from
  for (let v = from + 1; v < to; v++)
    if (v === to - 1 || junctions[places[v]]) {
      take({ from: begin, begin: 0, turn: Infinity, length: v - begin, whole: false })
      begin = v
    }
}

/** Pieces that were found, each once. */
class Pieces {
  private readonly pieces: Piece[] = []
  /** For the places of both ends, or the least place of a ring, the last piece that has them; before it the next. */
  private readonly last = new Map<number, number>()
  private readonly before: number[] = []

  constructor(private readonly places: Int32Array) {}

  /** The number of a piece, or what is not that number of one that runs the other way. */
  add(piece: Piece): number {
    const start = piece.whole ? this.leastOf(piece) : 0
    const [a, b] = [this.place(piece, start), this.place(piece, start + piece.length)]
    const key = Math.min(a, b) * this.places.length + Math.max(a, b)
    for (let other = this.last.get(key) ?? -1; other >= 0; other = this.before[other]) {
      const known = this.pieces[other]
      if (known.length !== piece.length || known.whole !== piece.whole) continue
      const begin = known.whole ? this.leastOf(known) : 0
      if (this.same(piece, start, known, begin)) return other
      if (this.turned(piece, start, known, begin)) return ~other
    }
    const number = this.pieces.push(piece) - 1
    this.before.push(this.last.get(key) ?? -1)
    this.last.set(key, number)
    return number
  }

  arcs(coords: Float64Array): Arcs {
    const starts = new Uint32Array(this.pieces.length + 1)
    this.pieces.forEach(({ length }, a) => (starts[a + 1] = starts[a] + length + 1))
    const out = new Float64Array(2 * starts[this.pieces.length])
    let at = 0
    for (const piece of this.pieces)
      for (let k = 0; k <= piece.length; k++) {
        const v = vertexOf(piece, k)
        out[at++] = coords[2 * v]
        out[at++] = coords[2 * v + 1]
      }
    return { coords: out, starts }
  }

  private place(piece: Piece, k: number): number {
    return this.places[vertexOf(piece, k)]
  }

  /** Where on a ring its least place is. */
  private leastOf(piece: Piece): number {
    let best = 0
    for (let k = 1; k < piece.length; k++) if (this.place(piece, k) < this.place(piece, best)) best = k
    return best
  }

  private same(a: Piece, startA: number, b: Piece, startB: number): boolean {
    for (let k = 0; k <= a.length; k++)
      if (this.place(a, startA + k) !== this.place(b, startB + k)) return false
    return true
  }

  private turned(a: Piece, startA: number, b: Piece, startB: number): boolean {
    for (let k = 0; k <= a.length; k++)
      if (this.place(a, startA + k) !== this.place(b, startB + b.length - k)) return false
    return true
  }
}

const vertexOf = ({ from, begin, turn }: Piece, k: number): number => {
  const step = begin + k
  return from + (step < turn ? step : step % turn)
}
