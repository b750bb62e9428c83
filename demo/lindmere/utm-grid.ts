import { definitionOf } from '@/formats/crs/reproject'
import { fromLonLat, toLonLat, type Km } from './mesh'

const utm = 'EPSG:32626'
/** Places of cells are reckoned at every so many and go straight between: less than a metre off. */
const stride = 16

/** A grid over the whole country in UTM zone 26 north; the corner is that of its upper left cell. */
export type UtmGrid = {
  columns: number
  rows: number
  west: number
  north: number
  cellMetres: number
  /** Hands over each cell with its place. */
  visit: (take: (i: number, at: Km) => void) => void
}

export function utmGrid(cellMetres: number): UtmGrid {
  const { toDegrees, fromDegrees } = definitionOf(utm)
  if (!toDegrees || !fromDegrees) throw new Error('The reference system is projected.')
  const corners = (
    [
      [-318, -338],
      [312, -338],
      [-318, 322],
      [312, 322],
    ] as Km[]
  ).map((km) => fromDegrees(...(toLonLat(km) as [number, number])))
  const range = (k: 0 | 1): [number, number] => {
    const all = corners.map((corner) => Math.round(corner[k] / cellMetres) * cellMetres)
    return [Math.min(...all), Math.max(...all)]
  }
  const [[west, east], [south, north]] = [range(0), range(1)]
  const [columns, rows] = [(east - west) / cellMetres, (north - south) / cellMetres]
  const across = Math.ceil(columns / stride) + 1
  const lattice = Array.from({ length: across * (Math.ceil(rows / stride) + 1) }, (_, k) =>
    fromLonLat(
      toDegrees(
        west + ((k % across) * stride + 0.5) * cellMetres,
        north - (Math.floor(k / across) * stride + 0.5) * cellMetres,
      ),
    ),
  )
  function visit(take: (i: number, at: Km) => void): void {
    for (let r = 0; r < rows; r++)
      for (let c = 0; c < columns; c++) {
        const k = Math.floor(r / stride) * across + Math.floor(c / stride)
        const [u, v] = [(c % stride) / stride, (r % stride) / stride]
        const [a, b, d, e] = [lattice[k], lattice[k + 1], lattice[k + across], lattice[k + across + 1]]
        take(r * columns + c, [
          (a[0] * (1 - u) + b[0] * u) * (1 - v) + (d[0] * (1 - u) + e[0] * u) * v,
          (a[1] * (1 - u) + b[1] * u) * (1 - v) + (d[1] * (1 - u) + e[1] * u) * v,
        ])
      }
  }
  return { columns, rows, west, north, cellMetres, visit }
}
