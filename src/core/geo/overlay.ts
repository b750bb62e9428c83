import Flatbush from 'flatbush'
import type { MultiPolygon, Position } from 'geojson'
import { boxOf, type Tell } from './buffer'
import { boxed, withMargin } from './box-clip'
import { featureCount, type Areas } from './geometry'
import { groundAreas } from './measure'
import { planarArea } from './planar-area'
import { differenceOf, intersectionOf, type Polygons } from './polygon-clipping'
import { geometryFromShapes } from './shapes'
import { flatPolygons } from './sphere/flat'

/** Pieces of areas cut by other areas: which of each they come from (−1: outside of all others). */
export type Overlay = { areas: Areas; own: Int32Array; other: Int32Array; dropped: number }

/** Less of an area than this is no piece but a rounding of coordinates. */
const leastShare = 1e-9

/**
 * Every area cut into what lies in each of the others, in their order, and what lies outside of them all. Pieces of
 * less than `leastKm2` are left out and counted.
 */
export function overlayAreas(
  areas: Areas,
  by: Areas,
  { keepRest, leastKm2 }: { keepRest: boolean; leastKm2: number },
  tell: Tell = () => undefined,
): Overlay {
  const others = Array.from({ length: featureCount(by) }, (_, f) =>
    flatPolygons(by, f).map((polygon) => ({ f, polygon, box: boxOf(polygon[0]) })),
  ).flat()
  const index = others.length ? new Flatbush(others.length) : null
  for (const { box } of others) index?.add(...box)
  index?.finish()
  const pieces: { own: number; other: number; shape: MultiPolygon }[] = []
  const count = featureCount(areas)
  for (let f = 0; f < count; f++) {
    tell(f / count)
    const found = new Map<number, Polygons>()
    const add = (other: number, polygons: Polygons) => {
      if (polygons.length) found.set(other, [...(found.get(other) ?? []), ...polygons])
    }
    for (const polygon of flatPolygons(areas, f)) {
      const own = { polygon, box: boxOf(polygon[0]) }
      const near = (index?.search(...own.box) ?? []).sort((a, b) => a - b).map((i) => others[i])
      let rest = sizeOf([polygon])
      for (const other of near) {
        const common = commonOf(own, other)
        rest -= sizeOf(common)
        add(other.f, common)
      }
      if (keepRest && Math.abs(rest) > leastShare * sizeOf([polygon]))
        add(-1, differenceOf([polygon], ...near.map((other) => boxed(other.polygon, own.box) ?? [])))
    }
    const inOrder = [...found].sort(([a], [b]) => (a < 0 ? 1 : 0) - (b < 0 ? 1 : 0) || a - b)
    for (const [other, coordinates] of inOrder)
      pieces.push({ own: f, other, shape: { type: 'MultiPolygon', coordinates } })
  }
  const all = geometryFromShapes(pieces.map(({ shape }) => shape)) as Areas
  const sizes = groundAreas(all)
  const whole = groundAreas(areas)
  const real = pieces.map(({ own }, i) => sizes[i] > leastShare * whole[own])
  const kept = pieces.flatMap((_, i) => (real[i] && sizes[i] / 1e6 >= leastKm2 ? [i] : []))
  const dropped = real.filter(Boolean).length - kept.length
  return {
    areas:
      kept.length === pieces.length ? all : (geometryFromShapes(kept.map((i) => pieces[i].shape)) as Areas),
    own: Int32Array.from(kept, (i) => pieces[i].own),
    other: Int32Array.from(kept, (i) => pieces[i].other),
    dropped,
  }
}

type Boxed = { polygon: Position[][]; box: [number, number, number, number] }

/** What lies in two polygons, reckoned on as little of both as can be. */
function commonOf(a: Boxed, b: Boxed): Polygons {
  const box: Boxed['box'] = [
    Math.max(a.box[0], b.box[0]),
    Math.max(a.box[1], b.box[1]),
    Math.min(a.box[2], b.box[2]),
    Math.min(a.box[3], b.box[3]),
  ]
  const [ofA, ofB] = [boxed(a.polygon, box), boxed(b.polygon, box)]
  if (!ofA || !ofB) return []
  // One that fills the whole box of the other holds all of it.
  if (fills(ofA, box) && isBox(b.box, box)) return [b.polygon]
  if (fills(ofB, box) && isBox(a.box, box)) return [a.polygon]
  return intersectionOf([ofA], [ofB])
}

const isBox = (a: Boxed['box'], b: Boxed['box']): boolean => a.every((side, i) => side === b[i])

/** Whether a polygon that was cut down to a box and its margin runs along the margin alone: it holds the box. */
function fills(rings: Position[][], box: Boxed['box']): boolean {
  if (rings.length !== 1) return false
  const [west, south, east, north] = withMargin(box)
  const [ring] = rings
  const along = (a: Position, b: Position) =>
    (a[0] === b[0] && (a[0] === west || a[0] === east)) ||
    (a[1] === b[1] && (a[1] === south || a[1] === north))
  return (
    ring.every((place, i) => i === 0 || along(ring[i - 1], place)) &&
    Math.abs(planarArea(ring)) > ((east - west) * (north - south)) / 2
  )
}

/** What polygons cover in the plane of longitude and latitude, square degrees. */
const sizeOf = (polygons: Polygons): number =>
  polygons.reduce(
    (sum, rings) => sum + rings.reduce((all, ring, i) => all + (i ? -1 : 1) * Math.abs(planarArea(ring)), 0),
    0,
  )
