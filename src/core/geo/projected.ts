import { geoStream, type GeoStream } from 'd3-geo'
import { entryOf } from '@/core/projection/catalogue'
import { createMemory, numberOf } from '@/core/memory/memory'
import type { Projection } from '@/core/projection/projection'
import {
  eachVertex,
  featureCount,
  ringRange,
  type Arcs,
  type Areas,
  type Geometry,
  type Lines,
} from './geometry'
import { takeFeatures } from './take-features'

/**
 * A geometry in projected metres, y downwards. Longitude and latitude have been replaced; the structure is
 * the same.
 */
export type Projected = Geometry

const rememberCoords = createMemory<Float64Array, Float64Array>('projected points', {
  maxBytes: 64 * 2 ** 20,
})
const rememberArcs = createMemory<Arcs, Arcs | null>('projected arcs', { maxBytes: 256 * 2 ** 20 })
const rememberTorn = createMemory<Geometry, Areas | Lines>('cut geometry', { maxBytes: 128 * 2 ** 20 })
const rememberTaken = createMemory<Geometry, Projected>('projected parts', { maxBytes: 32 * 2 ** 20 })
const rememberWhole = createMemory<Arcs, Projected>('projected geometry', { maxBytes: 2 ** 20 })

/**
 * Projects a geometry. Arcs are projected once for each projection, whichever geometries share them: the
 * features that a filter leaves, a land tint and the whole dataset are drawn from the same vertices.
 */
export function projectGeometry(geometry: Geometry, projection: Projection): Projected {
  if (geometry.kind === 'none') return geometry
  const key = JSON.stringify(projection.spec)
  if (geometry.kind === 'points') {
    const coords = rememberCoords(geometry.coords, key, () => projectCoords(geometry.coords, projection))
    return { ...geometry, coords }
  }
  const { taken } = geometry
  if (taken)
    return rememberTaken(geometry, key, () =>
      takeFeatures(projectGeometry(taken.from, projection), taken.rows),
    )
  const arcs = rememberArcs(geometry.arcs, key, () =>
    staysWhole(geometry.arcs, projection) ? projectArcs(geometry.arcs, projection) : null,
  )
  if (!arcs) return rememberTorn(geometry, key, () => cutAndProject(geometry, projection))
  // The same object each time, so that what is traced from it is found again. Its arrays are the geometry's own.
  return rememberWhole(arcs, `${numberOf(geometry.refs)}`, () => ({ ...geometry, arcs }))
}

function projectCoords(coords: Float64Array, projection: Projection): Float64Array {
  const out = new Float64Array(coords.length)
  for (let i = 0; i < coords.length; i += 2) {
    const [x, y] = projection.project(coords[i], coords[i + 1])
    out[i] = x
    out[i + 1] = y
  }
  return out
}

/**
 * Whether all vertices lie well away from where the projection tears the globe open, and no edge runs across
 * it.
 */
function staysWhole({ coords, starts }: Areas['arcs'], projection: Projection): boolean {
  const { spec } = projection
  const { horizonDeg, turnsToCentre } = entryOf(spec)
  // Well inside the horizon, or off the far side where there is none.
  const least = Math.cos((Math.min(148, horizonDeg - 2) * Math.PI) / 180)
  const azimuthal = turnsToCentre || horizonDeg < 180
  const [lon0, lat0] = spec.centre
  const s0 = Math.sin((lat0 * Math.PI) / 180)
  const c0 = Math.cos((lat0 * Math.PI) / 180)
  for (let arc = 0; arc + 1 < starts.length; arc++) {
    let before = NaN
    for (let v = starts[arc]; v < starts[arc + 1]; v++) {
      const east = ((((coords[2 * v] - lon0 + 180) % 360) + 360) % 360) - 180
      if (azimuthal) {
        const lat = (coords[2 * v + 1] * Math.PI) / 180
        if (s0 * Math.sin(lat) + c0 * Math.cos(lat) * Math.cos((east * Math.PI) / 180) < least) return false
      } else if (Math.abs(east) > 170 || Math.abs(east - before) > 180) return false
      before = east
    }
  }
  return true
}

/** Straight edges in longitude and latitude (RFC 7946, section 3.1.1) longer than this are bent in steps. */
const stepDegrees = 0.5

