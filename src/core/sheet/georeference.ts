import { toMetres } from '@/core/geo/paper'
import { knownSystem, type KnownSystem } from '@/core/projection/known-system'
import type { Box } from '@/core/scene/outline'
import { boxAround, cornersOf, toPage, type Point } from './frame'
import type { PanelView } from './part'

/**
 * Where a panel's map lies on the ground, as a file can say it: four places of the page (mm) with their longitude and
 * latitude on WGS 84, and the system of which the page is an affine picture, to `toleranceMm`.
 */
export type Georeference = {
  panelId: string
  name: string
  /** The upright box around the panel on the page. */
  box: Box
  corners: Point[]
  places: { page: Point; lon: number; lat: number }[]
  system: KnownSystem['named']
}

/** So far may a place of a system be from where the map has it, mm on the page. */
export const toleranceMm = 0.1

/** Places along each side of a panel at which the two are compared. */
const tried = 9

type Place = { paper: Point; lon: number; lat: number }

/**
 * Null for a panel in a projection that other programs do not know, or reckon so otherwise that it would be seen, and
 * for one of which too little lies on the globe.
 */
export function georeferenceOf(panel: PanelView): Georeference | null {
  const { id, name, frame, projection } = panel
  const places = placesIn(panel, tried)
  const system = knownSystem(projection.spec)
  if (!spans(places) || !system || worstMm(places, system) > toleranceMm) return null
  return {
    panelId: id,
    name,
    box: boxAround(frame),
    corners: cornersOf(frame),
    places: outermost(places).map(({ paper, lon, lat }) => ({ page: toPage(frame, paper), lon, lat })),
    system: system.named,
  }
}

/** Where the maps of panels lie on the ground, and the names of those panels of which that cannot be said. */
export function georeferences(panels: readonly PanelView[]): { placed: Georeference[]; unplaced: string[] } {
  const all = panels.map((panel) => ({ panel, found: georeferenceOf(panel) }))
  return {
    placed: all.flatMap(({ found }) => found ?? []),
    unplaced: all.filter(({ found }) => !found).map(({ panel }) => panel.name),
  }
}

/** What is said of panels that cannot be placed; empty where there are none. */
export function unplacedWords(names: readonly string[]): string {
  if (!names.length) return ''
  const list = names.map((name) => `“${name}”`).join(', ')
  return names.length === 1
    ? `${list} is left out: other programs do not know its projection, or reckon it otherwise.`
    : `${list} are left out: other programs do not know their projections, or reckon them otherwise.`
}

/** The same on a page whose origin lies elsewhere. */
export function movedGeoreference(one: Georeference, dx: number, dy: number): Georeference {
  const moved = ([x, y]: Point): Point => [x + dx, y + dy]
  return {
    ...one,
    box: { ...one.box, x: one.box.x + dx, y: one.box.y + dy },
    corners: one.corners.map(moved),
    places: one.places.map((place) => ({ ...place, page: moved(place.page) })),
  }
}

/** Places of a panel's window on a grid of n by n, those on the globe, on the page before it is turned. */
function placesIn({ window, to, projection }: PanelView, n: number): Place[] {
  const { x, y, width, height } = window
  return Array.from({ length: n * n }, (_, i): Point => [
    x + (width * (i % n)) / (n - 1),
    y + (height * Math.floor(i / n)) / (n - 1),
  ]).flatMap((paper) => {
    const place = projection.invert(...toMetres(to, ...paper))
    return place ? [{ paper, lon: place[0], lat: place[1] }] : []
  })
}

/** The four places that lie farthest towards the corners. */
function outermost(places: readonly Place[]): Place[] {
  const best = ([sx, sy]: Point): Place[] => {
    const reach = ({ paper: [x, y] }: Place): number => sx * x + sy * y
    return places.length ? [places.reduce((most, one) => (reach(one) > reach(most) ? one : most))] : []
  }
  return [...new Set([best([-1, 1]), best([-1, -1]), best([1, -1]), best([1, 1])].flat())]
}

/** Whether places lie in no line. */
function spans(places: readonly Place[]): boolean {
  const [a, b] = places
  return (
    places.length > 2 &&
    places.some(
      ({ paper: [x, y] }) =>
        Math.abs(
          (b.paper[0] - a.paper[0]) * (y - a.paper[1]) - (b.paper[1] - a.paper[1]) * (x - a.paper[0]),
        ) > 1,
    )
  )
}

/**
 * How far from its place on the page, mm, a known system puts a place at worst, when it is laid onto the page as well
 * as an affine transform can.
 */
function worstMm(places: readonly Place[], { project }: KnownSystem): number {
  if (!project) return 0
  const there = places.map(({ lon, lat }) => project(lon, lat))
  if (!there.flat().every(Number.isFinite)) return Infinity
  const fitX = fitPlane(
    there,
    places.map(({ paper }) => paper[0]),
  )
  const fitY = fitPlane(
    there,
    places.map(({ paper }) => paper[1]),
  )
  return Math.max(
    ...places.map(({ paper }, i) => Math.hypot(fitX(there[i]) - paper[0], fitY(there[i]) - paper[1])),
  )
}

/** The plane a·x + b·y + c that comes nearest to values at places, by least squares about their middle. */
function fitPlane(
  places: readonly [number, number][],
  values: readonly number[],
): (place: [number, number]) => number {
  const n = places.length
  const mean = (of: (i: number) => number): number => places.reduce((sum, _, i) => sum + of(i), 0) / n
  const [mx, my, mv] = [mean((i) => places[i][0]), mean((i) => places[i][1]), mean((i) => values[i])]
  const of = (i: number): [number, number, number] => [places[i][0] - mx, places[i][1] - my, values[i] - mv]
  const product = (p: 0 | 1 | 2, q: 0 | 1 | 2): number => mean((i) => of(i)[p] * of(i)[q])
  const [xx, xy, yy, xv, yv] = [product(0, 0), product(0, 1), product(1, 1), product(0, 2), product(1, 2)]
  const size = xx * yy - xy * xy
  const [a, b] = [(xv * yy - yv * xy) / size, (yv * xx - xv * xy) / size]
  return ([x, y]) => mv + a * (x - mx) + b * (y - my)
}
