import { Heap } from './heap'
import { costsFrom, type Network, type OnNetwork } from './network'
import type { Steps } from './steps'

/**
 * A network of which the junctions were taken out one after the other, the least important first, with shortcuts in
 * place of shortest ways that led through them (contraction hierarchies; Geisberger, Sanders, Schultes & Delling 2008).
 * Junctions are numbered by `rank` here, from the one taken out first; those from `core` on were left in.
 */
export type Hierarchy = {
  rank: Uint32Array
  core: number
  /** Ways from each junction up to more important ones: those of rank `r` are `starts[r]…starts[r + 1]`. */
  starts: Uint32Array
  to: Uint32Array
  cost: Float64Array
}

/** A junction that would need more shortcuts than this stays in: what is left is searched as it is. */
const mostNeighbours = 40
/** So many junctions are looked at for a way round before a shortcut is made, needed or not. */
const mostSettled = 30

/** Makes the hierarchy of a network, in pieces. */
export function* hierarchyOf(network: Network): Steps<Hierarchy> {
  const { junctions } = network
  const around = neighboursOf(network)
  const level = new Uint32Array(junctions)
  const search = new WaySearch(junctions)
  const worth = (node: number, shortcuts: unknown[]): number =>
    2 * shortcuts.length - around[node].to.length + 2 * level[node]
  const queue = new Heap()
  for (let node = 0; node < junctions; node++) {
    if (node % 500 === 499) yield (0.3 * node) / junctions
    queue.push(
      node,
      around[node].to.length > mostNeighbours ? Infinity : worth(node, search.shortcuts(around, node)),
    )
  }
  const order: number[] = []
  const left: number[] = []
  for (let next = queue.pop(); next; next = queue.pop()) {
    const [node, key] = next
    if (order.length % 200 === 199) yield 0.3 + (0.7 * order.length) / junctions
    if (around[node].to.length > mostNeighbours) {
      left.push(node)
      continue
    }
    const shortcuts = search.shortcuts(around, node)
    const now = worth(node, shortcuts)
    // What was taken out around it may have made it more important.
    if (now > key + 0.5 && queue.size) {
      queue.push(node, now)
      continue
    }
    for (const other of around[node].to) {
      part(around[other], node)
      level[other] = Math.max(level[other], level[node] + 1)
    }
    for (const [a, b, cost] of shortcuts) {
      join(around[a], b, cost)
      join(around[b], a, cost)
    }
    order.push(node)
  }
  // What lies around a junction when it is taken out stays as it was then: the ways up.
  return flattened([...order, ...left], order.length, around)
}

/** The junctions next to one, with the least cost to get there. */
type Around = { to: number[]; cost: number[] }

/** Notes a way to a junction, if it is the shortest so far. */
function join({ to, cost }: Around, other: number, own: number): void {
  const i = to.indexOf(other)
  if (i < 0) {
    to.push(other)
    cost.push(own)
  } else if (own < cost[i]) cost[i] = own
}

function part({ to, cost }: Around, other: number): void {
  const i = to.indexOf(other)
  if (i < 0) return
  to[i] = to[to.length - 1]
  cost[i] = cost[cost.length - 1]
  to.pop()
  cost.pop()
}

function neighboursOf({ junctions, from, to, cost }: Network): Around[] {
  const around = Array.from({ length: junctions }, (): Around => ({ to: [], cost: [] }))
  for (let chain = 0; chain < from.length; chain++) {
    const [a, b] = [from[chain], to[chain]]
    if (a === b) continue
    join(around[a], b, cost[chain])
    join(around[b], a, cost[chain])
  }
  return around
}

function flattened(order: number[], core: number, up: Around[]): Hierarchy {
  const rank = new Uint32Array(order.length)
  order.forEach((node, r) => (rank[node] = r))
  const starts = new Uint32Array(order.length + 1)
  order.forEach((node, r) => (starts[r + 1] = starts[r] + up[node].to.length))
  const to = new Uint32Array(starts[order.length])
  const cost = new Float64Array(starts[order.length])
  order.forEach((node, r) => {
    to.set(
      up[node].to.map((other) => rank[other]),
      starts[r],
    )
    cost.set(up[node].cost, starts[r])
  })
  return { rank, core, starts, to, cost }
}

/** Looks for ways between the neighbours of a junction that do not lead through it. */
class WaySearch {
  private readonly costs: Float64Array
  private readonly wanted: Uint8Array
  private touched: number[] = []

  constructor(junctions: number) {
    this.costs = new Float64Array(junctions).fill(Infinity)
    this.wanted = new Uint8Array(junctions)
  }

