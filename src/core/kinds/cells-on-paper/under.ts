import { rasterAt, type Raster } from '@/core/data/raster'
import { cellPlace } from '@/core/data/raster-ground'

/** The value of a band at a place, between the middles of the held cells; NaN where there is none. */
export const valueUnder = (raster: Raster, band: number, place: [lon: number, lat: number]): number =>
  rasterAt(raster, band, ...cellPlace(raster)(...place))

/** The value of the held cell in which a place lies; NaN where there is none. */
export function cellUnder(raster: Raster, band: number, place: [lon: number, lat: number]): number {
  const [column, row] = cellPlace(raster)(...place).map(Math.floor)
  const { columns, rows, values } = raster
  if (!(column >= 0 && row >= 0 && column < columns && row < rows)) return NaN
  return values[band * columns * rows + row * columns + column]
}
