import { textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { featurePlaces } from '@/core/data/feature-places'
import type { Prepared } from '@/core/data/prepare'
import { groundAreas } from '@/core/geo/measure'
import type { AmountSettings } from './spec'

type Place = [lon: number, lat: number]

/**
 * The middle of the rows of an amount on the ground: the mean of the places of its features, weighted by their areas
 * where they have some; null for rows without places. The mean is that of their directions from the middle of the
 * globe, so that the edge of a map does not matter.
 */
export function amountPlace({ of }: Pick<AmountSettings, 'of'>, { dataset }: Prepared): Place | null {
  const column = of && fieldOf(dataset, of.field)
  const places = featurePlaces(dataset)
  const areas = dataset.geometry.kind === 'areas' ? groundAreas(dataset.geometry) : null
  let [x, y, z] = [0, 0, 0]
  for (let row = 0; row < dataset.rowCount; row++) {
    if (of && !(column && textAt(column, row) === of.value)) continue
    const [lon, lat] = [places[2 * row], places[2 * row + 1]].map((degrees) => (degrees * Math.PI) / 180)
    const weight = areas ? areas[row] : 1
    if (!Number.isFinite(lon) || !(weight > 0)) continue
    x += weight * Math.cos(lat) * Math.cos(lon)
    y += weight * Math.cos(lat) * Math.sin(lon)
    z += weight * Math.sin(lat)
  }
  if (!x && !y && !z) return null
  const degrees = 180 / Math.PI
  return [Math.atan2(y, x) * degrees, Math.atan2(z, Math.hypot(x, y)) * degrees]
}

/** More amounts than these are not made at once. */
export const mostForEach = 60

/** The values of a field, each once, in the order of the rows. */
export function valuesOfField(field: string, { dataset }: Prepared): string[] {
  const column = fieldOf(dataset, field)
  if (!column) return []
  const rows = Array.from({ length: dataset.rowCount }, (_, row) => textAt(column, row))
  return [...new Set(rows)].filter((value) => value !== null)
}
