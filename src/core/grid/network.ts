import Flatbush from 'flatbush'
import { Heap } from './heap'
import { eachVertex, featureCount, type Geometry } from '@/core/geo/geometry'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { geodesicMetres } from '@/core/projection/ground'
import { createProjection } from '@/core/projection/projection'

/**
 * Lines as a graph: chains between junctions (ends and places where lines meet or cross). What a chain costs is its
 * length on the ground in metres, or in seconds where lines have a speed.
 */
export type Network = {
  junctions: number
  /** For each chain its two junctions and its cost. */
  from: Int32Array
  to: Int32Array
  cost: Float64Array
  /** Chains at each junction: those of junction `j` are `chains[starts[j]…starts[j + 1]]`. */
  starts: Uint32Array
  chains: Int32Array
  /** Straight pieces of chains: both ends in the plane, the chain, and the cost from its beginning to the first end. */
  pieces: { x0: number; y0: number; x1: number; y1: number; chain: number; before: number; cost: number }[]
  index: Flatbush
  /** Parts of the network that cannot be reached from each other. */
  parts: number
}

/** A place on the network: how far along a chain, and how far off the network, m. */
export type OnNetwork = { chain: number; along: number; off: number }

type Piece = { x0: number; y0: number; x1: number; y1: number; path: number; pace: number; cuts: number[] }

/**
 * @param lines whose vertices are brought into the plane
 * @param toleranceM ends that lie so near to another line are joined to it
 * @param paces for each feature, seconds (or what else it costs) for a metre; null counts metres. What is not above
 * zero is left out.
 */
export function networkOf(
  lines: Geometry,
  plane: ProjectionSpec,
  { toleranceM, paces }: { toleranceM: number; paces: Float64Array | null },
): Network | null {
  const pieces = piecesOf(lines, plane, paces)
  if (!pieces.length) return null
  cutPieces(pieces, toleranceM)
  const nodes = new Nodes(toleranceM)
  const edges: { a: number; b: number; x0: number; y0: number; x1: number; y1: number; cost: number }[] = []
  for (const { x0, y0, x1, y1, pace, cuts } of pieces) {
    const at = [...new Set([0, ...cuts.filter((t) => t > 0 && t < 1), 1])].sort((a, b) => a - b)
    for (let i = 0; i + 1 < at.length; i++) {
      const [ax, ay, bx, by] = [at[i], at[i + 1]].flatMap((t) => [x0 + (x1 - x0) * t, y0 + (y1 - y0) * t])
      const [a, b] = [nodes.at(ax, ay), nodes.at(bx, by)]
      if (a !== b)
        edges.push({ a, b, x0: ax, y0: ay, x1: bx, y1: by, cost: Math.hypot(bx - ax, by - ay) * pace })
    }
  }
  return edges.length ? chained(edges, nodes.count) : null
}

function piecesOf(lines: Geometry, plane: ProjectionSpec, paces: Float64Array | null): Piece[] {
  if (lines.kind !== 'lines') return []
  const projection = createProjection(plane)
  const { coords } = lines.arcs
  const pieces: Piece[] = []
  let path = 0
  for (let f = 0; f < featureCount(lines); f++) {
    const pace = paces ? paces[f] : 1
    if (!(pace > 0) || !Number.isFinite(pace)) continue
    for (let r = lines.featureStarts[f]; r < lines.featureStarts[f + 1]; r++, path++) {
      let [px, py] = [NaN, NaN]
      let last: [number, number] = [NaN, NaN]
      eachVertex(lines, r, (v) => {
        const [x, y] = projection.project(coords[2 * v], coords[2 * v + 1])
        const here: [number, number] = [coords[2 * v], coords[2 * v + 1]]
        if (Number.isFinite(px) && Number.isFinite(x) && (px !== x || py !== y)) {
          // What it costs goes by its length on the ground, not in the plane.
          const onGround = geodesicMetres(last, here) / Math.hypot(x - px, y - py)
          pieces.push({ x0: px, y0: py, x1: x, y1: y, path, pace: pace * onGround, cuts: [] })
        }
        px = x
        py = y
        last = here
      })
    }
  }
  return pieces
}

