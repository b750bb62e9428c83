import type { Geometry } from '@/core/geo/geometry'
import { extentOf } from '@/core/geo/extent'
import { takeFeatures } from '@/core/geo/take-features'
import { geometriesOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { createProjection } from '@/core/projection/projection'
import type { MapSpec, MapView, Vantage } from './spec'
import { fitView } from './view'

export type Extent = [west: number, south: number, east: number, north: number]

/** What is wrong with an extent, in a sentence; null where it can be used. */
export function extentProblem([west, south, east, north]: Extent): string | null {
  if (![west, south, east, north].every(Number.isFinite)) return 'All four sides are needed.'
  if (south < -90 || north > 90) return 'Latitudes lie between −90° and 90°.'
  if (south >= north) return 'The north side has to lie north of the south side.'
  if (west >= east)
    return 'The east side has to lie east of the west side; beyond 180° it goes on to 190° and so on.'
  if (east - west > 360) return 'There are no more than 360° from west to east.'
  return null
}

/** Points over an extent, close enough for its bent sides on any projection. */
function netOver([west, south, east, north]: Extent): Geometry {
  const steps = 16
  const coords = new Float64Array(2 * (steps + 1) ** 2)
  for (let i = 0; i <= steps; i++)
    for (let j = 0; j <= steps; j++) {
      const at = 2 * (i * (steps + 1) + j)
      coords[at] = west + ((east - west) * i) / steps
      coords[at + 1] = south + ((north - south) * j) / steps
    }
  return { kind: 'points', coords, featureStarts: Uint32Array.of(0, coords.length / 2) }
}

/** The view of a vantage in a window: its own, or the one that shows its extent whole. */
export const vantageView = (
  { of }: Vantage,
  map: MapSpec,
  window: { width: number; height: number },
): MapView | null =>
  of.by === 'view' ? of.view : fitView(createProjection(map.projection), [netOver(of.extent)], window, 0.02)

/** The extent of some rows of a dataset, or of all; null where nothing has a place. */
export function extentOfRows({ dataset }: Prepared, rows: Int32Array | null): Extent | null {
  const geometries = rows && !dataset.raster ? [takeFeatures(dataset.geometry, rows)] : geometriesOf(dataset)
  return extentOf(geometries) as Extent | null
}
