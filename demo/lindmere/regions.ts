import type { Land } from './land'
import type { Km } from './mesh'
import type { Random } from './random'

/**
 * Districts as labels of cells. Seeds are dealt out island by island, more of them where people live; each
 * grows over its island at a pace of its own, so that sizes differ widely. Small islands go to the nearest
 * district.
 */
export function growDistricts(
  { mesh, island, islands, townness }: Land,
  random: Random,
  count: number,
): { labels: Int32Array; seeds: number[] } {
  const large = islands.filter((cells) => cells.length >= 12)
  const appeal = (cell: number) => 0.06 + townness(mesh.sites[cell]) ** 1.6
  const weights = large.map((cells) => cells.reduce((sum, cell) => sum + appeal(cell), 0))
  const total = weights.reduce((a, b) => a + b, 0)
  const shares = weights.map((w) => Math.max(1, Math.floor((count * w) / total)))
  shares[0] += count - shares.reduce((a, b) => a + b, 0)
  const seeds = large.flatMap((cells, i) => spread(cells, shares[i], { appeal, sites: mesh.sites, random }))
  const labels = new Int32Array(mesh.sites.length).fill(-1)
  grow(mesh.neighbours, (cell) => island[cell] >= 0, {
    labels,
    seeds,
    pace: seeds.map(() => 0.6 + random() * 1.3),
    random,
  })
  for (const cells of islands) {
    if (labels[cells[0]] >= 0) continue
    const home = nearestSeed(
      mesh.sites[cells[0]],
      seeds.map((seed) => mesh.sites[seed]),
    )
    for (const cell of cells) labels[cell] = home
  }
  return { labels, seeds }
}

/** Seeds drawn by appeal, none too near another where the appeal is low. */
function spread(
  cells: number[],
  count: number,
  { appeal, sites, random }: { appeal: (cell: number) => number; sites: Km[]; random: Random },
): number[] {
  const chosen: number[] = []
  for (let reach = 1; chosen.length < count; reach *= 0.93) {
    for (let attempt = 0; attempt < 60 && chosen.length < count; attempt++) {
      const cell = draw(cells, appeal, random)
      const apart = reach * (7 + 24 * Math.exp(-4 * appeal(cell)))
      if (chosen.every((other) => distance(sites[cell], sites[other]) > apart)) chosen.push(cell)
    }
  }
  return chosen
}

function draw(cells: number[], weight: (cell: number) => number, random: Random): number {
  let left = random() * cells.reduce((sum, cell) => sum + weight(cell), 0)
  for (const cell of cells) if ((left -= weight(cell)) <= 0) return cell
  return cells[cells.length - 1]
}

export const distance = (a: Km, b: Km): number => Math.hypot(a[0] - b[0], a[1] - b[1])

export const nearestSeed = (at: Km, seeds: Km[]): number =>
  seeds.reduce((best, seed, i) => (distance(at, seed) < distance(at, seeds[best]) ? i : best), 0)

/**
 * Labels spread from seeds over a graph, each step costing about its seed's pace; a plain shortest-path
 * search.
 */
export function grow(
  neighbours: number[][],
  allowed: (node: number) => boolean,
  { labels, seeds, pace, random }: { labels: Int32Array; seeds: number[]; pace: number[]; random: Random },
): void {
  const cost = new Float64Array(neighbours.length).fill(Infinity)
  const queue: { node: number; label: number; cost: number }[] = seeds.map((node, label) => ({
    node,
    label,
    cost: 0,
  }))
  while (queue.length) {
    let first = 0
    for (let i = 1; i < queue.length; i++) if (queue[i].cost < queue[first].cost) first = i
    const { node, label, cost: spent } = queue[first]
    queue[first] = queue[queue.length - 1]
    queue.pop()
    if (spent >= cost[node]) continue
    cost[node] = spent
    labels[node] = label
    for (const other of neighbours[node]) {
      const next = spent + pace[label] * (0.7 + 0.6 * random())
      if (allowed(other) && next < cost[other]) queue.push({ node: other, label, cost: next })
    }
  }
}

/** Which districts touch, by label. */
export function districtNeighbours({ mesh }: Land, labels: Int32Array, count: number): number[][] {
  const sets = Array.from({ length: count }, () => new Set<number>())
  for (const { left, right } of mesh.edges) {
    const [a, b] = [labels[left], labels[right]]
    if (a < 0 || b < 0 || a === b) continue
    sets[a].add(b)
    sets[b].add(a)
  }
  return sets.map((set) => [...set])
}
