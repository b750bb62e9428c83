import { arcNeighbours, featureCount, ringRange, type Areas } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { drain, milestones, within, type Steps } from '@/core/grid/steps'
import type { Projection } from '@/core/projection/projection'

/**
 * Two areas that stay together: how much each is drawn to the other (0 to 1, by the share of its border that they have
 * in common), and the distance that is kept between them, m.
 */
export type Link = { a: number; b: number; pullA: number; pullB: number; gap: number }

/** Areas in a plane: where each lies and how large it is there, by feature. */
export type PlaneAreas = {
  projected: Areas
  /** Centres of gravity, x and y by turns, metres, y downwards; NaN for features without area. */
  centres: Float64Array
  /** m². */
  areas: Float64Array
  /** Pairs with a common border, and islands with the area nearest to them. */
  links: Link[]
}

/** @throws never; what the projection does not show has no centre */
export const planeAreas = (geometry: Areas, projection: Projection): PlaneAreas =>
  drain(planeSteps(geometry, projection))

/** The same in pieces; only what was not projected before is so in one of them. */
export function* planeSteps(geometry: Areas, projection: Projection): Steps<PlaneAreas> {
  const projected = projectGeometry(geometry, projection) as Areas
  yield 0.4
  const { areas, centres } = yield* within(gravities(projected), 0.4, 0.7)
  const links = borderLinks(projected, areas)
  yield 0.9
  return { projected, centres, areas, links: [...links, ...islandLinks(links, centres, areas)] }
}

/** So many vertices are looked at in one piece. */
const pieceVertices = 100_000

/** What each feature measures, and its centre of gravity, x and y by turns; 0 and NaN without area. */
export function* gravities(projected: Areas): Steps<Pick<PlaneAreas, 'areas' | 'centres'>> {
  const count = featureCount(projected)
  const centres = new Float64Array(2 * count).fill(NaN)
  const areas = new Float64Array(count)
  const told = milestones(pieceVertices)
  for (let f = 0; f < count; f++) {
    const [area, x, y] = gravity(projected, f)
    if (told.due(verticesOf(projected, f))) yield f / count
    if (area === 0) continue
    areas[f] = Math.abs(area)
    centres[2 * f] = x
    centres[2 * f + 1] = y
  }
  return { areas, centres }
}

function verticesOf(areas: Areas, f: number): number {
  const { refs, ringStarts } = areas
  const { starts } = areas.arcs
  const [from, to] = ringRange(areas, f)
  let sum = 0
  for (let k = ringStarts[from]; k < ringStarts[to]; k++) {
    const arc = refs[k] < 0 ? ~refs[k] : refs[k]
    sum += starts[arc + 1] - starts[arc]
  }
  return sum
}

/** Signed area and centre of gravity of a feature. */
function gravity(areas: Areas, f: number): [area: number, x: number, y: number] {
  const [from, to] = ringRange(areas, f)
  return momentsOf(
    areas,
    Array.from({ length: to - from }, (_, k) => from + k),
  )
}

/** The area of rings together, signed, and their centre of gravity; that is NaN where they enclose nothing. */
export function momentsOf(areas: Areas, rings: readonly number[]): [area: number, x: number, y: number] {
  let [m2, x, y] = [0, 0, 0]
  for (const ring of rings) {
    const [area, mx, my] = ringMoments(areas, ring)
    m2 += area
    x += mx
    y += my
  }
  return m2 === 0 ? [0, NaN, NaN] : [m2, x / m2, y / m2]
}

/**
 * The area that a ring encloses, signed, and that times the centre of gravity: the shoelace formula about its first
 * vertex.
 */
