import { gridPlace, rasterAt, type Raster } from '@/core/data/raster'
import { fromDegrees } from '@/core/projection/reference'

/** Column and row of the held cells at a place in degrees, over the date line as well. */
function heldPlace(raster: Raster, [lon, lat]: [lon: number, lat: number]): [number, number] {
  const [column, row] = gridPlace(raster, ...fromDegrees(raster.crs)(lon, lat))
  const period = raster.crs ? 0 : 360 / Math.abs(raster.transform[1] || 1)
  const round = period ? period * Math.floor(column / period) : 0
  return [column - round, row]
}

/** The value of a band at a place, between the middles of the held cells; NaN where there is none. */
export const valueUnder = (raster: Raster, band: number, place: [lon: number, lat: number]): number =>
  rasterAt(raster, band, ...heldPlace(raster, place))

/** The value of the held cell in which a place lies; NaN where there is none. */
export function cellUnder(raster: Raster, band: number, place: [lon: number, lat: number]): number {
  const [column, row] = heldPlace(raster, place).map(Math.floor)
  const { columns, rows, values } = raster
  if (!(column >= 0 && row >= 0 && column < columns && row < rows)) return NaN
  return values[band * columns * rows + row * columns + column]
}
