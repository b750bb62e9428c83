import { ringRange, type Arcs, type Areas } from '../geometry'
import { nestRings } from './nest'

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
    for (let at = startOf(first); ;) {
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
