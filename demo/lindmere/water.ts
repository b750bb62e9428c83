import type { Land } from './land'
import { areaKm2, roughen, type Km } from './mesh'
import type { Random } from './random'

/** Steps from the sea for every land cell. */
export function distanceFromSea({ mesh, island }: Land): Int32Array {
  const steps = new Int32Array(mesh.sites.length).fill(-1)
  const queue: number[] = []
  mesh.sites.forEach((_, cell) => {
    if (island[cell] >= 0 && mesh.neighbours[cell].some((other) => island[other] < 0)) {
      steps[cell] = 0
      queue.push(cell)
    }
  })
  for (let i = 0; i < queue.length; i++)
    for (const other of mesh.neighbours[queue[i]])
      if (island[other] >= 0 && steps[other] < 0) {
        steps[other] = steps[queue[i]] + 1
        queue.push(other)
      }
  return steps
}

export type River = { cells: number[]; line: Km[] }

/** Rivers run from inland cells down to the sea and end where they meet one drawn before. */
export function makeRivers(land: Land, random: Random, count: number): River[] {
  const { mesh, noise, island } = land
  const steps = distanceFromSea(land)
  const level = (cell: number) =>
    steps[cell] + 0.9 * noise(mesh.sites[cell][0] / 30, mesh.sites[cell][1] / 30)
  const sources = [...steps.keys()].filter((cell) => island[cell] === 0 && steps[cell] >= 7)
  const taken = new Set<number>()
  const rivers: River[] = []
  for (let attempt = 0; attempt < count * 12 && rivers.length < count; attempt++) {
    const start = sources[Math.floor(random() * sources.length)]
    if (near(mesh.sites[start], rivers, mesh.sites, 22)) continue
    const cells = [start]
    const visited = new Set(cells)
    let met = false
    while (steps[cells[cells.length - 1]] > 0 && !met) {
      const here = cells[cells.length - 1]
      const options = mesh.neighbours[here].filter((cell) => !visited.has(cell) && island[cell] === 0)
      if (!options.length) break
      const next = options.reduce((best, cell) => (level(cell) < level(best) ? cell : best))
      cells.push(next)
      visited.add(next)
      met = taken.has(next)
    }
    if (cells.length < 6) continue
    for (const cell of cells) taken.add(cell)
    const ends = met ? [] : mouth(land, cells[cells.length - 1])
    rivers.push({ cells, line: windings([...cells.map((cell) => mesh.sites[cell]), ...ends], rivers.length) })
  }
  return rivers
}

const near = (at: Km, rivers: River[], sites: Km[], km: number): boolean =>
  rivers.some(({ cells }) =>
    cells.some((cell) => Math.hypot(sites[cell][0] - at[0], sites[cell][1] - at[1]) < km),
  )

/** The midpoint of the coast edge beside a cell, where a river reaches the sea. */
function mouth({ mesh, island }: Land, cell: number): Km[] {
  const edge = mesh.edges.find(
    ({ left, right }) => (left === cell && island[right] < 0) || (right === cell && island[left] < 0),
  )
  if (!edge) return []
  const [a, b] = [mesh.vertices[edge.a], mesh.vertices[edge.b]]
  return [[(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]]
}

/** Corners cut (Chaikin 1974), then roughened. */
function windings(points: Km[], id: number): Km[] {
  const cut: Km[] = [points[0]]
  for (let i = 1; i + 1 < points.length; i++) {
    const [p, q, r] = [points[i - 1], points[i], points[i + 1]]
    cut.push(
      [q[0] * 0.75 + p[0] * 0.25, q[1] * 0.75 + p[1] * 0.25],
      [q[0] * 0.75 + r[0] * 0.25, q[1] * 0.75 + r[1] * 0.25],
    )
  }
  cut.push(points[points.length - 1])
  return cut.flatMap((point, i) =>
    i === 0
      ? [point]
      : roughen(cut[i - 1], point, {
          amount: 0.14,
          finestKm: 1.1,
          id: 900_000 + id * 1000 + i,
          node: 1,
        }).slice(1),
  )
}

export type Lake = { ring: Km[]; areaKm2: number }

/** Lakes with ragged shores, away from the sea and from each other. */
export function makeLakes(land: Land, random: Random, count: number): Lake[] {
  const steps = distanceFromSea(land)
  const places = [...steps.keys()].filter(
    (cell) => steps[cell] >= 4 && land.townness(land.mesh.sites[cell]) < 0.3,
  )
  const lakes: { centre: Km; reach: number; ring: Km[] }[] = []
  for (let attempt = 0; attempt < 400 && lakes.length < count; attempt++) {
    const centre = land.mesh.sites[places[Math.floor(random() * places.length)]]
    const reach = 2.5 + 9 * random() ** 2
    if (
      lakes.some(
        (lake) =>
          Math.hypot(lake.centre[0] - centre[0], lake.centre[1] - centre[1]) < lake.reach + reach + 14,
      )
    )
      continue
    const turn = random() * Math.PI
    const narrow = 0.3 + 0.4 * random()
    const corners = Array.from({ length: 11 }, (_, i): Km => {
      const angle = (2 * Math.PI * i) / 11
      const r = reach * (0.75 + 0.5 * random())
      const [u, v] = [Math.cos(angle) * r, Math.sin(angle) * r * narrow]
      return [
        centre[0] + u * Math.cos(turn) - v * Math.sin(turn),
        centre[1] + u * Math.sin(turn) + v * Math.cos(turn),
      ]
    })
    const ring = corners.flatMap((point, i) =>
      roughen(point, corners[(i + 1) % corners.length], {
        amount: 0.2,
        finestKm: 0.5,
        id: 700_000 + lakes.length * 100 + i,
        node: 1,
      }).slice(0, -1),
    )
    lakes.push({ centre, reach, ring })
  }
  return lakes.map(({ ring }) => ({ ring, areaKm2: areaKm2(ring) })).sort((a, b) => b.areaKm2 - a.areaKm2)
}
