import type { Grid, Lattice } from './grid'
import { costsFor } from './hierarchy'
import { costTo, nearestPlace, type Network, type OnNetwork } from './network'
import { within, type Steps } from './steps'

export const reaches = ['exponential', 'power', 'gaussian'] as const
export type Reach = (typeof reaches)[number]

/**
 * How much a place counts at a distance: one at none and a half at `span` (m).
 * - exponential: exp(−ln 2 · (d ∕ span)^exponent)
 * - Gaussian: the same with the exponent 2
 * - power: (1 + (2^(1 ∕ exponent) − 1) · d ∕ span)^(−exponent)
 */
export type Fading = { reach: Reach; span: number; exponent: number }

export function fadingAt({ reach, span, exponent }: Fading, distance: number): number {
  const share = distance / span
  if (reach === 'power') return (1 + (2 ** (1 / exponent) - 1) * share) ** -exponent
  if (reach === 'gaussian') return Math.exp(-Math.LN2 * share * share)
  return Math.exp(-Math.LN2 * (exponent === 1 ? share : share ** exponent))
}

/** How fast the fading falls at a distance, as a share of itself for each metre. */
function slopeAt({ reach, span, exponent }: Fading, distance: number): number {
  if (reach === 'power') {
    const a = (2 ** (1 / exponent) - 1) / span
    return (exponent * a) / (1 + a * distance)
  }
  if (reach === 'exponential' && exponent === 1) return Math.LN2 / span
  const power = reach === 'gaussian' ? 2 : exponent
  return (Math.LN2 * power * (distance / span) ** (power - 1)) / span
}

/** The second derivative of the fading over itself, given its slope. */
function bendAt({ reach, exponent }: Fading, distance: number, slope: number): number {
  if (reach === 'power') return slope * slope * (1 + 1 / exponent)
  const power = reach === 'gaussian' ? 2 : exponent
  return slope * slope - (slope * (power - 1)) / distance
}

/** Places of a square with their weight, common middle and spread about it (variances and covariance, m²). */
type Node = {
  x: number
  y: number
  weight: number
  xx: number
  xy: number
  yy: number
  side: number
  first: number
  count: number
  children: Node[]
}

/** A group of places counts as one where its side is under this share of the distance to it … */
const nearness = 0.5
/** … and where the fading changes by no more than about this over its side. */
const evenness = 0.9
/** Steeper fadings bend more within a group, so that less of one is even. */
const evenFor = ({ reach, exponent }: Fading): number =>
  reach === 'exponential' && exponent > 2 ? evenness * (2 / exponent) ** 2 : evenness
/** What counts for less than this share of the sum at the cell before may be summed as roughly as one likes. */
const nothing = 1e-6
/** Groups of so few places are summed one by one. */
const few = 8
/** So many cells each way go through the groups together. */
const block = 8

type Points = { places: Float64Array; weights: Float64Array }

/** Places put into groups of groups, by quarters of squares. */
function treeOf({ places, weights }: Points): { root: Node | null; order: Int32Array } {
  const order = Int32Array.from(
    [...weights.keys()].filter((i) => weights[i] > 0 && Number.isFinite(places[2 * i])),
  )
  if (!order.length) return { root: null, order }
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const i of order) {
    x0 = Math.min(x0, places[2 * i])
    x1 = Math.max(x1, places[2 * i])
    y0 = Math.min(y0, places[2 * i + 1])
    y1 = Math.max(y1, places[2 * i + 1])
  }
  const build = (box: { x: number; y: number; side: number }, first: number, count: number): Node => {
    const node = grouped({ places, weights }, order.subarray(first, first + count), { side: box.side, first })
    // Places may lie on one another: squares need not get smaller than a metre.
    if (count <= few || box.side < 1) return node
    const half = box.side / 2
    const quarterOf = (i: number) =>
      Number(places[2 * i] >= box.x + half) + 2 * Number(places[2 * i + 1] >= box.y + half)
    const own = order.slice(first, first + count)
    let at = first
    for (let quarter = 0; quarter < 4; quarter++) {
      const begin = at
      for (const i of own) if (quarterOf(i) === quarter) order[at++] = i
      if (at === begin) continue
      const corner = { x: box.x + (quarter & 1 ? half : 0), y: box.y + (quarter & 2 ? half : 0), side: half }
      node.children.push(build(corner, begin, at - begin))
    }
    return node
  }
  const side = Math.max(x1 - x0, y1 - y0) * 1.0001 || 1
  return { root: build({ x: x0, y: y0, side }, 0, order.length), order }
}

function grouped(
  { places, weights }: Points,
  own: Int32Array,
  { side, first }: { side: number; first: number },
): Node {
  let [x, y, weight, xx, xy, yy] = [0, 0, 0, 0, 0, 0]
  for (const i of own) {
    weight += weights[i]
    x += weights[i] * places[2 * i]
    y += weights[i] * places[2 * i + 1]
  }
  x /= weight
  y /= weight
  for (const i of own) {
    const [dx, dy] = [places[2 * i] - x, places[2 * i + 1] - y]
    xx += (weights[i] / weight) * dx * dx
    xy += (weights[i] / weight) * dx * dy
    yy += (weights[i] / weight) * dy * dy
  }
  return { x, y, weight, xx, xy, yy, side, first, count: own.length, children: [] }
}

/** What a block of cells sums: groups that count as one, and single places. */
type Heard = { groups: Node[]; singles: number[] }

