import { Delaunay } from 'd3-delaunay'
import { hash } from './random'

/** Kilometres east and north of 28° W, 49° N. */
export type Km = [x: number, y: number]

const kmPerLat = 111.32
const kmPerLon = kmPerLat * Math.cos((49 * Math.PI) / 180)
export const degreesOf = ([x, y]: Km): [number, number] => [-28 + x / kmPerLon, 49 + y / kmPerLat]
/** In degrees, as they are written to files: to about ten metres. */
export const toLonLat = (km: Km): [number, number] => {
  const [lon, lat] = degreesOf(km)
  return [Number(lon.toFixed(4)), Number(lat.toFixed(4))]
}
export const fromLonLat = ([lon, lat]: [number, number]): Km => [(lon + 28) * kmPerLon, (lat - 49) * kmPerLat]

/** An edge between two cells, from vertex `a` to vertex `b`; `left` and `right` are the cells beside it. */
type Edge = { a: number; b: number; left: number; right: number }

/**
 * A tiling of a box into small cells. Every border in the country follows its edges, so all levels nest
 * exactly.
 */
export type Mesh = { sites: Km[]; vertices: Km[]; edges: Edge[]; neighbours: number[][] }

export function makeMesh(sites: Km[]): Mesh {
  const { triangles, halfedges } = Delaunay.from(sites)
  const vertices: Km[] = Array.from({ length: triangles.length / 3 }, (_, t) =>
    circumcentre(sites[triangles[3 * t]], sites[triangles[3 * t + 1]], sites[triangles[3 * t + 2]]),
  )
  const edges: Edge[] = []
  const neighbours: number[][] = sites.map(() => [])
  halfedges.forEach((opposite, e) => {
    if (opposite < e) return
    const left = triangles[e]
    const right = triangles[e % 3 === 2 ? e - 2 : e + 1]
    neighbours[left].push(right)
    neighbours[right].push(left)
    edges.push({ a: Math.floor(e / 3), b: Math.floor(opposite / 3), left, right })
  })
  return { sites, vertices, edges, neighbours }
}

function circumcentre([ax, ay]: Km, [bx, by]: Km, [cx, cy]: Km): Km {
  const [dx, dy, ex, ey] = [bx - ax, by - ay, cx - ax, cy - ay]
  const d = 2 * (dx * ey - dy * ex)
  const [bl, cl] = [dx * dx + dy * dy, ex * ex + ey * ey]
  return [ax + (ey * bl - dy * cl) / d, ay + (dx * cl - ex * bl) / d]
}

export type Roughness = { inland: number; coast: number; finestKm: number }

/**
 * The rings of every region of a labelling of the cells (−1: none), roughened by displacing midpoints. An
 * edge is roughened from its own number alone, so that both sides and all levels get the same line.
 */
export function regionRings(
  mesh: Mesh,
  labels: Int32Array,
  coastLabels: Int32Array,
  rough: Roughness,
): Map<number, Km[][]> {
  const next = new Map<number, Map<number, { to: number; line: Km[] }>>()
  mesh.edges.forEach(({ a, b, left, right }, id) => {
    if (labels[left] === labels[right]) return
    const coast = coastLabels[left] < 0 || coastLabels[right] < 0
    const line = roughen(mesh.vertices[a], mesh.vertices[b], {
      amount: coast ? rough.coast : rough.inland,
      finestKm: rough.finestKm,
      id,
      node: 1,
    })
    const from = [a, b, ...(isLeft(mesh, a, b, left) ? [left, right] : [right, left])]
    put(next, labels[from[2]], { from: from[0], to: from[1], line })
    put(next, labels[from[3]], { from: from[1], to: from[0], line: [...line].reverse() })
  })
  const regions = new Map<number, Km[][]>()
  for (const [label, steps] of next) {
    if (label < 0) continue
    const rings: Km[][] = []
    while (steps.size) {
      const [start] = steps.keys()
      const ring: Km[] = []
      for (let at = start; steps.has(at);) {
        const step = steps.get(at) as { to: number; line: Km[] }
        steps.delete(at)
        ring.push(...step.line.slice(0, -1))
        at = step.to
      }
      rings.push(ring)
    }
    regions.set(label, rings)
  }
  return regions
}

/** Whether a cell's site lies to the left of the way from vertex `a` to vertex `b`. */
function isLeft({ vertices, sites }: Mesh, a: number, b: number, cell: number): boolean {
  const [[ax, ay], [bx, by], [x, y]] = [vertices[a], vertices[b], sites[cell]]
  return (bx - ax) * (y - ay) - (by - ay) * (x - ax) > 0
}

function put(
  next: Map<number, Map<number, { to: number; line: Km[] }>>,
  label: number,
  { from, to, line }: { from: number; to: number; line: Km[] },
): void {
  const steps = next.get(label) ?? new Map<number, { to: number; line: Km[] }>()
  next.set(label, steps)
  steps.set(from, { to, line })
}

/** The line from `a` to `b` with its midpoint displaced, again and again until its pieces are short. */
export function roughen(
  a: Km,
  b: Km,
  { amount, finestKm, id, node }: { amount: number; finestKm: number; id: number; node: number },
): Km[] {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  if (Math.hypot(dx, dy) <= finestKm || node > 4096) return [a, b]
  const side = (hash(id, node) * 2 - 1) * amount
  const along = 0.5 + (hash(id + 7919, node) - 0.5) * 0.2
  const middle: Km = [a[0] + dx * along - dy * side, a[1] + dy * along + dx * side]
  return [
    ...roughen(a, middle, { amount, finestKm, id, node: 2 * node }).slice(0, -1),
    ...roughen(middle, b, { amount, finestKm, id, node: 2 * node + 1 }),
  ]
}

/** Polygons of a region: outer rings run anticlockwise, holes go to the outer ring around them. */
export function polygonsOf(rings: Km[][]): Km[][][] {
  const outer = rings.filter((ring) => areaKm2(ring) > 0)
  const polygons = outer.map((ring) => [ring])
  for (const hole of rings.filter((ring) => areaKm2(ring) <= 0)) {
    const home = polygons.findIndex(([ring]) => contains(ring, hole[0]))
    if (home >= 0) polygons[home].push(hole)
  }
  return polygons
}

export function areaKm2(ring: Km[]): number {
  let sum = 0
  ring.forEach(([x, y], i) => {
    const [nx, ny] = ring[(i + 1) % ring.length]
    sum += x * ny - nx * y
  })
  return sum / 2
}

export function contains(ring: Km[], [x, y]: Km): boolean {
  let inside = false
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [[xi, yi], [xj, yj]] = [ring[i], ring[j]]
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside
  }
  return inside
}