/** Notes on each piece where others cross it, and where an end of a path lies beside it. */
function cutPieces(pieces: Piece[], toleranceM: number): void {
  const index = indexOf(pieces, toleranceM)
  pieces.forEach((one, i) => {
    const [left, right] = [Math.min(one.x0, one.x1), Math.max(one.x0, one.x1)]
    const [top, bottom] = [Math.min(one.y0, one.y1), Math.max(one.y0, one.y1)]
    const ends = [
      ...(pieces[i - 1]?.path === one.path ? [] : [[one.x0, one.y0, 0]]),
      ...(pieces[i + 1]?.path === one.path ? [] : [[one.x1, one.y1, 1]]),
    ]
    for (const j of index.search(left, top, right, bottom)) {
      if (j === i) continue
      const other = pieces[j]
      if (j > i) cross(one, other)
      for (const [x, y] of ends) {
        const { t, distance } = nearestOn(other, x, y)
        if (distance <= toleranceM) other.cuts.push(t)
      }
    }
  })
}

function indexOf(pieces: Pick<Piece, 'x0' | 'y0' | 'x1' | 'y1'>[], room: number): Flatbush {
  const index = new Flatbush(pieces.length)
  for (const { x0, y0, x1, y1 } of pieces)
    index.add(
      Math.min(x0, x1) - room,
      Math.min(y0, y1) - room,
      Math.max(x0, x1) + room,
      Math.max(y0, y1) + room,
    )
  index.finish()
  return index
}

function cross(a: Piece, b: Piece): void {
  const [ax, ay, bx, by] = [a.x1 - a.x0, a.y1 - a.y0, b.x1 - b.x0, b.y1 - b.y0]
  const d = ax * by - ay * bx
  if (d === 0) return
  const t = ((b.x0 - a.x0) * by - (b.y0 - a.y0) * bx) / d
  const u = ((b.x0 - a.x0) * ay - (b.y0 - a.y0) * ax) / d
  if (t < 0 || t > 1 || u < 0 || u > 1) return
  a.cuts.push(t)
  b.cuts.push(u)
}

function nearestOn(
  { x0, y0, x1, y1 }: Pick<Piece, 'x0' | 'y0' | 'x1' | 'y1'>,
  x: number,
  y: number,
): { t: number; distance: number } {
  const [dx, dy] = [x1 - x0, y1 - y0]
  const t = Math.max(0, Math.min(1, ((x - x0) * dx + (y - y0) * dy) / (dx * dx + dy * dy)))
  return { t, distance: Math.hypot(x0 + dx * t - x, y0 + dy * t - y) }
}

/** Numbers for places; those nearer to each other than the tolerance are one. */
class Nodes {
  count = 0
  private readonly cells = new Map<string, [x: number, y: number, node: number][]>()

  constructor(private readonly tolerance: number) {}

  at(x: number, y: number): number {
    const size = Math.max(this.tolerance, 0.01)
    const [c, r] = [Math.floor(x / size), Math.floor(y / size)]
    for (let dc = -1; dc <= 1; dc++)
      for (let dr = -1; dr <= 1; dr++)
        for (const [ox, oy, node] of this.cells.get(`${c + dc} ${r + dr}`) ?? [])
          if (Math.hypot(ox - x, oy - y) <= size) return node
    const key = `${c} ${r}`
    const own = this.cells.get(key)
    if (own) own.push([x, y, this.count])
    else this.cells.set(key, [[x, y, this.count]])
    return this.count++
  }
}

type Edge = { a: number; b: number; x0: number; y0: number; x1: number; y1: number; cost: number }

/** Edges put together to chains between nodes at which not just two of them meet. */
function chained(edges: Edge[], count: number): Network {
  const at = Array.from({ length: count }, (): number[] => [])
  edges.forEach(({ a, b }, e) => {
    at[a].push(e)
    at[b].push(e)
  })
  const junctionOf = new Int32Array(count).fill(-1)
  let junctions = 0
  for (let node = 0; node < count; node++)
    if (at[node].length && at[node].length !== 2) junctionOf[node] = junctions++
  const used = new Uint8Array(edges.length)
  const [from, to, cost]: number[][] = [[], [], []]
  const pieces: Network['pieces'] = []
  const follow = (start: number, first: number): void => {
    let [node, e, before] = [start, first, 0]
    const chain = from.length
    for (;;) {
      used[e] = 1
      const edge = edges[e]
      const forward = edge.a === node
      pieces.push({
        ...(forward
          ? { x0: edge.x0, y0: edge.y0, x1: edge.x1, y1: edge.y1 }
          : { x0: edge.x1, y0: edge.y1, x1: edge.x0, y1: edge.y0 }),
        chain,
        before,
        cost: edge.cost,
      })
      before += edge.cost
      node = forward ? edge.b : edge.a
      if (junctionOf[node] >= 0) break
      const next = at[node].find((other) => !used[other])
      if (next === undefined) break
      e = next
    }
    if (junctionOf[node] < 0) junctionOf[node] = junctions++
    from.push(junctionOf[start])
    to.push(junctionOf[node])
    cost.push(before)
  }
  const starting = [...junctionOf.keys()].filter((node) => junctionOf[node] >= 0)
  for (const node of starting) for (const e of at[node]) if (!used[e]) follow(node, e)
  // What is left are rings without a junction: each begins anywhere.
  edges.forEach(({ a }, e) => {
    if (used[e]) return
    junctionOf[a] = junctions++
    follow(a, e)
  })
  return linked({ junctions, from, to, cost, pieces })
}

