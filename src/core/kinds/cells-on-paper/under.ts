import { rasterAt, type Raster } from '@/core/data/raster'
import { cellPlace } from '@/core/data/raster-ground'

/** What is read at a place in degrees. */
type Reader = (place: [lon: number, lat: number]) => number

/** The value of a band between the middles of the held cells; NaN where there is none. */
export function valueUnder(raster: Raster, band: number): Reader {
  const held = cellPlace(raster)
  return (place) => rasterAt(raster, band, ...held(...place))
}

/** The value of the held cell in which a place lies; NaN where there is none. */
export function cellUnder(raster: Raster, band: number): Reader {
  const held = cellPlace(raster)
  const { columns, rows, values } = raster
  return (place) => {
    const [x, y] = held(...place)
    const [column, row] = [Math.floor(x), Math.floor(y)]
    if (!(column >= 0 && row >= 0 && column < columns && row < rows)) return NaN
    return values[band * columns * rows + row * columns + column]
  }
}
