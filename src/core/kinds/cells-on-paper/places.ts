import { toMetres } from '@/core/geo/paper'
import type { GroundSteps } from '@/core/grid/relief/gradient'
import { metresPerDegree } from '@/core/projection/ground'
import type { DrawContext } from '../kind'
import type { PaperGrid } from './grid'

/** Places are reckoned exactly at every so many cells, and in between them by straight lines. */
const every = 8

/** Some cells of a grid on paper: the first column and row, which may lie before its own, and how many. */
export type Block = { left: number; top: number; columns: number; rows: number }

/** What is painted, in columns and rows of its own. */
export type Ground = {
  /** Column and row of a place in degrees; fractions are allowed. */
  place: (lon: number, lat: number) => [column: number, row: number]
  /** Columns in a round of the globe, which begin again at their first; 0 where they do not. */
  period: number
  /** The column in the middle, from which rounds are counted. */
  middle: number
}

export type Places = {
  /** Own cells along a cell on paper: the middle one of what they are here and there. */
  alongCell: () => number
  lattice: (block: Block) => Lattice
}

/** Where the cells of a block lie. */
export type Lattice = {
  /** Own columns and rows from the lowest to the highest. */
  bounds: [left: number, top: number, right: number, bottom: number]
  period: number
  /** Hands over each cell of the block with its own column and row. */
  visit: (take: (i: number, column: number, row: number) => void) => void
  steps: GroundSteps
}

