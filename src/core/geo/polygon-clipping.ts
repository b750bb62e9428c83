import { difference, intersection, union } from 'polyclip-ts'
import type { Position } from 'geojson'

/** Polygons as GeoJSON has them: each a list of rings, the outer one first. */
export type Polygons = Position[][][]

// The library's own type for positions is a pair; those of GeoJSON may have a height, which it passes over.
type Clippable = Parameters<typeof union>[0]

/** What lies in any of some polygons, rings that cross themselves being untangled on the way. */
export function unionOf(polygons: Polygons): Polygons {
  const [first, ...others] = polygons.map((rings) => [rings] as Clippable)
  return first ? union(first, ...others) : []
}

/** What lies in both. */
export const intersectionOf = (a: Polygons, b: Polygons): Polygons =>
  intersection(a as Clippable, b as Clippable)

/** What lies in the first but in none of some polygons; those without rings count for nothing. */
export const differenceOf = (from: Polygons, ...polygons: Polygons): Polygons =>
  difference(
    from as Clippable,
    ...polygons.filter(({ length }) => length).map((rings) => [rings] as Clippable),
  )
