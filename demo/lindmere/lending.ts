import type { Feature, LineString } from 'geojson'
import type { Land } from './land'
import { roughen, toLonLat, type Km } from './mesh'
import { normal, pick, type Random } from './random'

const degrees = (at: Km): [string, string] => {
  const [lon, lat] = toLonLat(at)
  return [lon.toFixed(5), lat.toFixed(5)]
}

/** Cells of land by chance, dense where people live. */
function places({ mesh, island, townness }: Land, random: Random, count: number, spreadKm: number): Km[] {
  const cells = [...island.keys()].filter((cell) => island[cell] >= 0)
  const weights = cells.map((cell) => 0.02 + townness(mesh.sites[cell]) ** 2)
  const sums: number[] = []
  weights.forEach((w, i) => sums.push((sums[i - 1] ?? 0) + w))
  const total = sums[sums.length - 1]
  return Array.from({ length: count }, () => {
    const wanted = random() * total
    let [low, high] = [0, sums.length - 1]
    while (low < high) {
      const middle = (low + high) >> 1
      if (sums[middle] < wanted) low = middle + 1
      else high = middle
    }
    const [x, y] = mesh.sites[cells[low]]
    return [x + spreadKm * (random() - 0.5), y + spreadKm * (random() - 0.5)]
  })
}

/** Some 310 libraries: a few large central ones, many tiny ones. */
export function libraryRows(land: Land, random: Random, name: () => string): string[][] {
  return places(land, random, 310, 3).map((at, i) => {
    const kind = i < 9 ? 'Central' : pick(random, ['Branch', 'Branch', 'Branch', 'School', 'Village'])
    const visits =
      kind === 'Central'
        ? 180_000 * Math.exp(0.5 * normal(random))
        : (kind === 'Branch' ? 14_000 : 2400) * Math.exp(0.8 * normal(random))
    const [fewest, spread] = { Central: [58, 6], Branch: [22, 16] }[kind] ?? [6, 10]
    const hours = fewest + Math.round(spread * random())
    return [
      `${name()} Library`,
      kind,
      String(Math.round(visits)),
      String(hours),
      String(1868 + Math.floor(156 * random())),
      ...degrees(at),
    ]
  })
}

/** 12,000 members with the books that they borrowed in a year. */
export const readerRows = (land: Land, random: Random): string[][] =>
  places(land, random, 12_000, 5).map((at) => [
    ...degrees(at),
    String(Math.max(0, Math.round(Math.exp(1.9 + 0.9 * normal(random)) - 2))),
  ])

type Town = { name: string; at: Km; people: number }

/** Roads: a tree that joins all towns of an island by its shortest ways, with some rings. */
export function roadFeatures(towns: Town[], islandOf: (at: Km) => number): Feature[] {
  const island = towns.map(({ at }) => islandOf(at))
  const joined = [0]
  const roads: [number, number][] = []
  const length = (a: number, b: number) =>
    Math.hypot(towns[a].at[0] - towns[b].at[0], towns[a].at[1] - towns[b].at[1])
  const open = new Set(towns.map((_, i) => i).slice(1))
  while (open.size) {
    let best: [number, number] | null = null
    for (const a of joined)
      for (const b of open)
        if (island[a] === island[b] && (!best || length(a, b) < length(...best))) best = [a, b]
    // The next island begins with any of its towns.
    const next = best?.[1] ?? (open.values().next().value as number)
    if (best) roads.push(best)
    open.delete(next)
    joined.push(next)
  }
  for (let a = 0; a < Math.min(12, towns.length); a++)
    for (let b = a + 1; b < Math.min(12, towns.length); b++)
      if (
        length(a, b) < 70 &&
        island[a] === island[b] &&
        !roads.some(([p, q]) => (p === a && q === b) || (p === b && q === a))
      )
        roads.push([a, b])
  const ways = longWays(towns, roads, 3)
  const wayOf = (road: number): string | null => ways.find((way) => way.roads.includes(road))?.name ?? null
  return roads.map(([a, b], i) => ({
    type: 'Feature',
    properties: { road: `R${i + 1}`, class: wayOf(i) ? 'main' : 'country', name: wayOf(i) },
    geometry: {
      type: 'LineString',
      coordinates: roughen(towns[a].at, towns[b].at, {
        amount: 0.12,
        finestKm: 2.5,
        id: 500_000 + i,
        node: 1,
      }).map(toLonLat),
    },
  }))
}

/** A way over several roads, named after its ends. */
type Way = { name: string; roads: number[] }

/** No farther than this share of its length does a long way leave the straight line between its ends. */
const mostAside = 0.11

