import { meshArcs } from 'topojson-client'
import type { GeometryObject, Topology } from 'topojson-specification'
import { geometryFromTopology } from './from-topology'
import { mergeAreas } from './sphere/merge-areas'
import { ringRange, type Areas, type Geometry, type Lines } from './geometry'

/**
 * Features merged by group: `groups[f]` numbers the group of feature `f` from 0, −1 leaves it out. Borders
 * between areas of a group vanish, all others stay as they are, arc by arc, so that areas add up exactly;
 * segments of lines that meet end to end become one. Points of a group become one feature of several points.
 */
export function mergeGeometry(geometry: Geometry, groups: Int32Array, count: number): Geometry {
  const members: number[][] = Array.from({ length: count }, () => [])
  groups.forEach((group, f) => group >= 0 && members[group].push(f))
  if (geometry.kind === 'none') return geometry
  if (geometry.kind === 'points') {
    const starts = new Uint32Array(count + 1)
    const coords: number[] = []
    members.forEach((list, g) => {
      for (const f of list)
        for (let p = geometry.featureStarts[f]; p < geometry.featureStarts[f + 1]; p++)
          coords.push(geometry.coords[2 * p], geometry.coords[2 * p + 1])
      starts[g + 1] = coords.length / 2
    })
    return { kind: 'points', coords: Float64Array.from(coords), featureStarts: starts }
  }
  if (geometry.kind === 'areas') return mergeAreas(geometry, members)
  const topology = asTopology(geometry)
  // The library's types ask for objects of a topology with properties; it reads their arcs alone.
  const objects = members.map(
    (list): GeometryObject =>
      meshArcs(topology, {
        type: 'GeometryCollection',
        geometries: list.map((f) => ({ type: 'MultiLineString', arcs: ringArcs(geometry, f) })),
      } as never) as unknown as GeometryObject,
  )
  return geometryFromTopology(topology, { type: 'GeometryCollection', geometries: objects } as GeometryObject)
}

/** The arcs as TopoJSON has them, for the operations of its library. */
export function asTopology({ arcs }: Areas | Lines): Topology {
  const list = Array.from({ length: arcs.starts.length - 1 }, (_, a) =>
    Array.from({ length: arcs.starts[a + 1] - arcs.starts[a] }, (_, i): [number, number] => [
      arcs.coords[2 * (arcs.starts[a] + i)],
      arcs.coords[2 * (arcs.starts[a] + i) + 1],
    ]),
  )
  return { type: 'Topology', arcs: list, objects: {} }
}

function ringArcs(geometry: Areas | Lines, f: number): number[][] {
  const [from, to] = ringRange(geometry, f)
  return Array.from({ length: to - from }, (_, i) =>
    Array.from(geometry.refs.subarray(geometry.ringStarts[from + i], geometry.ringStarts[from + i + 1])),
  )
}

export function polygonArcs(areas: Areas, f: number): number[][][] {
  const out: number[][][] = []
  for (let p = areas.featureStarts[f]; p < areas.featureStarts[f + 1]; p++) {
    const rings: number[][] = []
    for (let r = areas.polygonStarts[p]; r < areas.polygonStarts[p + 1]; r++)
      rings.push(Array.from(areas.refs.subarray(areas.ringStarts[r], areas.ringStarts[r + 1])))
    out.push(rings)
  }
  return out
}
