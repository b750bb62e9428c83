import Flatbush from 'flatbush'
import type { GeometryObject } from 'topojson-specification'
import { eachVertex, featureCount, ringRange, type Areas, type Points } from '@/core/geo/geometry'
import { areaOfPoints } from '@/core/geo/points-in-areas'
import { datasetFromTopology } from '@/formats/topojson/read'
import { largeCountry } from '../demo/lindmere/large'
import { seededRandom } from '../demo/lindmere/random'
import { interleaved, type Ratio } from './measure'

/**
 * Counting 100,000 points in 2,400 areas against building the index and one candidate query for each point.
 */
export function countingRatios(): Ratio[] {
  const topology = largeCountry(2400, 120_000)
  const fresh = (): Areas => {
    const { geometry } = datasetFromTopology(
      topology,
      topology.objects.areas as GeometryObject,
      'large',
    ).dataset
    if (geometry.kind !== 'areas') throw new Error('The country is made of areas.')
    return geometry
  }
  const random = seededRandom(11)
  const n = 100_000
  const points: Points = {
    kind: 'points',
    coords: Float64Array.from({ length: 2 * n }, (_, i) =>
      i % 2 ? 46.7 + 4.6 * random() : -31.6 + 7.2 * random(),
    ),
    featureStarts: Uint32Array.from({ length: n + 1 }, (_, i) => i),
  }
  let areas = fresh()
  const queries = (): void => {
    const index = new Flatbush(featureCount(areas))
    for (let f = 0; f < featureCount(areas); f++) index.add(...boxOf(areas, f))
    index.finish()
    for (let p = 0; p < n; p++)
      index.search(
        points.coords[2 * p],
        points.coords[2 * p + 1],
        points.coords[2 * p],
        points.coords[2 * p + 1],
      )
  }
  const { base, ours } = interleaved({
    base: queries,
    ours: { run: () => void areaOfPoints(areas, points), before: () => void (areas = fresh()) },
  })
  return [
    {
      name: 'counting 100,000 points in 2,400 areas',
      ratio: ours / base,
      budget: 3,
      base: `building the index and a query for each (${base.toFixed(0)} ms)`,
    },
  ]
}

function boxOf(areas: Areas, f: number): [number, number, number, number] {
  const box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity]
  const [from, to] = ringRange(areas, f)
  for (let r = from; r < to; r++)
    eachVertex(areas, r, (v) => {
      const [x, y] = [areas.arcs.coords[2 * v], areas.arcs.coords[2 * v + 1]]
      box[0] = Math.min(box[0], x)
      box[1] = Math.min(box[1], y)
      box[2] = Math.max(box[2], x)
      box[3] = Math.max(box[3], y)
    })
  return box
}
