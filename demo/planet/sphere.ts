import { geoVoronoi } from 'd3-geo-voronoi'
import { hash, type Random } from '../lindmere/random'

/** A place as a vector of length 1. */
export type Vector = [x: number, y: number, z: number]

const radians = Math.PI / 180

export const fromDegrees = ([lon, lat]: [number, number]): Vector => [
  Math.cos(lat * radians) * Math.cos(lon * radians),
  Math.cos(lat * radians) * Math.sin(lon * radians),
  Math.sin(lat * radians),
]

export const toDegrees = ([x, y, z]: Vector): [number, number] => [
  Math.atan2(y, x) / radians,
  Math.asin(Math.max(-1, Math.min(1, z))) / radians,
]

const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
const unit = ([x, y, z]: Vector): Vector => {
  const length = Math.hypot(x, y, z)
  return [x / length, y / length, z / length]
}
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]

/** Degrees between two places. */
export const degreesApart = (a: Vector, b: Vector): number =>
  Math.atan2(Math.hypot(...cross(a, b)), dot(a, b)) / radians

/** A place so many degrees from another, in a direction (degrees, any start). */
export function around(centre: Vector, degrees: number, direction: number): Vector {
  const side = unit(cross(centre, Math.abs(centre[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]))
  const up = cross(side, centre)
  const [s, c] = [Math.sin(degrees * radians), Math.cos(degrees * radians)]
  const [ds, dc] = [Math.sin(direction * radians), Math.cos(direction * radians)]
  return unit([0, 1, 2].map((i) => centre[i] * c + s * (dc * side[i] + ds * up[i])) as Vector)
}

/** An edge between two cells, from corner `a` to corner `b`; the cell `left` lies to its left. */
type Edge = { a: number; b: number; left: number; right: number }

/** A tiling of the sphere into cells of about equal size. */
export type Tiling = { sites: Vector[]; corners: Vector[]; edges: Edge[]; neighbours: number[][] }

/** Places on a spiral (Fibonacci lattice), each pushed a little off. */
export function scatter(count: number, random: Random): Vector[] {
  const golden = Math.PI * (3 - Math.sqrt(5))
  const spacing = Math.sqrt((4 * Math.PI) / count) / radians
  return Array.from({ length: count }, (_, i) => {
    const z = 1 - (2 * i + 1) / count
    const r = Math.sqrt(1 - z * z)
    const place: Vector = [r * Math.cos(golden * i), r * Math.sin(golden * i), z]
    return around(place, 0.3 * spacing * random(), 360 * random())
  })
}

export function tile(sites: Vector[]): Tiling {
  const { triangles } = geoVoronoi(sites.map(toDegrees)).delaunay
  const corners = triangles.map(([i, j, k]) => {
    const [a, b, c] = [sites[i], sites[j], sites[k]]
    const n = unit(cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]))
    return dot(n, a) < 0 ? ([-n[0], -n[1], -n[2]] as Vector) : n
  })
  const edges: Edge[] = []
  const neighbours: number[][] = sites.map(() => [])
  const waiting = new Map<string, number>()
  triangles.forEach(([i, j, k], t) => {
    for (const [p, q] of [
      [i, j],
      [j, k],
      [k, i],
    ]) {
      const key = `${Math.min(p, q)} ${Math.max(p, q)}`
      const other = waiting.get(key)
      if (other === undefined) {
        waiting.set(key, t)
        continue
      }
      const pIsLeft = dot(cross(corners[other], corners[t]), sites[p]) > 0
      edges.push({ a: other, b: t, left: pIsLeft ? p : q, right: pIsLeft ? q : p })
      neighbours[p].push(q)
      neighbours[q].push(p)
    }
  })
  return { sites, corners, edges, neighbours }
}

/** The line between two places with its middle displaced, again and again until its pieces are short. */
export function roughen(
  a: Vector,
  b: Vector,
  { amount, finest, id, node }: { amount: number; finest: number; id: number; node: number },
): Vector[] {
  if (degreesApart(a, b) <= finest || node > 1e6) return [a, b]
  const middle = unit([a[0] + b[0], a[1] + b[1], a[2] + b[2]])
  const aside = cross(middle, [b[0] - a[0], b[1] - a[1], b[2] - a[2]])
  // Gentler the shorter the piece, so that a line does not run into itself.
  const push = (hash(id, node) * 2 - 1) * amount * 0.88 ** Math.log2(node)
  const bent = unit([0, 1, 2].map((i) => middle[i] + push * aside[i]) as Vector)
  return [
    ...roughen(a, bent, { amount, finest, id, node: 2 * node }).slice(0, -1),
    ...roughen(bent, b, { amount, finest, id, node: 2 * node + 1 }),
  ]
}

/** Rings of every label (−1: none), the labelled side on their left; an edge is the same from both sides. */
export function ringsOf(
  tiling: Tiling,
  labels: Int32Array,
  rough: { amount: number; finest: number },
): Map<number, Vector[][]> {
  const next = new Map<number, Map<number, { to: number; line: Vector[] }>>()
  const put = (label: number, from: number, step: { to: number; line: Vector[] }) => {
    const steps = next.get(label) ?? new Map<number, { to: number; line: Vector[] }>()
    next.set(label, steps)
    steps.set(from, step)
  }
  tiling.edges.forEach(({ a, b, left, right }, id) => {
    if (labels[left] === labels[right]) return
    const line = roughen(tiling.corners[a], tiling.corners[b], { ...rough, id, node: 1 })
    put(labels[left], a, { to: b, line })
    put(labels[right], b, { to: a, line: [...line].reverse() })
  })
  const rings = new Map<number, Vector[][]>()
  for (const [label, steps] of next) {
    if (label < 0) continue
    const own: Vector[][] = []
    while (steps.size) {
      const [start] = steps.keys()
      const ring: Vector[] = []
      for (let at = start; steps.has(at);) {
        const step = steps.get(at) as { to: number; line: Vector[] }
        steps.delete(at)
        ring.push(...step.line.slice(0, -1))
        at = step.to
      }
      own.push(ring)
    }
    rings.set(label, own)
  }
  return rings
}
