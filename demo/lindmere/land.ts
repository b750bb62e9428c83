import { createNoise2D } from 'simplex-noise'
import { makeMesh, type Km, type Mesh } from './mesh'
import { seededRandom, type Random } from './random'

/** Places where people live closely; cells and districts are smaller there. */
export const centres: { at: Km; weight: number }[] = [
  { at: [38, 62], weight: 1 },
  { at: [-95, -28], weight: 0.6 },
  { at: [96, -22], weight: 0.5 },
  { at: [-10, -82], weight: 0.4 },
  { at: [-48, 84], weight: 0.35 },
  { at: [250, 214], weight: 0.3 },
]

export type Land = {
  mesh: Mesh
  island: Int32Array
  islands: number[][]
  townness: (at: Km) => number
  noise: (x: number, y: number) => number
}

/** How much a place belongs to a town: 0 in the wild, near 1 in the capital. */
const townness = ([x, y]: Km): number =>
  Math.max(
    ...centres.map(({ at, weight }) => weight * Math.exp(-(((x - at[0]) ** 2 + (y - at[1]) ** 2) / 2200))),
  )

/** Cells, which of them are land, and the island each belongs to (−1: sea); islands from large to small. */
export function makeLand(seed: number, spacingKm = 6.2): Land {
  const random = seededRandom(seed)
  const noise = createNoise2D(seededRandom(seed + 1))
  const mesh = makeMesh(scatter(random, spacingKm))
  const isLand = mesh.sites.map((site) => height(site, noise) > 0)
  const island = new Int32Array(mesh.sites.length).fill(-1)
  const islands: number[][] = []
  mesh.sites.forEach((_, cell) => {
    if (!isLand[cell] || island[cell] >= 0) return
    const members = [cell]
    island[cell] = islands.length
    for (let i = 0; i < members.length; i++)
      for (const other of mesh.neighbours[members[i]])
        if (isLand[other] && island[other] < 0) {
          island[other] = islands.length
          members.push(other)
        }
    islands.push(members)
  })
  const order = islands.map((_, i) => i).sort((a, b) => islands[b].length - islands[a].length || a - b)
  const rank = new Map(order.map((old, now) => [old, now]))
  return {
    mesh,
    island: island.map((i) => (i < 0 ? -1 : (rank.get(i) ?? -1))),
    islands: order.map((i) => islands[i]),
    townness,
    noise,
  }
}

const box = { west: -330, east: 330, south: -350, north: 350 }

/** A jittered grid over the box, finer where people live. */
function scatter(random: Random, spacing: number): Km[] {
  const sites: Km[] = []
  for (let y = box.south; y < box.north; y += spacing)
    for (let x = box.west; x < box.east; x += spacing) {
      const at: Km = [x + random() * spacing * 0.9, y + random() * spacing * 0.9]
      const extra = townness(at) > 0.25 && Math.abs(x) < 300 ? 4 : 1
      sites.push(at)
      for (let i = 1; i < extra; i++) sites.push([x + random() * spacing, y + random() * spacing])
    }
  return sites
}

/** Above 0 is land: a few broad shapes, torn by noise of several sizes. */
export function height([x, y]: Km, noise: (x: number, y: number) => number): number {
  const fractal = (scale: number) =>
    noise(x / scale, y / scale) +
    0.5 * noise((2 * x) / scale + 9, (2 * y) / scale) +
    0.25 * noise((4 * x) / scale, (4 * y) / scale + 5)
  const blob = (
    cx: number,
    cy: number,
    { rx, ry, turn = 0 }: { rx: number; ry: number; turn?: number },
  ): number => {
    const [c, s] = [Math.cos(turn), Math.sin(turn)]
    const [u, v] = [(x - cx) * c + (y - cy) * s, -(x - cx) * s + (y - cy) * c]
    return 1 - Math.hypot(u / rx, v / ry)
  }
  const main = Math.max(
    blob(-20, 10, { rx: 170, ry: 118, turn: 0.12 }),
    blob(60, -30, { rx: 96, ry: 78, turn: -0.5 }),
    blob(-110, -20, { rx: 88, ry: 76 }),
    blob(-30, 70, { rx: 70, ry: 62 }),
  )
  const long = blob(248, 204, { rx: 112, ry: 25, turn: 1.14 })
  const remote = Math.max(
    blob(-246, -262, { rx: 26, ry: 17, turn: 0.6 }),
    blob(-276, -296, { rx: 15, ry: 19, turn: 0.3 }),
    blob(-212, -286, { rx: 9, ry: 8 }),
    blob(-252, -312, { rx: 7, ry: 6 }),
  )
  const scattered = [
    [-226, 70, 17],
    [-206, 128, 9],
    [168, 28, 14],
    [196, -44, 11],
    [-150, -138, 13],
    [64, -152, 16],
    [98, -148, 8],
    [-60, 168, 10],
    [120, 138, 9],
    [14, 176, 7],
    [158, -92, 7],
  ] as const
  const small = Math.max(...scattered.map(([cx, cy, r]) => blob(cx, cy, { rx: r, ry: r * 0.75, turn: cx })))
  return Math.max(
    main + 0.2 * fractal(70),
    long + 0.2 * fractal(44),
    remote + 0.22 * fractal(24),
    small + 0.25 * fractal(20),
  )
}
