import { cellsOfBand, sizeAtLevel, type Raster } from './raster'

/**
 * Some cells of a band at one level of detail. Held column x and row y lie at column `scale · x − left` and row
 * `scale · y − top` of them.
 */
export type Cells = {
  values: Float32Array
  columns: number
  rows: number
  left: number
  top: number
  /** Cells of this level beside each other on one held cell: above 1 for finer ones, below 1 for coarser ones. */
  scale: number
  /** Columns and rows of the whole level. */
  whole: { columns: number; rows: number }
}

/** A window in held columns and rows; whatever of it lies outside of the raster is left out. */
export type CellWindow = { left: number; top: number; right: number; bottom: number }

/** The level that is held. Those before it are finer and read from tiles, those after it are means of held cells. */
export const levelHeld = ({ fine }: Raster): number => fine?.levels ?? 0

/** The finest level that can be read here. */
export const finestLevel = (raster: Raster): number => (raster.readTile ? 0 : levelHeld(raster))

/**
 * The coarsest level whose cells are no larger than what is asked for, so that nothing is passed over in between.
 * @param held how many held cells lie along what is asked for
 */
export function levelFor(raster: Raster, held: number): number {
  const coarsest = levelHeld(raster) + Math.floor(Math.log2(Math.min(raster.columns, raster.rows)))
  const level = levelHeld(raster) + Math.floor(Math.log2(held) + 1e-9)
  return Math.max(finestLevel(raster), Math.min(coarsest, level))
}

/**
 * The cells of a band in a window, at a level of detail.
 * @throws Error where a tile cannot be read
 */
export function cellsOf(
  raster: Raster,
  { band, level, window }: { band: number; level: number; window: CellWindow },
): Cells {
  const held = levelHeld(raster)
  const scale = 2 ** (held - level)
  const whole = sizeOf(raster, level)
  const clip = (n: number, most: number): number => Math.min(most, Math.max(0, n))
  const left = clip(Math.floor(window.left * scale), whole.columns)
  const top = clip(Math.floor(window.top * scale), whole.rows)
  const columns = clip(Math.ceil(window.right * scale), whole.columns) - left
  const rows = clip(Math.ceil(window.bottom * scale), whole.rows) - top
  const place = { left, top, scale, whole }
  if (columns <= 0 || rows <= 0) return { ...place, values: new Float32Array(0), columns: 0, rows: 0 }
  if (level >= held)
    return {
      ...place,
      ...cut(halved(raster, band, level - held), whole.columns, { left, top, columns, rows }),
    }
  const values = new Float32Array(columns * rows)
  const { side } = raster.fine as NonNullable<Raster['fine']>
  for (let row = Math.floor(top / side); row * side < top + rows; row++)
    for (let column = Math.floor(left / side); column * side < left + columns; column++) {
      const tile = raster.readTile?.({ level, band, column, row })
      if (!tile) throw new Error('The fine cells of this raster cannot be read here.')
      const wide = Math.min(side, whole.columns - column * side)
      const [x0, x1] = [Math.max(left, column * side), Math.min(left + columns, (column + 1) * side)]
      const [y0, y1] = [Math.max(top, row * side), Math.min(top + rows, (row + 1) * side)]
      for (let y = y0; y < y1; y++) {
        const from = (y - row * side) * wide - column * side
        values.set(tile.subarray(from + x0, from + x1), (y - top) * columns + x0 - left)
      }
    }
  return { ...place, values, columns, rows }
}

/** Cells from the first column of the globe to its last, with one more on either side: those that lie there. */
export function withSeam(cells: Cells): Cells {
  const { values, columns, rows, left } = cells
  const wide = columns + 2
  const out = new Float32Array(wide * rows)
  for (let r = 0; r < rows; r++) {
    const own = values.subarray(r * columns, (r + 1) * columns)
    out.set(own, r * wide + 1)
    out[r * wide] = own[columns - 1]
    out[r * wide + wide - 1] = own[0]
  }
  return { ...cells, values: out, columns: wide, left: left - 1 }
}

