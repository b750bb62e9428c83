import { formatNumber } from '@/core/classify/labels'
import { numberColumn } from '../../column'
import { heldOnly, type Raster } from '../../raster'
import { cellMetres } from '../../raster-ground'
import { StepProblem, type Preparing, type StepWork } from '../step'

/** The raster of a dataset. @throws StepProblem where it has none */
export function rasterOf({ dataset }: Preparing): Raster {
  if (!dataset.raster) throw new StepProblem('It takes a raster.')
  return dataset.raster
}

/** The held cells of a band, counted from 1. @throws StepProblem where there is no such band */
export function bandOf({ bands, columns, rows, values }: Raster, band: number): Float32Array {
  if (!(band >= 1 && band <= bands))
    throw new StepProblem(`There is no band ${band}: the raster has ${bands}.`)
  return values.subarray((band - 1) * columns * rows, band * columns * rows)
}

/**
 * A dataset with other cells in place of those held. Finer cells are not reckoned: what is left of them is said.
 * @param bands the cells of each band
 * @param as whether they name kinds of ground, and the colours of these
 */
export function withCells(
  from: Preparing,
  bands: Float32Array[],
  work: StepWork,
  as: Pick<Raster, 'ofKinds' | 'palette'> = {},
): Preparing {
  const raster = rasterOf(from)
  const cells = raster.columns * raster.rows
  const values = new Float32Array(bands.length * cells)
  bands.forEach((band, b) => values.set(band, b * cells))
  const { fine } = raster
  const held = heldOnly({ ...raster, ofKinds: as.ofKinds, palette: as.palette })
  if (fine)
    work.remark(
      `Reckoned on cells of ${metres(cellMetres(raster))}; those of the file are ${metres(cellMetres(raster) / 2 ** fine.levels)} wide.`,
    )
  const figures = bands.map(figuresOf)
  const field = (key: string, of: (f: Figures) => number | null) => ({
    key,
    column: numberColumn(figures.map(of)),
  })
  const fields = [
    { key: 'band_no', column: numberColumn(bands.map((_, b) => b + 1)) },
    field('lowest', (f) => f.low),
    field('highest', (f) => f.high),
    field('mean', (f) => f.mean),
    field('standard_deviation', (f) => f.deviation),
    field('empty_percent', (f) => f.empty),
  ]
  return {
    ...from,
    dataset: {
      ...from.dataset,
      rowCount: bands.length,
      fields,
      raster: { ...held, bands: bands.length, values },
    },
    origins: new Map(fields.map(({ key }) => [key, { datasetId: from.datasetId, key }])),
  }
}

const metres = (m: number): string =>
  m < 1000 ? `${formatNumber(m, m < 10 ? 1 : 0)} m` : `${formatNumber(m / 1000, 1)} km`

type Figures = {
  low: number | null
  high: number | null
  mean: number | null
  deviation: number | null
  empty: number
}

function figuresOf(cells: Float32Array): Figures {
  let [low, high, count, mean, squares] = [Infinity, -Infinity, 0, 0, 0]
  for (const value of cells) {
    if (value !== value) continue
    if (value < low) low = value
    if (value > high) high = value
    // Welford 1962.
    const off = value - mean
    mean += off / ++count
    squares += off * (value - mean)
  }
  return {
    low: count ? low : null,
    high: count ? high : null,
    mean: count ? mean : null,
    deviation: count > 1 ? Math.sqrt(squares / (count - 1)) : null,
    empty: 100 * (1 - count / (cells.length || 1)),
  }
}

export const bandControl = {
  name: 'band',
  label: 'Band',
  control: 'number',
  unit: '',
  min: 1,
  step: 1,
} as const
