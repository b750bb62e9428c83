import type { Position } from 'geojson'
import { edgesCross } from '@/core/geo/edges-cross'
import { stepOf } from '@/core/geo/sphere/unwrap'

/** Edges may lie near each other by the million without a crossing; no more pairs of boxes are looked at than this. */
const mostPairs = 40_000_000
/** In rings of so few edges every pair is looked at. */
const fewEdges = 24
/** So many edges that follow each other share a box of the tree. */
const leafEdges = 4

/**
 * Where the edges of a ring cross: edges `pairs[2 k]` and `pairs[2 k + 1]` (edge `i` leads from place `i` to the next)
 * at `places[k]`, longitudes counted on across the date line from the first place of the ring.
 */
export type Crossings = { count: number; pairs: number[]; places: Position[] }

/**
 * Where the edges of a ring cross, up to about `most` times. Neighbouring edges share an end
 * and do not count. Rings may step across the date line.
 */
export function selfCrossings(ring: Position[], most: number): Crossings {
  const n = ring.length - 1
  if (n < 4) return noCrossings()
  const path = unrolled(ring)
  return n <= fewEdges ? amongFew(path, n, most) : amongMany(path, n, most)
}

const noCrossings = (): Crossings => ({ count: 0, pairs: [], places: [] })

function note(found: Crossings, [i, j]: [number, number], place: Position): void {
  found.count++
  found.pairs.push(i, j)
  found.places.push(place)
}

/** Most rings of islands are short; every pair of their edges is looked at, without anything else made for it. */
function amongFew(path: Float64Array, n: number, most: number): Crossings {
  const found = noCrossings()
  for (let i = 0; i < n; i++)
    for (let j = i + 2; j < n && found.count < most; j++) {
      if ((i === 0 && j === n - 1) || !boxesMeet(path, i, j)) continue
      const place = edgesCross(path, i, j)
      if (!place) continue
      note(found, [i, j], place)
    }
  return found
}

function amongMany(path: Float64Array, n: number, most: number): Crossings {
  const tree = new BoxTree(path, n, most)
  tree.within(1)
  return tree.found
}

/** Lists of numbers that are used again for every ring: there may be thousands, and most are small. */
const rooms = new Map<'path' | 'boxes', Float64Array>()

/** Room for at least so many numbers, with whatever stood there before. */
function room(name: 'path' | 'boxes', size: number): Float64Array {
  const known = rooms.get(name)
  if (known && known.length >= size) return known
  const made = new Float64Array(2 * size)
  rooms.set(name, made)
  return made
}

/** Longitudes and latitudes by turns, longitudes counted on across the date line. */
function unrolled(ring: Position[]): Float64Array {
  const path = room('path', 2 * ring.length)
  let turned = 0
  for (let i = 0; i < ring.length; i++) {
    const lon = ring[i][0]
    if (i > 0) {
      const step = lon - ring[i - 1][0]
      // Whole turns are added, so that longitudes keep their figures.
      if (step >= 180 || step <= -180) turned += Math.round((stepOf(ring[i - 1], ring[i]) - step) / 360)
    }
    path[2 * i] = lon + 360 * turned
    path[2 * i + 1] = ring[i][1]
  }
  return path
}

/**
 * Boxes around edges that follow each other, by fours, then around two such boxes, and so on (after the strip trees of
 * Ballard 1981). What follows in a ring lies together on the ground and in memory, however rough the ring is: pairs of
 * edges that are looked at grow with the ring, not faster. The root is node 1, below node `k` lie `2k` and `2k + 1`,
 * leaves begin at `leaves`.
 */
class BoxTree {
  readonly found = noCrossings()
  private readonly leaves: number
  private readonly boxes: Float64Array
  private pairs = 0

  constructor(
    private readonly path: Float64Array,
    private readonly n: number,
    private readonly most: number,
  ) {
    this.leaves = 2 ** Math.ceil(Math.log2(Math.ceil(n / leafEdges)))
    this.boxes = room('boxes', 8 * this.leaves)
    for (let leaf = 0; leaf < this.leaves; leaf++) this.boundLeaf(leaf)
    for (let node = this.leaves - 1; node > 0; node--) this.boundNode(node)
  }