function projectArcs({ coords, starts }: Areas['arcs'], projection: Projection): Areas['arcs'] {
  const out: number[] = []
  const outStarts = new Uint32Array(starts.length)
  for (let arc = 0; arc + 1 < starts.length; arc++) {
    for (let v = starts[arc]; v < starts[arc + 1]; v++) {
      const [lon, lat] = [coords[2 * v], coords[2 * v + 1]]
      if (v > starts[arc]) {
        const [lon0, lat0] = [coords[2 * v - 2], coords[2 * v - 1]]
        const steps = Math.ceil(Math.max(Math.abs(lon - lon0), Math.abs(lat - lat0)) / stepDegrees)
        for (let s = 1; s < steps; s++) {
          const [x, y] = projection.project(
            lon0 + ((lon - lon0) * s) / steps,
            lat0 + ((lat - lat0) * s) / steps,
          )
          out.push(x, y)
        }
      }
      const [x, y] = projection.project(lon, lat)
      out.push(x, y)
    }
    outStarts[arc + 1] = out.length / 2
  }
  return { coords: Float64Array.from(out), starts: outStarts }
}

/**
 * Cuts rings and paths where the projection tears the globe, with d3-geo; each ring becomes an arc of its
 * own.
 */
function cutAndProject(geometry: Areas | Lines, projection: Projection): Areas | Lines {
  const coords: number[] = []
  const starts = [0]
  const featureStarts = new Uint32Array(featureCount(geometry) + 1)
  const polygonStarts = [0]
  let closed = false
  const end = () => {
    if (coords.length / 2 > starts[starts.length - 1]) starts.push(coords.length / 2)
  }
  const sink: GeoStream = {
    point: (x, y) => void coords.push(x, y),
    lineStart: () => undefined,
    lineEnd: () => {
      if (closed) {
        const first = 2 * starts[starts.length - 1]
        if (coords.length > first) coords.push(coords[first], coords[first + 1])
      }
      end()
    },
    polygonStart: () => void (closed = true),
    polygonEnd: () => void (closed = false),
    sphere: () => undefined,
  }
  for (let f = 0; f < featureCount(geometry); f++) {
    geoStream(sphericalFeature(geometry, f, projection.exactLatitude), projection.sphere.stream(sink))
    if (starts.length - 1 > polygonStarts[polygonStarts.length - 1]) polygonStarts.push(starts.length - 1)
    featureStarts[f + 1] = geometry.kind === 'areas' ? polygonStarts.length - 1 : starts.length - 1
  }
  const rings = starts.length - 1
  const arcs = { coords: Float64Array.from(coords), starts: Uint32Array.from(starts) }
  const refs = Int32Array.from({ length: rings }, (_, i) => i)
  const ringStarts = Uint32Array.from({ length: rings + 1 }, (_, i) => i)
  return geometry.kind === 'areas'
    ? { kind: 'areas', arcs, refs, ringStarts, polygonStarts: Uint32Array.from(polygonStarts), featureStarts }
    : { kind: 'lines', arcs, refs, ringStarts, featureStarts }
}

/** A feature with authalic latitudes and the winding that d3-geo expects (outer rings clockwise). */
function sphericalFeature(
  geometry: Areas | Lines,
  f: number,
  exact: (latitude: number) => number,
): GeoJSON.Geometry {
  const ring = (r: number): [number, number][] => {
    const points: [number, number][] = []
    eachVertex(geometry, r, (v) => {
      const lat = (exact((geometry.arcs.coords[2 * v + 1] * Math.PI) / 180) * 180) / Math.PI
      points.push([geometry.arcs.coords[2 * v], lat])
    })
    return points
  }
  const [from, to] = ringRange(geometry, f)
  if (geometry.kind === 'lines')
    return {
      type: 'MultiLineString',
      coordinates: Array.from({ length: to - from }, (_, i) => ring(from + i)),
    }
  const polygons: [number, number][][][] = []
  for (let p = geometry.featureStarts[f]; p < geometry.featureStarts[f + 1]; p++) {
    const [first, last] = [geometry.polygonStarts[p], geometry.polygonStarts[p + 1]]
    polygons.push(Array.from({ length: last - first }, (_, i) => ring(first + i).reverse()))
  }
  return { type: 'MultiPolygon', coordinates: polygons }
}