/** Columns and rows of a level. */
export function sizeOf(raster: Raster, level: number): { columns: number; rows: number } {
  const held = levelHeld(raster)
  return level >= held
    ? sizeAtLevel(raster.columns, raster.rows, level - held)
    : sizeAtLevel(raster.fileSize[0], raster.fileSize[1], level)
}

function cut(
  values: Float32Array,
  wide: number,
  { left, top, columns, rows }: { left: number; top: number; columns: number; rows: number },
): Pick<Cells, 'values' | 'columns' | 'rows'> {
  if (columns === wide) return { values: values.subarray(top * wide, (top + rows) * wide), columns, rows }
  const some = new Float32Array(columns * rows)
  for (let r = 0; r < rows; r++) {
    const from = (top + r) * wide + left
    some.set(values.subarray(from, from + columns), r * columns)
  }
  return { values: some, columns, rows }
}

const halvings = { means: new WeakMap<Float32Array, Levels>(), kinds: new WeakMap<Float32Array, Levels>() }
/** Coarser and coarser cells by band. */
type Levels = Map<number, Float32Array[]>

/** The held cells of a band, halved so many times; kept with the raster, of which they are a third in all. */
function halved(raster: Raster, band: number, times: number): Float32Array {
  const { values, columns, rows, ofKinds } = raster
  const kept = ofKinds ? halvings.kinds : halvings.means
  const half = ofKinds ? halfOfKinds : halfOfMeans
  const ofBands: Levels = kept.get(values) ?? new Map()
  kept.set(values, ofBands)
  const levels = ofBands.get(band) ?? [cellsOfBand(raster, band)]
  ofBands.set(band, levels)
  while (levels.length <= times) {
    const size = sizeAtLevel(columns, rows, levels.length - 1)
    levels.push(half(levels[levels.length - 1], size.columns, size.rows))
  }
  return levels[times]
}

/** Means of two by two cells, of those that have a value. */
function halfOfMeans(values: Float32Array, columns: number, rows: number): Float32Array {
  const [wide, high] = [Math.ceil(columns / 2), Math.ceil(rows / 2)]
  const means = new Float32Array(wide * high)
  for (let r = 0; r < high; r++)
    for (let c = 0; c < wide; c++) {
      let [sum, count] = [0, 0]
      for (let y = 2 * r; y < Math.min(rows, 2 * r + 2); y++)
        for (let x = 2 * c; x < Math.min(columns, 2 * c + 2); x++) {
          const value = values[y * columns + x]
          if (Number.isNaN(value)) continue
          sum += value
          count++
        }
      means[r * wide + c] = count ? sum / count : NaN
    }
  return means
}

/** The commonest of two by two cells, of those that have a value; the first of several that are as common. */
function halfOfKinds(values: Float32Array, columns: number, rows: number): Float32Array {
  const [wide, high] = [Math.ceil(columns / 2), Math.ceil(rows / 2)]
  const kinds = new Float32Array(wide * high)
  const four = new Float64Array(4)
  const weights = Float64Array.of(1, 1, 1, 1)
  for (let r = 0; r < high; r++)
    for (let c = 0; c < wide; c++) {
      let count = 0
      for (let y = 2 * r; y < Math.min(rows, 2 * r + 2); y++)
        for (let x = 2 * c; x < Math.min(columns, 2 * c + 2); x++) {
          const value = values[y * columns + x]
          if (value === value) four[count++] = value
        }
      kinds[r * wide + c] = commonest(four, weights, count)
    }
  return kinds
}

/** The value with the most weight among the first `count`, the first one where several have as much; NaN of none. */
export function commonest(values: Float64Array, weights: Float64Array, count: number): number {
  let [best, most] = [NaN, 0]
  for (let i = 0; i < count; i++) {
    let weight = 0
    for (let k = 0; k < count; k++) if (values[k] === values[i]) weight += weights[k]
    if (weight > most) {
      most = weight
      best = values[i]
    }
  }
  return best
}