/** The longest ways from town to town along roads that run about straight and have no road in common. */
function longWays(towns: Town[], roads: [number, number][], count: number): Way[] {
  const far = (a: number, b: number): number =>
    Math.hypot(towns[a].at[0] - towns[b].at[0], towns[a].at[1] - towns[b].at[1])
  const all: (Way & { km: number })[] = []
  for (let from = 0; from < towns.length; from++) {
    const came = shortestWays(towns.length, roads, from, far)
    for (let to = from + 1; to < towns.length; to++) {
      const on: number[] = []
      const over: number[] = []
      for (let step = came[to]; step; step = came[step.before]) {
        on.push(step.road)
        over.push(step.before)
      }
      const km = far(from, to)
      const aside = over.map((town) => distanceAside(towns[town].at, towns[from].at, towns[to].at))
      if (on.length > 1 && Math.max(...aside) < mostAside * km)
        all.push({ name: `${towns[from].name} to ${towns[to].name}`, roads: on, km })
    }
  }
  const chosen: Way[] = []
  for (const way of all.sort((a, b) => b.km - a.km))
    if (
      chosen.length < count &&
      !chosen.some((other) => other.roads.some((road) => way.roads.includes(road)))
    )
      chosen.push(way)
  return chosen
}

/** From where each place is reached from one of them by the shortest way, and by which road (Dijkstra 1959). */
function shortestWays(
  count: number,
  roads: [number, number][],
  from: number,
  far: (a: number, b: number) => number,
): ({ before: number; road: number } | undefined)[] {
  const km = new Array<number>(count).fill(Infinity)
  const came = new Array<{ before: number; road: number } | undefined>(count)
  const open = new Set(Array.from({ length: count }, (_, i) => i))
  km[from] = 0
  while (open.size) {
    const at = [...open].reduce((best, one) => (km[one] < km[best] ? one : best))
    open.delete(at)
    roads.forEach(([a, b], road) => {
      if (a !== at && b !== at) return
      const next = a === at ? b : a
      if (km[at] + far(a, b) >= km[next]) return
      km[next] = km[at] + far(a, b)
      came[next] = { before: at, road }
    })
  }
  return came
}

const distanceAside = ([x, y]: Km, [ax, ay]: Km, [bx, by]: Km): number =>
  Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / Math.hypot(bx - ax, by - ay)

/**
 * Book-van routes in short segments, as surveyed: hundreds of pieces that make nine routes when they are
 * merged.
 */
export function routeFeatures(towns: Town[], random: Random, names: string[]): Feature<LineString>[] {
  return names.flatMap((route, r) => {
    const stops = [...towns]
      .sort(
        (a, b) =>
          Math.hypot(a.at[0] - towns[r].at[0], a.at[1] - towns[r].at[1]) -
          Math.hypot(b.at[0] - towns[r].at[0], b.at[1] - towns[r].at[1]),
      )
      .slice(0, 6)
    const line = stops
      .flatMap((stop, i) =>
        i === 0
          ? [stop.at]
          : roughen(stops[i - 1].at, stop.at, {
              amount: 0.16,
              finestKm: 1.6,
              id: 600_000 + r * 100 + i,
              node: 1,
            }).slice(1),
      )
      .map(toLonLat)
    const pieces: Feature<LineString>[] = []
    for (let from = 0; from + 1 < line.length;) {
      const to = Math.min(line.length - 1, from + 2 + Math.floor(4 * random()))
      pieces.push({
        type: 'Feature',
        properties: {
          route: `${route} round`,
          segment: pieces.length + 1,
          surface: pick(random, ['paved', 'paved', 'gravel']),
        },
        geometry: { type: 'LineString', coordinates: line.slice(from, to + 1) },
      })
      from = to
    }
    return pieces
  })
}

/**
 * Loans from libraries of one district to readers of another: much between near and large ones, little far
 * away.
 */
export function loanRows(codes: string[], sites: Km[], sizes: number[]): string[][] {
  const rows: [string, string, number][] = []
  codes.forEach((from, a) =>
    codes.forEach((to, b) => {
      if (a === b) return
      const distance = Math.hypot(sites[a][0] - sites[b][0], sites[a][1] - sites[b][1])
      const loans = Math.round((Math.sqrt(sizes[a] * sizes[b]) / 60) * Math.exp(-distance / 28))
      if (loans >= 20) rows.push([from, to, loans])
    }),
  )
  return rows.map(([from, to, loans]) => [from, to, String(loans)])
}

/** Popular groups have fewer titles for their loans, and the later subjects of a group more. */
const loansAndTitles = (loans: number, g: number, i: number): string[] => [
  String(loans),
  String(Math.round(loans / (46 - 5 * g - 2.5 * i + 7 * Math.sin(3 * g + 2 * i)))),
]

const tree: Record<string, string[]> = {
  Fiction: ['Novels', 'Crime', 'Short stories', 'Poetry', 'Sea tales'],
  Children: ['Picture books', 'First readers', 'Young adult'],
  'Land and sea': ['Sailing', 'Birds', 'Geology', 'Gardening', 'Weather'],
  'Making things': ['Cookery', 'Boatbuilding', 'Knitting', 'Repair'],
  'People and times': ['History', 'Lives', 'Letters', 'Travel'],
  Learning: ['Languages', 'Mathematics', 'Law', 'Medicine'],
}

/** Loans by subject group and subject with the titles that are held of it, as the leaves of a tree. */
export const subjectRows = (random: Random): string[][] =>
  Object.entries(tree).flatMap(([group, subjects], g) =>
    subjects.map((subject, i) => [
      group,
      subject,
      ...loansAndTitles(Math.round((900_000 / (g + 1.6) / (i + 1.3)) * (0.8 + 0.4 * random())), g, i),
    ]),
  )
