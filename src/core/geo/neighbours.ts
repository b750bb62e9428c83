import { arcNeighbours, type Geometry } from './geometry'

const known = new WeakMap<Geometry, { a: Uint32Array; b: Uint32Array }>()

/**
 * Every pair of areas that share a border, once, the lower number first. Areas that only touch in a point are
 * no neighbours.
 */
export function neighbourPairs(geometry: Geometry): { a: Uint32Array; b: Uint32Array } {
  const neighbours = known.get(geometry)
  if (neighbours) return neighbours
  const pairs = new Map<number, [number, number]>()
  if (geometry.kind === 'areas') {
    const sides = arcNeighbours(geometry)
    const count = geometry.featureStarts.length
    for (let arc = 0; arc < sides.length; arc += 2) {
      const [low, high] =
        sides[arc] < sides[arc + 1] ? [sides[arc], sides[arc + 1]] : [sides[arc + 1], sides[arc]]
      if (low >= 0) pairs.set(low * count + high, [low, high])
    }
  }
  const made = {
    a: Uint32Array.from(pairs.values(), ([low]) => low),
    b: Uint32Array.from(pairs.values(), ([, high]) => high),
  }
  known.set(geometry, made)
  return made
}
