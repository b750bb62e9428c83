import { topology } from 'topojson-server'
import type { Feature, FeatureCollection, Polygon } from 'geojson'
import type { Topology } from 'topojson-specification'
import { makeMesh, polygonsOf, regionRings, toLonLat, type Km } from './mesh'
import { seededRandom } from './random'

/**
 * A country of many small areas, about `vertices` in all (borders counted for both sides), for benchmarks.
 */
export function largeCountry(areas: number, vertices: number, seed = 7): Topology {
  const random = seededRandom(seed)
  const side = Math.ceil(Math.sqrt(areas)) + 6
  const spacing = 560 / side
  const sites: Km[] = []
  for (let j = 0; j < side; j++)
    for (let i = 0; i < side; i++)
      sites.push([(i + random() * 0.8) * spacing - 280, (j + random() * 0.8) * spacing - 280])
  const mesh = makeMesh(sites)
  const labels = new Int32Array(sites.length).fill(-1)
  let label = 0
  for (let j = 3; j < side - 3; j++)
    for (let i = 3; i < side - 3 && label < areas; i++) labels[j * side + i] = label++
  // A cell has about six edges of 0.62 spacings; since edges are halved until they are short enough, they end
  // up in 1.6 times as many pieces.
  const pieces = vertices / areas / 6 / 1.6
  const rings = regionRings(mesh, labels, labels, {
    inland: 0.12,
    coast: 0.12,
    finestKm: (0.62 * spacing) / pieces,
  })
  const features: Feature<Polygon>[] = [...rings]
    .sort(([a], [b]) => a - b)
    .map(([id, list]) => ({
      type: 'Feature',
      properties: { code: `A${id}`, value: Number((Math.exp(2 + random()) * (1 + random())).toFixed(4)) },
      geometry: {
        type: 'Polygon',
        coordinates: polygonsOf(list)[0].map((ring) => [...ring.map(toLonLat), toLonLat(ring[0])]),
      },
    }))
  return topology({ areas: { type: 'FeatureCollection', features } as FeatureCollection })
}
