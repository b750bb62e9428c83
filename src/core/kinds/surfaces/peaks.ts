import { writeNumber } from '@/core/classify/number-format'
import { numberColumn, textAt, textColumn } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import type { Points } from '@/core/geo/geometry'
import { nearestFeatures } from '@/core/geo/nearest'
import { peaksOf } from '@/core/grid/peaks'
import { createProjection } from '@/core/projection/projection'
import type { KindData } from '../kind'
import type { SurfaceLook } from './look'
import type { SurfacePlan } from './plan'
import type { Surface } from './surface'

/** Fields of the points that peaks are: what labels can say of them. */
const peakFields = ['place', 'peak', 'value'] as const

type Columns = { place: (string | null)[]; peak: string[]; value: number[] }

const pointsAt = (lonLat: number[]): Points => ({
  kind: 'points',
  coords: Float64Array.from(lonLat),
  featureStarts: Uint32Array.from({ length: lonLat.length / 2 + 1 }, (_, i) => i),
})

const peakPoints = (geometry: Points, columns: Columns): Dataset => ({
  rowCount: columns.value.length,
  fields: peakFields.map((key) => ({
    key,
    column: key === 'value' ? numberColumn(columns.value) : textColumn(columns[key]),
  })),
  geometry,
})

/** Peaks of no surface: what there is to say of any. */
export const noPeaks: Dataset = peakPoints(pointsAt([]), { place: [], peak: [], value: [] })

/**
 * The peaks of a surface as points, the highest first, each with its value in words and unit, as a number, and the name
 * of the place of another dataset that is nearest to it; null where none are wanted.
 */
export function peakDataset(
  { peaks: wanted, numbers }: SurfaceLook,
  { grid, within }: Surface,
  { least, decimals, unit }: Pick<SurfacePlan, 'least' | 'decimals'> & { unit: string },
  data: KindData,
): Dataset | null {
  if (!wanted) return null
  const found = peaksOf(grid, { least, within, most: wanted.most, atLeast: wanted.atLeast })
  const plane = createProjection(grid.plane)
  const places = found.flatMap(({ x, y, value }) => {
    const at = plane.invert(x, y)
    return at ? [{ at, value }] : []
  })
  const geometry = pointsAt(places.flatMap(({ at }) => at))
  const names = wanted.names ? nearestNames(wanted.names, geometry, data) : []
  return peakPoints(geometry, {
    place: places.map((_, i) => names[i] ?? null),
    peak: places.map(({ value }) => `${writeNumber(value, numbers, decimals)} ${unit}`.trim()),
    value: places.map(({ value }) => value),
  })
}

/** The name of the nearest feature of a dataset for each peak, of areas the one in which it lies. */
function nearestNames(
  { datasetId, field }: { datasetId: string; field: string },
  peaks: Points,
  { datasetOf }: KindData,
): (string | null)[] {
  const dataset = datasetOf(datasetId)
  const column = dataset && fieldOf(dataset, field)
  if (!column) return []
  const { features } = nearestFeatures(peaks, dataset.geometry)
  return Array.from(features, (row) => (row < 0 ? null : textAt(column, row)))
}