type Linked = { junctions: number; from: number[]; to: number[]; cost: number[]; pieces: Network['pieces'] }

function linked({ junctions, from, to, cost, pieces }: Linked): Network {
  const starts = new Uint32Array(junctions + 1)
  from.forEach((a, chain) => {
    starts[a + 1]++
    if (to[chain] !== a) starts[to[chain] + 1]++
  })
  for (let j = 0; j < junctions; j++) starts[j + 1] += starts[j]
  const filled = starts.slice()
  const chains = new Int32Array(starts[junctions])
  from.forEach((a, chain) => {
    chains[filled[a]++] = chain
    if (to[chain] !== a) chains[filled[to[chain]]++] = chain
  })
  const network = {
    junctions,
    from: Int32Array.from(from),
    to: Int32Array.from(to),
    cost: Float64Array.from(cost),
    starts,
    chains,
    pieces,
    index: indexOf(pieces, 0),
    parts: 0,
  }
  const seen = new Uint8Array(junctions)
  for (let j = 0; j < junctions; j++) {
    if (seen[j]) continue
    network.parts++
    const stack = [j]
    seen[j] = 1
    for (let node = stack.pop(); node !== undefined; node = stack.pop())
      for (let k = starts[node]; k < starts[node + 1]; k++) {
        const next = otherEnd(network, chains[k], node)
        if (seen[next]) continue
        seen[next] = 1
        stack.push(next)
      }
  }
  return network
}

const otherEnd = ({ from, to }: Pick<Network, 'from' | 'to'>, chain: number, node: number): number =>
  from[chain] === node ? to[chain] : from[chain]

/** The place of the network that is nearest to one of the plane. */
export function nearestPlace({ pieces, index }: Network, x: number, y: number): OnNetwork {
  let best = { chain: -1, along: 0, off: Infinity }
  const look = (i: number): void => {
    const { t, distance } = nearestOn(pieces[i], x, y)
    if (distance < best.off)
      best = { chain: pieces[i].chain, along: pieces[i].before + t * pieces[i].cost, off: distance }
  }
  index.neighbors(x, y, 4).forEach(look)
  // What lies nearer than the best of those has a box that comes so near, however many boxes do.
  if (best.off > 0) index.neighbors(x, y, Infinity, best.off).forEach(look)
  return best
}

/**
 * What it costs to get from a place of the network to each junction (Dijkstra 1959, with a heap): infinite where none
 * leads. Only junctions are gone through, however many vertices lie between them.
 * @param upTo costs above this are not looked for: they come out too high, or infinite
 */
export function costsFrom(
  network: Network,
  { chain, along }: Pick<OnNetwork, 'chain' | 'along'>,
  upTo = Infinity,
): Float64Array {
  const { junctions, from, to, cost, starts, chains } = network
  const costs = new Float64Array(junctions).fill(Infinity)
  const heap = new Heap()
  const reach = (node: number, at: number): void => {
    if (at >= costs[node]) return
    costs[node] = at
    heap.push(node, at)
  }
  reach(from[chain], along)
  reach(to[chain], cost[chain] - along)
  for (let next = heap.pop(); next; next = heap.pop()) {
    const [node, at] = next
    if (at > upTo) break
    if (at > costs[node]) continue
    for (let k = starts[node]; k < starts[node + 1]; k++)
      reach(otherEnd(network, chains[k], node), at + cost[chains[k]])
  }
  return costs
}

/** What it costs to get to a place of the network, given the costs to all junctions from another one. */
export function costTo(
  { from, to, cost }: Network,
  costs: Float64Array,
  source: Pick<OnNetwork, 'chain' | 'along'>,
  { chain, along }: Pick<OnNetwork, 'chain' | 'along'>,
): number {
  const over = Math.min(costs[from[chain]] + along, costs[to[chain]] + cost[chain] - along)
  return chain === source.chain ? Math.min(over, Math.abs(along - source.along)) : over
}