/** Where cells on paper lie on the ground, and in what is painted there. */
export function createPlaces(
  { place, period, middle }: Ground,
  { box, cellMm, columns, rows }: PaperGrid,
  { projection, to }: Pick<DrawContext, 'projection' | 'to'>,
): Places {
  const lonLat = (x: number, y: number) =>
    projection.invert(...toMetres(to, box.x + x * cellMm, box.y + y * cellMm))
  const near = (column: number, to: number): number =>
    period ? column + period * Math.round((to - column) / period) : column
  const ownPlace = (x: number, y: number): [number, number] | null => {
    const at = lonLat(x, y)
    if (!at) return null
    const [column, row] = place(at[0], at[1])
    return [near(column, middle), row]
  }

  function alongCell(): number {
    const sizes: number[] = []
    for (let k = 0; k < 25; k++) {
      const [x, y] = [(columns * ((k % 5) + 0.5)) / 5, (rows * (Math.floor(k / 5) + 0.5)) / 5]
      const [a, b, c] = [ownPlace(x, y), ownPlace(x + 1, y), ownPlace(x, y + 1)]
      if (!a || !b || !c) continue
      const area = (near(b[0], a[0]) - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (near(c[0], a[0]) - a[0])
      if (area) sizes.push(Math.sqrt(Math.abs(area)))
    }
    return sizes.sort((a, b) => a - b)[Math.floor(sizes.length / 2)] ?? 1
  }

  function lattice({ left, top, columns: wide, rows: high }: Block): Lattice {
    const [c0, r0] = [Math.floor(left / every), Math.floor(top / every)]
    const across = Math.ceil((left + wide) / every) - c0 + 1
    const down = Math.ceil((top + high) / every) - r0 + 1
    // Degrees at all corners and one farther out, for the steps at the outer ones.
    const [beyond, corners] = [across + 2, across * down]
    const degrees = new Float64Array(2 * beyond * (down + 2)).fill(NaN)
    for (let r = 0; r < down + 2; r++)
      for (let c = 0; c < beyond; c++) {
        const at = lonLat((c0 + c - 1) * every, (r0 + r - 1) * every)
        if (at) degrees.set(at, 2 * (r * beyond + c))
      }
    const own = new Float64Array(2 * corners).fill(NaN)
    const bounds: Lattice['bounds'] = [Infinity, Infinity, -Infinity, -Infinity]
    const takeIn = ([column, row]: [number, number]): void => {
      bounds[0] = Math.min(bounds[0], column)
      bounds[1] = Math.min(bounds[1], row)
      bounds[2] = Math.max(bounds[2], column)
      bounds[3] = Math.max(bounds[3], row)
    }
    let beside = middle
    for (let r = 0; r < down; r++)
      for (let c = 0; c < across; c++) {
        const k = r * across + c
        const from = (r + 1) * beyond + c + 1
        const [lon, lat] = [degrees[2 * from], degrees[2 * from + 1]]
        if (Number.isNaN(lon)) continue
        const [column, row] = place(lon, lat)
        own[2 * k] = beside = near(column, beside)
        own[2 * k + 1] = row
        takeIn([beside, row])
      }
    const exact = exactPlaces()
    if (!(bounds[2] >= bounds[0])) bounds.fill(0)

    /**
     * The places of cells where straight lines between corners do not hold, at poles and at the edge of a projection,
     * by block of the lattice.
     */
    function exactPlaces(): Map<number, Float64Array> {
      const found = new Map<number, Float64Array>()
      for (let r = 0; r < down - 1; r++)
        for (let c = 0; c < across - 1; c++) {
          const k = r * across + c
          const four = [own[2 * k], own[2 * k + 2], own[2 * (k + across)], own[2 * (k + across) + 2]]
          const [least, most] = [Math.min(...four), Math.max(...four)]
          if (most - least <= (period ? period / 8 : Infinity)) continue
          const places = new Float64Array(2 * every * every).fill(NaN)
          for (let i = 0; i < every * every; i++) {
            const at = ownPlace(
              (c0 + c) * every + (i % every) + 0.5,
              (r0 + r) * every + Math.floor(i / every) + 0.5,
            )
            if (!at) continue
            places.set(at, 2 * i)
            takeIn(at)
          }
          found.set(k, places)
        }
      return found
    }

    function visit(take: (i: number, column: number, row: number) => void): void {
      for (let br = 0; br < down - 1; br++)
        for (let bc = 0; bc < across - 1; bc++) {
          const [k, x0, y0] = [br * across + bc, (c0 + bc) * every, (r0 + br) * every]
          const [a, b, c, d] = [2 * k, 2 * k + 2, 2 * (k + across), 2 * (k + across) + 2]
          const [xEnd, yEnd] = [Math.min(left + wide, x0 + every), Math.min(top + high, y0 + every)]
          const places = exact.get(k)
          for (let y = Math.max(top, y0); y < yEnd; y++) {
            const v = (y + 0.5 - y0) / every
            for (let x = Math.max(left, x0); x < xEnd; x++) {
              const i = (y - top) * wide + x - left
              if (places) {
                const at = 2 * ((y - y0) * every + x - x0)
                take(i, places[at], places[at + 1])
                continue
              }
              const u = (x + 0.5 - x0) / every
              const [p, q, s, t] = [(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v]
              take(
                i,
                own[a] * p + own[b] * q + own[c] * s + own[d] * t,
                own[a + 1] * p + own[b + 1] * q + own[c + 1] * s + own[d + 1] * t,
              )
            }
          }
        }
    }

    /** Steps at the corners; whoever asks for none has none reckoned. */
    let ground: Float64Array | null = null
    const groundAtCorners = (): Float64Array => {
      const made = new Float64Array(4 * corners).fill(NaN)
      for (let k = 0; k < corners; k++) {
        const from = (Math.floor(k / across) + 1) * beyond + (k % across) + 1
        if (!Number.isNaN(degrees[2 * from])) setSteps(made, 4 * k, { degrees, from, beyond })
      }
      return made
    }
    const steps: GroundSteps = (column, row, out) => {
      const at = (ground ??= groundAtCorners())
      const [x, y] = [(left + column + 0.5) / every - c0, (top + row + 0.5) / every - r0]
      const [c, r] = [Math.min(across - 2, Math.floor(x)), Math.min(down - 2, Math.floor(y))]
      const [u, v, k] = [x - c, y - r, 4 * (r * across + c)]
      for (let i = 0; i < 4; i++)
        out[i] =
          (at[k + i] * (1 - u) + at[k + 4 + i] * u) * (1 - v) +
          (at[k + 4 * across + i] * (1 - u) + at[k + 4 * across + 4 + i] * u) * v
    }
    return { bounds, period, visit, steps }
  }
  return { alongCell, lattice }
}

/** What a step of a cell to the right, and one down, is at a corner: metres to the east and to the north. */
function setSteps(
  ground: Float64Array,
  at: number,
  { degrees, from, beyond }: { degrees: Float64Array; from: number; beyond: number },
): void {
  const [east, north] = metresPerDegree(degrees[2 * from + 1])
  for (const [k, step] of [1, beyond].entries()) {
    // Of the corners on either side; of one and the corner itself where the other is nowhere.
    const a = Number.isNaN(degrees[2 * (from - step)]) ? from : from - step
    const b = Number.isNaN(degrees[2 * (from + step)]) ? from : from + step
    const cells = ((b - a) / step) * every || NaN
    const lon = ((((degrees[2 * b] - degrees[2 * a]) % 360) + 540) % 360) - 180
    ground[at + 2 * k] = (lon * east) / cells
    ground[at + 2 * k + 1] = ((degrees[2 * b + 1] - degrees[2 * a + 1]) * north) / cells
  }
}
