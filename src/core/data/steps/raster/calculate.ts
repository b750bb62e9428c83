import { z } from 'zod'
import { FormulaError, parseFormula } from '../../formula'
import { rasterAt, type Raster } from '../../raster'
import { cellDegrees, cellPlace } from '../../raster-ground'
import { otherOf, StepProblem, type StepKind } from '../step'
import { bandOf, rasterOf, withCells } from './result'

const CalculateSettings = z.object({
  formula: z.string(),
  /** Another raster, whose bands are `other_1` and so on; empty for none. */
  datasetId: z.string(),
})

/**
 * A formula for each cell, over the bands of the raster (`band_1`, `band_2`…) and those of another one at the same
 * places (`other_1`…), such as the index (band_2 − band_1) / (band_2 + band_1).
 */
export const calculate: StepKind<z.infer<typeof CalculateSettings>> = {
  label: 'Formula over cells',
  about: 'cells',
  settings: CalculateSettings,
  form: [
    { name: 'datasetId', label: 'With', control: 'dataset', geometry: 'raster', none: 'no other raster' },
    { name: 'formula', label: 'Formula', control: 'text' },
  ],
  accepts: ({ dataset }) => dataset.raster !== undefined,
  initial: ({ dataset: { raster } }) => ({
    formula: (raster?.bands ?? 1) > 1 ? '(band_2 - band_1) / (band_2 + band_1)' : 'band_1 * 1',
    datasetId: '',
  }),
  needs: ({ datasetId }) => (datasetId ? [datasetId] : []),
  words: ({ formula }) => formula,
  apply({ formula, datasetId }, from, others, work) {
    const raster = rasterOf(from)
    const other = datasetId ? rasterOf(otherOf(others, datasetId)) : null
    const bands = new Map<string, ArrayLike<number>>()
    for (let b = 1; b <= raster.bands; b++) bands.set(`band_${b}`, bandOf(raster, b))
    const named = [...bands.keys(), ...Array.from({ length: other?.bands ?? 0 }, (_, b) => `other_${b + 1}`)]
    const { fields, evaluate } = said(() => parseFormula(formula, named))
    for (const name of fields)
      if (other && name.startsWith('other_'))
        bands.set(name, broughtOver(other, Number(name.slice(6)) - 1, raster))
    const cells = new Float32Array(raster.columns * raster.rows)
    const row: Record<string, number> = {}
    for (let i = 0; i < cells.length; i++) {
      if (i % 100_000 === 0) work.tell(i / cells.length)
      let missing = false
      for (const name of fields) {
        const value = bands.get(name)?.[i] ?? NaN
        if (value !== value) missing = true
        row[name] = value
      }
      const value = missing ? NaN : Number(said(() => evaluate(row)))
      cells[i] = Number.isFinite(value) ? value : NaN
    }
    return withCells(from, [cells], work)
  },
}

/** @throws StepProblem saying what is wrong with the formula */
function said<T>(work: () => T): T {
  try {
    return work()
  } catch (error) {
    // A formula that can be read may still ask for what cannot be reckoned, such as a root of two numbers.
    throw new StepProblem(
      error instanceof FormulaError ? error.message : `It cannot be reckoned: ${String(error)}`,
    )
  }
}

/** A band of another raster at the cells of one. */
function broughtOver(other: Raster, band: number, to: Raster): Float32Array {
  const place = cellDegrees(to)
  const inOther = cellPlace(other)
  return Float32Array.from({ length: to.columns * to.rows }, (_, i) =>
    rasterAt(other, band, ...inOther(...place(i % to.columns, Math.floor(i / to.columns)))),
  )
}
