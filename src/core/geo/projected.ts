import { createMemory, numberOf } from '@/core/memory/memory'
import { throughBend } from '@/core/projection/bend'
import type { Bent, Projection } from '@/core/projection/projection'
import { bendable } from './bendable'
import type { Arcs, Areas, Geometry, Lines } from './geometry'
import { placeWhole, reachesRound, tearGeometry } from './sphere/tear'
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
  const { bent } = projection
  if (bent) return bentGeometry(projectGeometry(geometry, bent.straight), projection, bent)
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
  const { frame } = projection
  const arcs = rememberArcs(geometry.arcs, key, () => placeWhole(geometry.arcs, frame))
  if (!arcs || (geometry.kind === 'areas' && reachesRound(geometry, frame)))
    return rememberTorn(geometry, key, () => tearGeometry(geometry, frame))
  // The same object each time, so that what is traced from it is found again. Its arrays are the geometry's own.
  return rememberWhole(arcs, `${numberOf(geometry.refs)}`, () => ({ ...geometry, arcs }))
}

const rememberBent = createMemory<Arcs | Float64Array, Arcs | Float64Array>('bent geometry', {
  maxBytes: 96 * 2 ** 20,
})

/** A geometry in metres as it lies in a plane that is bent; edges get as many vertices as they need to follow. */
function bentGeometry(straight: Projected, { spec }: Projection, bent: Bent): Projected {
  if (straight.kind === 'none') return straight
  const key = JSON.stringify(spec)
  if (straight.kind === 'points') {
    const { coords } = straight
    return { ...straight, coords: rememberBent(coords, key, () => bentCoords(coords, bent)) as Float64Array }
  }
  const arcs = rememberBent(straight.arcs, key, () => {
    const { coords, starts } = bendable(straight.arcs, bent.by.cell / 2)
    return { coords: bentCoords(coords, bent), starts }
  }) as Arcs
  return rememberWhole(arcs, `${numberOf(straight.refs)}`, () => ({ ...straight, arcs }))
}

/** The same for what is drawn once and not kept, such as lines of a graticule. */
export function bentOnce(straight: Lines, projection: Projection): Lines {
  const { bent } = projection
  if (!bent) return straight
  const { coords, starts } = bendable(straight.arcs, bent.by.cell / 2)
  return { ...straight, arcs: { coords: bentCoords(coords, bent), starts } }
}

function bentCoords(coords: Float64Array, bent: Bent): Float64Array {
  const out = new Float64Array(coords.length)
  for (let i = 0; i < coords.length; i += 2) {
    const [x, y] = throughBend(bent, coords[i], coords[i + 1])
    out[i] = x
    out[i + 1] = y
  }
  return out
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