export function ringMoments(areas: Areas, ring: number): [m2: number, x: number, y: number] {
  const { coords } = areas.arcs
  let [twice, sx, sy, px, py, x0, y0] = [0, 0, 0, NaN, NaN, NaN, NaN]
  eachPlace(areas, ring, (v) => {
    if (Number.isNaN(x0)) [x0, y0] = [coords[2 * v], coords[2 * v + 1]]
    const [x, y] = [coords[2 * v] - x0, coords[2 * v + 1] - y0]
    if (!Number.isNaN(px)) {
      const crossed = px * y - x * py
      twice += crossed
      sx += (px + x) * crossed
      sy += (py + y) * crossed
    }
    ;[px, py] = [x, y]
  })
  return [twice / 2, sx / 6 + (x0 * twice) / 2 || 0, sy / 6 + (y0 * twice) / 2 || 0]
}

/** What each feature measures in the plane, in the square of the unit of its places. */
export function ringAreas(areas: Areas): Float64Array {
  const count = featureCount(areas)
  return Float64Array.from({ length: count }, (_, f) => Math.abs(gravity(areas, f)[0]))
}

/** Calls `visit` with the vertices of ring `r` in order. */
export function eachPlace({ arcs, refs, ringStarts }: Areas, r: number, visit: (v: number) => void): void {
  for (let k = ringStarts[r]; k < ringStarts[r + 1]; k++) {
    const back = refs[k] < 0
    const arc = back ? ~refs[k] : refs[k]
    const [first, last] = [arcs.starts[arc], arcs.starts[arc + 1] - 1]
    const skip = k > ringStarts[r] ? 1 : 0
    for (let i = skip; i <= last - first; i++) visit(back ? last - i : first + i)
  }
}

/** Pairs of areas with a common border, with the share that it is of what borders each has in all. */
function borderLinks(projected: Areas, areas: Float64Array): Link[] {
  const sides = arcNeighbours(projected)
  const { coords, starts } = projected.arcs
  const lengths = new Map<number, { a: number; b: number; m: number }>()
  const totals = new Float64Array(areas.length)
  for (let arc = 0; arc < Math.min(sides.length / 2, projected.cutFrom ?? Infinity); arc++) {
    const a = Math.min(sides[2 * arc], sides[2 * arc + 1])
    const b = Math.max(sides[2 * arc], sides[2 * arc + 1])
    if (a < 0 || a === b || !areas[a] || !areas[b]) continue
    let m = 0
    for (let v = starts[arc] + 1; v < starts[arc + 1]; v++)
      m += Math.hypot(coords[2 * v] - coords[2 * v - 2], coords[2 * v + 1] - coords[2 * v - 1])
    const key = a * areas.length + b
    const known = lengths.get(key)
    if (known) known.m += m
    else lengths.set(key, { a, b, m })
    totals[a] += m
    totals[b] += m
  }
  return [...lengths.values()].map(({ a, b, m }) => ({
    a,
    b,
    pullA: m / totals[a] || 0,
    pullB: m / totals[b] || 0,
    gap: 0,
  }))
}

/** So much of the water between an island and the next land is left. */
const waterKept = 0.25

/** Each area that borders on none, with the one nearest to it; the water between them is kept in part. */
function islandLinks(links: Link[], centres: Float64Array, areas: Float64Array): Link[] {
  const bordered = new Set(links.flatMap(({ a, b }) => [a, b]))
  const radius = (f: number) => Math.sqrt(areas[f] / Math.PI)
  const present = [...areas.keys()].filter((f) => areas[f] > 0)
  const out: Link[] = []
  for (const a of present) {
    if (bordered.has(a)) continue
    let [best, nearest] = [Infinity, -1]
    for (const b of present) {
      const far =
        Math.hypot(centres[2 * a] - centres[2 * b], centres[2 * a + 1] - centres[2 * b + 1]) - radius(b)
      if (b !== a && far < best) [best, nearest] = [far, b]
    }
    if (nearest >= 0)
      out.push({ a, b: nearest, pullA: 0.5, pullB: 0, gap: waterKept * Math.max(0, best - radius(a)) })
  }
  return out
}