  /** Ways through a junction that are the shortest there are, as far as can be seen. */
  shortcuts(around: Around[], node: number): [a: number, b: number, cost: number][] {
    const { to, cost } = around[node]
    const found: [number, number, number][] = []
    for (let i = 0; i + 1 < to.length; i++) {
      let farthest = 0
      for (let j = i + 1; j < to.length; j++) {
        this.wanted[to[j]] = 1
        if (cost[j] > farthest) farthest = cost[j]
      }
      this.spread(around, { from: to[i], without: node, farthest: cost[i] + farthest }, to.length - 1 - i)
      for (let j = i + 1; j < to.length; j++) {
        this.wanted[to[j]] = 0
        if (this.costs[to[j]] > cost[i] + cost[j]) found.push([to[i], to[j], cost[i] + cost[j]])
      }
      for (const one of this.touched) this.costs[one] = Infinity
    }
    return found
  }

  private spread(
    around: Around[],
    { from, without, farthest }: { from: number; without: number; farthest: number },
    wanted: number,
  ): void {
    const { costs } = this
    this.touched = [from]
    costs[from] = 0
    const heap = new Heap()
    heap.push(from, 0)
    let [settled, open] = [0, wanted]
    for (let next = heap.pop(); next; next = heap.pop()) {
      const [at, cost] = next
      if (cost > costs[at]) continue
      if (this.wanted[at] && --open === 0) return
      if (cost > farthest || ++settled > mostSettled) return
      const { to, cost: steps } = around[at]
      for (let i = 0; i < to.length; i++) {
        const over = cost + steps[i]
        if (to[i] === without || over >= costs[to[i]]) continue
        if (costs[to[i]] === Infinity) this.touched.push(to[i])
        costs[to[i]] = over
        heap.push(to[i], over)
      }
    }
  }
}

/** Shortest ways among the junctions that were left in. */
function throughCore({ core, starts, to, cost }: Omit<Hierarchy, 'rank'>, byRank: Float64Array): void {
  const heap = new Heap()
  for (let r = core; r < byRank.length; r++) if (byRank[r] < Infinity) heap.push(r, byRank[r])
  for (let next = heap.pop(); next; next = heap.pop()) {
    const [r, at] = next
    if (at > byRank[r]) continue
    for (let k = starts[r]; k < starts[r + 1]; k++) {
      if (at + cost[k] >= byRank[to[k]]) continue
      byRank[to[k]] = at + cost[k]
      heap.push(to[k], byRank[to[k]])
    }
  }
}

/**
 * What it costs to get from a place of the network to each junction, as `costsFrom` tells it, by going up the hierarchy
 * and once down it, junction by junction (Delling, Goldberg, Nowatzyk & Werneck 2013): exact, and many times faster
 * where it is asked for many places.
 */
export function costsDown(
  { rank, core, starts, to, cost }: Hierarchy,
  network: Network,
  { chain, along }: Pick<OnNetwork, 'chain' | 'along'>,
): Float64Array {
  const count = rank.length
  const byRank = new Float64Array(count).fill(Infinity)
  const [a, b] = [rank[network.from[chain]], rank[network.to[chain]]]
  byRank[a] = along
  byRank[b] = Math.min(byRank[b], network.cost[chain] - along)
  for (let r = Math.min(a, b); r < core; r++) {
    if (byRank[r] === Infinity) continue
    for (let k = starts[r]; k < starts[r + 1]; k++) {
      const over = byRank[r] + cost[k]
      if (over < byRank[to[k]]) byRank[to[k]] = over
    }
  }
  throughCore({ core, starts, to, cost }, byRank)
  for (let r = core - 1; r >= 0; r--) {
    let least = byRank[r]
    for (let k = starts[r]; k < starts[r + 1]; k++) {
      const over = byRank[to[k]] + cost[k]
      if (over < least) least = over
    }
    byRank[r] = least
  }
  const costs = new Float64Array(count)
  for (let node = 0; node < count; node++) costs[node] = byRank[rank[node]]
  return costs
}

/** To make a hierarchy takes about as long as this many searches without one. */
const worthFrom = 700

const made = new WeakMap<Network, Hierarchy>()

/** How costs to all junctions are got from so many places: search by search, or by a hierarchy made once. */
export function* costsFor(
  network: Network,
  places: number,
): Steps<(source: Pick<OnNetwork, 'chain' | 'along'>) => Float64Array> {
  if (places < worthFrom) return (source) => costsFrom(network, source)
  const hierarchy = made.get(network) ?? (yield* hierarchyOf(network))
  made.set(network, hierarchy)
  return (source) => costsDown(hierarchy, network, source)
}
