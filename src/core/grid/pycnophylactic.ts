import type { Grid, Lattice } from './grid'
import type { Steps } from './steps'

const mostRounds = 200
/** Rounds end when no cell changes by more than this share of the largest value. */
const settled = 1e-4

/**
 * Pycnophylactic interpolation (Tobler 1979): a smooth surface over areas of which every one keeps its total exactly.
 * It begins flat within each area; each round takes the mean of the four neighbours (at the edge a cell is its own
 * neighbour, so that nothing flows out), gives every area back what it lost or gained, and lets nothing fall below zero
 * where no total does.
 * @param areaOf the area of each cell, −1 for none
 * @param totals of each area; NaN leaves its cells without a value
 * @returns values for one cell, which add up to the totals; areas without a cell are `lost`
 */
export function* pycnophylactic(
  lattice: Lattice,
  areaOf: Int32Array,
  totals: Float64Array,
): Steps<{ grid: Grid; lost: number[] }> {
  const { columns, rows } = lattice
  const counts = new Float64Array(totals.length)
  for (const f of areaOf) if (f >= 0) counts[f]++
  const known = (f: number): boolean => f >= 0 && Number.isFinite(totals[f])
  let values: Float64Array = Float64Array.from(areaOf, (f) => (known(f) ? totals[f] / counts[f] : NaN))
  const least = totals.some((total) => total < 0) ? -Infinity : 0
  const largest = values.reduce((most, value) => (Math.abs(value) > most ? Math.abs(value) : most), 0)
  for (let round = 0; round < mostRounds; round++) {
    yield round / mostRounds
    const next = smoothed(values, columns, rows)
    restore(next, { areaOf, totals, counts, least })
    let change = 0
    for (let i = 0; i < next.length; i++) change = Math.max(change, Math.abs(next[i] - values[i]) || 0)
    values = next
    if (change <= settled * largest) break
  }
  const lost = [...totals.keys()].filter((f) => Number.isFinite(totals[f]) && totals[f] !== 0 && !counts[f])
  return { grid: { ...lattice, values }, lost }
}

function smoothed(values: Float64Array, columns: number, rows: number): Float64Array {
  const next = new Float64Array(values.length)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const i = r * columns + c
      const own = values[i]
      if (Number.isNaN(own)) {
        next[i] = NaN
        continue
      }
      const west = c > 0 ? values[i - 1] : NaN
      const east = c + 1 < columns ? values[i + 1] : NaN
      const north = r > 0 ? values[i - columns] : NaN
      const south = r + 1 < rows ? values[i + columns] : NaN
      next[i] =
        ((Number.isNaN(west) ? own : west) +
          (Number.isNaN(east) ? own : east) +
          (Number.isNaN(north) ? own : north) +
          (Number.isNaN(south) ? own : south)) /
        4
    }
  return next
}

type Kept = { areaOf: Int32Array; totals: Float64Array; counts: Float64Array; least: number }

/** Gives every area its total back: what is missing is shared by its cells, then what is left in proportion. */
function restore(values: Float64Array, { areaOf, totals, counts, least }: Kept): void {
  const sums = sumsOf(values, areaOf, totals.length)
  for (let i = 0; i < values.length; i++) {
    const f = areaOf[i]
    if (f < 0) continue
    values[i] = Math.max(least, values[i] + (totals[f] - sums[f]) / counts[f])
  }
  if (least < 0) return
  // Where cells were held at zero the others give way.
  const now = sumsOf(values, areaOf, totals.length)
  for (let i = 0; i < values.length; i++) {
    const f = areaOf[i]
    if (f >= 0 && now[f] > 0) values[i] *= totals[f] / now[f]
  }
}

function sumsOf(values: Float64Array, areaOf: Int32Array, areas: number): Float64Array {
  const sums = new Float64Array(areas)
  for (let i = 0; i < values.length; i++)
    if (areaOf[i] >= 0 && !Number.isNaN(values[i])) sums[areaOf[i]] += values[i]
  return sums
}