function heardBy(
  root: Node,
  order: Int32Array,
  fading: Fading,
  { x, y, reach, sum }: { x: number; y: number; reach: number; sum: number },
): Heard {
  const heard: Heard = { groups: [], singles: [] }
  const stack = [root]
  for (let node = stack.pop(); node; node = stack.pop()) {
    const distance = Math.max(0, Math.sqrt((node.x - x) ** 2 + (node.y - y) ** 2) - reach)
    const far = node.side < nearness * distance
    const even =
      far &&
      (node.side * slopeAt(fading, distance) < evenFor(fading) ||
        node.weight * fadingAt(fading, Math.max(0, distance - node.side)) < nothing * sum)
    if (even) heard.groups.push(node)
    else if (node.children.length) stack.push(...node.children)
    else for (let k = node.first; k < node.first + node.count; k++) heard.singles.push(order[k])
  }
  return heard
}

/** The potential at a place: groups by their middle and spread, to the second order. */
function summed(
  { groups, singles }: Heard,
  { places, weights }: Points,
  fading: Fading,
  at: [number, number],
): number {
  const [x, y] = at
  let sum = 0
  for (const node of groups) {
    const dx = node.x - x
    const dy = node.y - y
    const d2 = dx * dx + dy * dy
    const distance = Math.sqrt(d2)
    const slope = slopeAt(fading, distance)
    const along = (node.xx * dx * dx + 2 * node.xy * dx * dy + node.yy * dy * dy) / d2
    const across = node.xx + node.yy - along
    const bent = 0.5 * (bendAt(fading, distance, slope) * along - (slope / distance) * across)
    sum += node.weight * fadingAt(fading, distance) * Math.max(0, 1 + bent)
  }
  for (const i of singles) {
    const dx = places[2 * i] - x
    const dy = places[2 * i + 1] - y
    sum += weights[i] * fadingAt(fading, Math.sqrt(dx * dx + dy * dy))
  }
  return sum
}

/**
 * The potential of places (Stewart 1941): at the middle of each cell the sum of their weights, each as far as it counts
 * at that distance. Groups of places that are far away for their size are summed as one, by their common middle and
 * their spread about it (after Barnes and Hut 1986), which keeps sums to well under half a percent.
 */
export function* potentialOver(lattice: Lattice, points: Points, fading: Fading): Steps<Grid> {
  const { x0, y0, cell, columns, rows } = lattice
  const { root, order } = treeOf(points)
  const values = new Float64Array(columns * rows)
  if (!root) return { ...lattice, values }
  const reach = (block / 2) * cell * Math.SQRT2
  for (let r0 = 0; r0 < rows; r0 += block) {
    yield r0 / rows
    let sum = 0
    for (let c0 = 0; c0 < columns; c0 += block) {
      const middle = { x: x0 + (c0 + block / 2) * cell, y: y0 + (r0 + block / 2) * cell }
      const heard = heardBy(root, order, fading, { ...middle, reach, sum })
      for (let r = r0; r < Math.min(rows, r0 + block); r++)
        for (let c = c0; c < Math.min(columns, c0 + block); c++) {
          sum = summed(heard, points, fading, [x0 + (c + 0.5) * cell, y0 + (r + 0.5) * cell])
          values[r * columns + c] = sum
        }
    }
  }
  return { ...lattice, values }
}

/** How places and cells are reached: along a network, and beside it. */
export type Ways = {
  network: Network
  /** What a metre beside the network costs, in the network's own unit. */
  offPace: number
}

/**
 * The potential of places along a network: at the middle of each cell the sum of their weights, each as far as it
 * counts at what it costs to get there from the cell: straight to the network, along it, and straight to the place.
 * `fading.span` is in the network's unit. Places from which no way leads count nothing.
 */
export function* potentialAlong(
  lattice: Lattice,
  { places, weights }: Points,
  fading: Fading,
  { network, offPace }: Ways,
): Steps<Grid> {
  const { x0, y0, cell, columns, rows } = lattice
  const values = new Float64Array(columns * rows)
  const cells: OnNetwork[] = new Array(values.length)
  for (let i = 0; i < values.length; i++) {
    if (i % 2048 === 2047) yield (0.3 * i) / values.length
    cells[i] = nearestPlace(
      network,
      x0 + ((i % columns) + 0.5) * cell,
      y0 + (Math.floor(i / columns) + 0.5) * cell,
    )
  }
  const sources = [...weights.keys()].filter((i) => weights[i] > 0 && Number.isFinite(places[2 * i]))
  const costsOf = yield* within(costsFor(network, sources.length), 0.3, 0.4)
  for (const [n, i] of sources.entries()) {
    yield 0.4 + (0.6 * n) / sources.length
    const source = nearestPlace(network, places[2 * i], places[2 * i + 1])
    const costs = costsOf(source)
    for (let c = 0; c < values.length; c++) {
      const along = costTo(network, costs, source, cells[c])
      if (along === Infinity) continue
      // A cell that is nearer to the place than to the network goes there straight.
      const direct = Math.hypot(
        places[2 * i] - x0 - ((c % columns) + 0.5) * cell,
        places[2 * i + 1] - y0 - (Math.floor(c / columns) + 0.5) * cell,
      )
      const off = source.off + cells[c].off
      const cost = direct <= off ? direct * offPace : off * offPace + along
      values[c] += weights[i] * fadingAt(fading, cost)
    }
  }
  return { ...lattice, values }
}
