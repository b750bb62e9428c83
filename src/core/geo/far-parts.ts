import Flatbush from 'flatbush'
import { eachVertex, featureCount, type Areas } from './geometry'
import { polygonArea } from './measure'
import { equalAreaPlane } from './sphere/planes'
import { takeFeatures } from './take-features'

/** Parts of areas that lie together: which features they are of, their ground in m², and they alone. */
export type Cluster = { features: number[]; squareMetres: number; areas: Areas }

/** Areas that fall apart: what most of them lies in, and the clusters far from it, the largest first. */
export type FarParts = { main: Cluster; far: Cluster[] }

/** Parts nearer to each other than this share of the breadth of what they lie in belong together. */
const nearShare = 0.12
/** Far parts nearer to each other than so often what is near belong together. */
const farReach = 3
/** Leaving far parts out must make the others larger on the page by this much. */
const leastGain = 1.25
/** What is left must be most of the ground. */
const leastMain = 0.6
/** A main part that reaches further than this is a world, not a land with far isles, m. */
const mostReach = 12e6
/** More clusters than this are a scatter that no insets could show. */
const mostFar = 8
/** So many vertices of a part tell where it lies. */
const sampled = 24

type Box = [x0: number, y0: number, x1: number, y1: number]

const known = new WeakMap<Areas, { found: FarParts | null }>()

/**
 * Far parts of areas: polygons are put together by the distance of their boxes in a plane about the largest of them, as
 * long as that is small against what they make up. Null where they lie together, where they reach round the globe, or
 * where a page would gain nothing by leaving some out.
 */
export function farPartsOf(areas: Areas): FarParts | null {
  const before = known.get(areas)
  if (before) return before.found
  const found = find(areas)
  known.set(areas, { found })
  return found
}

/** Areas without their far parts, by which a map is fitted; all of them where there are none. */
export const mainPartOf = (areas: Areas): Areas => farPartsOf(areas)?.main.areas ?? areas

function find(areas: Areas): FarParts | null {
  const count = areas.polygonStarts.length - 1
  if (count < 2) return null
  const sizes = Float64Array.from({ length: count }, (_, p) => Math.max(0, polygonArea(areas, p)))
  const largest = sizes.reduce((best, size, p) => (size > sizes[best] ? p : best), 0)
  const boxes = boxesIn(areas, largest)
  const clusterOf = clustered(boxes, largest)
  const names = [...new Set(clusterOf)]
  const ground = new Map(names.map((name) => [name, 0]))
  clusterOf.forEach((name, p) => ground.set(name, (ground.get(name) ?? 0) + sizes[p]))
  const [main, ...far] = names.sort((a, b) => (ground.get(b) ?? 0) - (ground.get(a) ?? 0))
  const all = [...ground.values()].reduce((a, b) => a + b, 0)
  if (!far.length || far.length > mostFar || (ground.get(main) ?? 0) < leastMain * all) return null
  const whole = around(boxes)
  const inner = around(boxes.filter((_, p) => clusterOf[p] === main))
  if (!(breadth(inner) <= mostReach)) return null
  const gain = Math.max(
    (whole[2] - whole[0]) / (inner[2] - inner[0]),
    (whole[3] - whole[1]) / (inner[3] - inner[1]),
  )
  if (!(gain >= leastGain)) return null
  const cluster = (name: number): Cluster => ({
    ...only(areas, (p) => clusterOf[p] === name),
    squareMetres: ground.get(name) ?? 0,
  })
  return { main: cluster(main), far: far.map(cluster) }
}

/** The boxes of all polygons in a plane about the middle of one of them, metres. */
function boxesIn(areas: Areas, about: number): Box[] {
  const { coords } = areas.arcs
  const ringOf = (p: number): number => areas.polygonStarts[p]
  const [middle] = [...placesOn(areas, ringOf(about))]
  const plane = equalAreaPlane(coords[2 * middle], coords[2 * middle + 1])
  return Array.from({ length: areas.polygonStarts.length - 1 }, (_, p): Box => {
    const box: Box = [Infinity, Infinity, -Infinity, -Infinity]
    for (const v of placesOn(areas, ringOf(p))) {
      const [x, y] = plane.project(coords[2 * v], coords[2 * v + 1])
      box[0] = Math.min(box[0], x)
      box[1] = Math.min(box[1], y)
      box[2] = Math.max(box[2], x)
      box[3] = Math.max(box[3], y)
    }
    return box
  })
}

/** Some vertices of a ring, evenly taken. */
function placesOn(areas: Areas, ring: number): number[] {
  const all: number[] = []
  eachVertex(areas, ring, (v) => all.push(v))
  const step = Math.max(1, Math.floor(all.length / sampled))
  return all.filter((_, i) => i % step === 0)
}

const breadth = ([x0, y0, x1, y1]: Box): number => Math.hypot(x1 - x0, y1 - y0)

