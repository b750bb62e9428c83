import { eachVertex, ringRange, type Arcs, type Areas } from '../geometry'
import { eastward } from './longitudes'
import { crossingsNorth, isWholeGlobe, ringShape } from './rings'

/**
 * Areas merged by groups of features. An arc with the group on both sides vanishes; what is left is joined end to
 * end, the inside staying on the left, so that rings may run across the date line and round poles.
 */
export function mergeAreas(areas: Areas, groups: number[][]): Areas {
  const nodes = nodesOf(areas.arcs)
  const stamp = new Int32Array(areas.arcs.starts.length - 1).fill(-1)
  const times = new Uint8Array(stamp.length)
  const refs: number[] = []
  const ringStarts = [0]
  const polygonStarts = [0]
  const featureStarts = new Uint32Array(groups.length + 1)
  groups.forEach((group, g) => {
    const all: number[] = []
    for (const f of group) {
      const [from, to] = ringRange(areas, f)
      for (let k = areas.ringStarts[from]; k < areas.ringStarts[to]; k++) {
        const arc = areas.refs[k] < 0 ? ~areas.refs[k] : areas.refs[k]
        if (stamp[arc] !== g) {
          stamp[arc] = g
          times[arc] = 0
        }
        if (times[arc] < 2) times[arc]++
        all.push(areas.refs[k])
      }
    }
    const left = all.filter((ref) => times[ref < 0 ? ~ref : ref] === 1)
    for (const polygon of nestRings(areas.arcs, joinRefs(left, nodes))) {
      for (const ring of polygon) {
        for (const ref of ring) refs.push(ref)
        ringStarts.push(refs.length)
      }
      polygonStarts.push(ringStarts.length - 1)
    }
    featureStarts[g + 1] = polygonStarts.length - 1
  })
  return {
    kind: 'areas',
    arcs: areas.arcs,
    refs: Int32Array.from(refs),
    ringStarts: Uint32Array.from(ringStarts),
    polygonStarts: Uint32Array.from(polygonStarts),
    featureStarts,
  }
}

const knownNodes = new WeakMap<Arcs, Int32Array>()

/** Numbers of the places where each arc begins (`[2a]`) and ends (`[2a + 1]`); a pole is one place. */
function nodesOf(arcs: Arcs): Int32Array {
  const before = knownNodes.get(arcs)
  if (before) return before
  const { coords, starts } = arcs
  const numbers = new Map<string, number>()
  const nodes = new Int32Array(2 * (starts.length - 1))
  for (let i = 0; i < nodes.length; i++) {
    const v = i % 2 ? starts[(i + 1) / 2] - 1 : starts[i / 2]
    const [lon, lat] = [coords[2 * v], coords[2 * v + 1]]
    const key = Math.abs(lat) >= 90 ? String(lat) : `${lon} ${lat}`
    let node = numbers.get(key)
    if (node === undefined) {
      node = numbers.size
      numbers.set(key, node)
    }
    nodes[i] = node
  }
  knownNodes.set(arcs, nodes)
  return nodes
}

/** References joined end to end into closed rings; where a ring comes back to a place, that part is one of its own. */
function joinRefs(refs: number[], nodes: Int32Array): number[][] {
  const startOf = (ref: number) => (ref < 0 ? nodes[2 * ~ref + 1] : nodes[2 * ref])
  const endOf = (ref: number) => (ref < 0 ? nodes[2 * ~ref] : nodes[2 * ref + 1])
  const open = new Map<number, number[]>()
  for (const ref of refs) {
    const list = open.get(startOf(ref))
    if (list) list.push(ref)
    else open.set(startOf(ref), [ref])
  }
  const rings: number[][] = []
  for (const first of refs) {
    const path: number[] = []
    /** Where in the path each place was left. */
    const seen = new Map<number, number>()
    for (let at = startOf(first); ; ) {
      const closed = seen.get(at)
      if (closed !== undefined) {
        const ring = path.splice(closed)
        for (const ref of ring) seen.delete(startOf(ref))
        rings.push(ring)
      }
      const next = open.get(at)?.pop()
      if (next === undefined) break
      seen.set(at, path.length)
      path.push(next)
      at = endOf(next)
    }
  }
  return rings
}

/** Rings as polygons: what runs anticlockwise around its inside, with the holes in it; rings round the globe together. */
function nestRings(arcs: Arcs, rings: number[][]): number[][][] {
  if (rings.length < 2) return rings.map((ring) => [ring])
  const ringStarts = new Uint32Array(rings.length + 1)
  rings.forEach((ring, r) => (ringStarts[r + 1] = ringStarts[r] + ring.length))
  const loose: Areas = {
    kind: 'areas',
    arcs,
    refs: Int32Array.from(rings.flat()),
    ringStarts,
    polygonStarts: Uint32Array.of(0, rings.length),
    featureStarts: Uint32Array.of(0, 1),
  }
  const shapes = rings.map((_, r) => ringShape(loose, r))
  const round: number[] = []
  const outer: number[] = []
  const holes: number[] = []
  shapes.forEach(({ turns, area }, r) => {
    if (isWholeGlobe(loose, r)) round.unshift(r)
    else if (turns) round.push(r)
    else if (area > 0) outer.push(r)
    else holes.push(r)
  })
  outer.sort((a, b) => shapes[a].area - shapes[b].area)
  const members = new Map(outer.map((r) => [r, [r]]))
  for (const hole of holes) {
    const [lon, lat] = placeOn(loose, hole)
    const home = outer.find((r) => {
      const { south, north } = shapes[r]
      return lat >= south && lat <= north && crossingsNorth(loose, [r, r + 1], lon, lat) % 2 === 1
    })
    if (home !== undefined) members.get(home)?.push(hole)
    else round.push(hole)
  }
  const polygons = [...members.values()]
  if (round.length) polygons.unshift(round)
  return polygons.map((polygon) => polygon.map((r) => rings[r]))
}

/** The middle of a ring's first edge: rings touch at their vertices at most. */
function placeOn(areas: Areas, ring: number): [number, number] {
  const { coords } = areas.arcs
  const first: number[] = []
  eachVertex(areas, ring, (v) => {
    if (first.length < 2) first.push(v)
  })
  const [a, b] = first
  const lon = coords[2 * a]
  return [lon + eastward(lon, coords[2 * b]) / 2, (coords[2 * a + 1] + coords[2 * b + 1]) / 2]
}