  /** Looks at the edges below a node among each other. */
  within(node: number): void {
    if (this.enough()) return
    if (node >= this.leaves) {
      const from = leafEdges * (node - this.leaves)
      const to = Math.min(this.n, from + leafEdges)
      for (let i = from; i < to; i++) for (let j = i + 2; j < to; j++) this.look(i, j)
      return
    }
    this.within(2 * node)
    this.within(2 * node + 1)
    if (this.meet(2 * node, 2 * node + 1)) this.between(2 * node, 2 * node + 1)
  }

  /** Looks at the edges below one node with those below a later one of the same level, the boxes of which meet. */
  private between(one: number, other: number): void {
    if (this.enough()) return
    if (one >= this.leaves) {
      const [a, b] = [leafEdges * (one - this.leaves), leafEdges * (other - this.leaves)]
      const [aEnd, bEnd] = [Math.min(this.n, a + leafEdges), Math.min(this.n, b + leafEdges)]
      for (let i = a; i < aEnd; i++)
        if (this.reaches(i, other)) for (let j = b; j < bEnd; j++) this.look(i, j)
      return
    }
    for (let child = 2 * one; child <= 2 * one + 1; child++) {
      if (!this.meet(child, other)) continue
      if (this.meet(child, 2 * other)) this.between(child, 2 * other)
      if (this.meet(child, 2 * other + 1)) this.between(child, 2 * other + 1)
    }
  }

  private look(i: number, j: number): void {
    if (j <= i + 1 || (i === 0 && j === this.n - 1) || !boxesMeet(this.path, i, j)) return
    const place = edgesCross(this.path, i, j)
    if (!place) return
    note(this.found, [i, j], place)
  }

  private enough(): boolean {
    return this.found.count >= this.most || this.pairs >= mostPairs
  }

  /** Whether an edge comes into the box of a node. */
  private reaches(edge: number, node: number): boolean {
    const { path, boxes } = this
    const [v, at] = [2 * edge, 4 * node]
    const [a, b] = [path[v], path[v + 2]]
    if ((a > b ? a : b) < boxes[at] || (a < b ? a : b) > boxes[at + 2]) return false
    const [c, d] = [path[v + 1], path[v + 3]]
    return (c > d ? c : d) >= boxes[at + 1] && (c < d ? c : d) <= boxes[at + 3]
  }

  private meet(one: number, other: number): boolean {
    this.pairs++
    const { boxes } = this
    const [a, b] = [4 * one, 4 * other]
    return (
      boxes[a] <= boxes[b + 2] &&
      boxes[b] <= boxes[a + 2] &&
      boxes[a + 1] <= boxes[b + 3] &&
      boxes[b + 1] <= boxes[a + 3]
    )
  }

  /** West, south, east and north of a leaf; one without edges meets nothing. */
  private boundLeaf(leaf: number): void {
    const { path, boxes } = this
    let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity]
    const from = leafEdges * leaf
    if (from < this.n)
      for (let v = from; v <= Math.min(this.n, from + leafEdges); v++) {
        const x = path[2 * v]
        const y = path[2 * v + 1]
        if (x < west) west = x
        if (x > east) east = x
        if (y < south) south = y
        if (y > north) north = y
      }
    const at = 4 * (this.leaves + leaf)
    boxes[at] = west
    boxes[at + 1] = south
    boxes[at + 2] = east
    boxes[at + 3] = north
  }

  private boundNode(node: number): void {
    const { boxes } = this
    const [at, a, b] = [4 * node, 8 * node, 8 * node + 4]
    for (let side = 0; side < 2; side++) {
      boxes[at + side] = boxes[a + side] < boxes[b + side] ? boxes[a + side] : boxes[b + side]
      boxes[at + side + 2] =
        boxes[a + side + 2] > boxes[b + side + 2] ? boxes[a + side + 2] : boxes[b + side + 2]
    }
  }
}

function boxesMeet(path: Float64Array, i: number, j: number): boolean {
  const [a, b, c, d] = [path[2 * i], path[2 * i + 2], path[2 * j], path[2 * j + 2]]
  if ((a > b ? a : b) < (c < d ? c : d) || (c > d ? c : d) < (a < b ? a : b)) return false
  const [e, f, g, h] = [path[2 * i + 1], path[2 * i + 3], path[2 * j + 1], path[2 * j + 3]]
  return (e > f ? e : f) >= (g < h ? g : h) && (g > h ? g : h) >= (e < f ? e : f)
}