function around(boxes: Box[]): Box {
  const whole: Box = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [x0, y0, x1, y1] of boxes) {
    whole[0] = Math.min(whole[0], x0)
    whole[1] = Math.min(whole[1], y0)
    whole[2] = Math.max(whole[2], x1)
    whole[3] = Math.max(whole[3], y1)
  }
  return whole
}

/** A number for each box, the same for those that lie together; what is near grows with what was put together. */
function clustered(boxes: Box[], largest: number): number[] {
  let clusters = boxes.map((_, p) => p)
  let reach = nearShare * breadth(boxes[largest])
  for (let round = 0; round < 12; round++) {
    clusters = joined(boxes, reach)
    const home = clusters[largest]
    const grown = nearShare * breadth(around(boxes.filter((_, p) => clusters[p] === home)))
    if (grown <= reach * 1.01) break
    reach = grown
  }
  // Isles far from the main land that lie beside each other share an inset.
  const loose = joined(boxes, farReach * reach)
  const home = clusters[largest]
  return clusters.map((name, p) => (name === home ? name : boxes.length + loose[p]))
}

/** A number for each box, the same for those that chains of boxes no further apart than `reach` lead between. */
function joined(boxes: Box[], reach: number): number[] {
  const parent = boxes.map((_, p) => p)
  const rootOf = (p: number): number => {
    let root = p
    while (parent[root] !== root) root = parent[root] = parent[parent[root]]
    return root
  }
  const groups = grouped(boxes, reach / 3)
  const wholes = groups.map((members) => around(members.map((p) => boxes[p])))
  const tree = new Flatbush(groups.length)
  for (const whole of wholes) tree.add(...whole)
  tree.finish()
  for (const members of groups) for (const p of members) parent[rootOf(p)] = rootOf(members[0])
  const isNear = (a: Box, b: Box): boolean =>
    b[0] <= a[2] + reach && b[2] >= a[0] - reach && b[1] <= a[3] + reach && b[3] >= a[1] - reach
  groups.forEach((members, g) => {
    const [x0, y0, x1, y1] = wholes[g]
    for (const other of tree.search(x0 - reach, y0 - reach, x1 + reach, y1 + reach)) {
      const theirs = groups[other]
      if (other <= g || rootOf(theirs[0]) === rootOf(members[0])) continue
      if (members.some((p) => theirs.some((q) => isNear(boxes[p], boxes[q]))))
        parent[rootOf(theirs[0])] = rootOf(members[0])
    }
  })
  return boxes.map((_, p) => rootOf(p))
}

/** Boxes smaller than a cell, with others whose middles lie in the same one: all of them near each other. */
function grouped(boxes: Box[], cell: number): number[][] {
  const alone: number[][] = []
  const inCells = new Map<string, number[]>()
  boxes.forEach((box, p) => {
    if (!(breadth(box) <= cell)) return void alone.push([p])
    const key = `${Math.floor((box[0] + box[2]) / 2 / cell)} ${Math.floor((box[1] + box[3]) / 2 / cell)}`
    const others = inCells.get(key)
    if (others) others.push(p)
    else inCells.set(key, [p])
  })
  return [...alone, ...inCells.values()]
}

/** Some polygons of areas alone, with the features that they are of. */
function only(areas: Areas, isWanted: (polygon: number) => boolean): { areas: Areas; features: number[] } {
  const count = areas.polygonStarts.length - 1
  const single: Areas = {
    ...areas,
    featureStarts: Uint32Array.from({ length: count + 1 }, (_, i) => i),
    taken: undefined,
  }
  const kept = Array.from({ length: count }, (_, p) => p).filter(isWanted)
  const wanted = new Set(kept)
  const features: number[] = []
  for (let f = 0; f < featureCount(areas); f++)
    for (let p = areas.featureStarts[f]; p < areas.featureStarts[f + 1]; p++)
      if (wanted.has(p)) {
        features.push(f)
        break
      }
  return { areas: withOwnArcs(takeFeatures(single, kept) as Areas), features }
}

/** Areas with the arcs that they run along and no others, by which bounds are reckoned. */
function withOwnArcs(areas: Areas): Areas {
  const { coords, starts } = areas.arcs
  const used = [...new Set(Array.from(areas.refs, (ref) => (ref < 0 ? ~ref : ref)))]
  const numberOf = new Map(used.map((arc, i) => [arc, i]))
  const ownStarts = new Uint32Array(used.length + 1)
  used.forEach((arc, i) => (ownStarts[i + 1] = ownStarts[i] + starts[arc + 1] - starts[arc]))
  const own = new Float64Array(2 * ownStarts[used.length])
  used.forEach((arc, i) => own.set(coords.subarray(2 * starts[arc], 2 * starts[arc + 1]), 2 * ownStarts[i]))
  const renumbered = (ref: number): number => {
    const number = numberOf.get(ref < 0 ? ~ref : ref) as number
    return ref < 0 ? ~number : number
  }
  return {
    ...areas,
    arcs: { coords: own, starts: ownStarts },
    refs: areas.refs.map(renumbered),
    taken: undefined,
    cutFrom: undefined,
  }
}
