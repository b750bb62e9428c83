import { formatNumber } from '@/core/classify/labels'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { extentOf } from '@/core/geo/extent'
import { latticeOver, placesIn, planeFor, type Grid, type Lattice } from '@/core/grid/grid'
import { inverseDistance } from '@/core/grid/interpolate/inverse-distance'
import {
  empiricalVariogram,
  fittedVariogram,
  kriging,
  type Variogram,
  type VariogramBin,
} from '@/core/grid/interpolate/kriging'
import { naturalNeighbours } from '@/core/grid/interpolate/natural-neighbours'
import { cleanSamples, withoutOne, type Interpolator, type Samples } from '@/core/grid/interpolate/samples'
import { mostForSpline, thinPlate } from '@/core/grid/interpolate/thin-plate'
import { pycnophylactic } from '@/core/grid/pycnophylactic'
import { areaOfCells, cellsWithin } from '@/core/grid/rasterise'
import { within, type Steps } from '@/core/grid/steps'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import type { KindData } from '../kind'
import { pointWeights } from '@/core/data/point-weights'
import type { Surface, SurfaceSource } from '../surfaces/surface'
import type { Interpolation, InterpolatedSettings } from './spec'

const automaticCells = 60_000
const roughCells = 4_000

/** The samples of a layer in a plane; samples on one place are merged. */
export function samplesOf(
  { field }: Pick<InterpolatedSettings, 'field'>,
  { dataset }: Pick<KindData, 'dataset'>,
): { samples: Samples; left: number; merged: number; plane: ProjectionSpec } | null {
  const extent = extentOf([dataset.geometry])
  if (dataset.geometry.kind !== 'points' || !extent) return null
  const plane = planeFor(extent)
  const { lonLat, features } = pointWeights(dataset, null)
  const column = fieldOf(dataset, field)
  const values = column ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(NaN)
  return {
    plane,
    ...cleanSamples(
      placesIn(plane, lonLat),
      Float64Array.from(features, (f) => values[f]),
    ),
  }
}

export function variogramOf({ variogram, model }: InterpolatedSettings, bins: VariogramBin[]): Variogram {
  if (!variogram) return fittedVariogram(bins, model)
  const { nugget, sill, rangeKm } = variogram
  return { model, nugget, sill, range: rangeKm * 1000 }
}

/** The way of a method through some samples; null where it cannot be used on them. */
export function interpolatorOf(
  method: Interpolation,
  samples: Samples,
  settings: InterpolatedSettings,
  variogram: Variogram | null = null,
): Interpolator | null {
  switch (method) {
    case 'inverse-distance':
      return inverseDistance(samples, settings)
    case 'natural-neighbours':
      return naturalNeighbours(samples)
    case 'thin-plate':
      return thinPlate(samples, settings)
    case 'kriging':
      return kriging(samples, variogram ?? variogramOf(settings, empiricalVariogram(samples)), settings)
    case 'pycnophylactic':
      return null
  }
}

/** So many samples are left out by turns. */
const mostTried = 200

/**
 * How far each method misses samples that it does not know: the root of the mean squared error of leaving out one by
 * one (of 200 samples evenly taken, where there are more). NaN for methods that give no value.
 */
export function missOf(method: Interpolation, samples: Samples, settings: InterpolatedSettings): number {
  const n = samples.values.length
  // A spline is solved anew for each sample.
  const most =
    method === 'thin-plate' ? Math.max(10, Math.min(mostTried, Math.floor(2e9 / n ** 3))) : mostTried
  const every = Math.max(1, n / most)
  const variogram = method === 'kriging' ? variogramOf(settings, empiricalVariogram(samples)) : null
  let [sum, count] = [0, 0]
  for (let k = 0; Math.floor(k) < n; k += every) {
    const i = Math.floor(k)
    const way = interpolatorOf(method, withoutOne(samples, i), settings, variogram)
    const value = way ? way.at(samples.places[2 * i], samples.places[2 * i + 1]) : NaN
    if (!Number.isFinite(value)) continue
    sum += (value - samples.values[i]) ** 2
    count++
  }
  return Math.sqrt(sum / count)
}

const lattice = (
  settings: InterpolatedSettings,
  { dataset }: Pick<KindData, 'dataset'>,
  most: number,
): Lattice | null => {
  const cell = settings.cellKm ? settings.cellKm * 1000 : 1
  const points = dataset.geometry.kind === 'points'
  const first = latticeOver([dataset.geometry], { cell, ...(settings.cellKm ? {} : { most }) })
  if (!first || !points) return first
  // A margin of a few cells, so that lines do not end at the outermost samples.
  return latticeOver([dataset.geometry], { cell: first.cell, marginM: 3 * first.cell })
}

function* makeSurface(settings: InterpolatedSettings, data: KindData): Steps<Surface | null> {
  const cells = lattice(settings, data, automaticCells)
  if (!cells) return null
  return settings.way === 'pycnophylactic'
    ? yield* overAreas(settings, data, cells)
    : yield* throughPoints(settings, data, cells)
}

function* throughPoints(
  settings: InterpolatedSettings,
  data: KindData,
  cells: Lattice,
): Steps<Surface | null> {
  const found = samplesOf(settings, data)
  if (!found || found.samples.values.length < 3) return null
  const { samples, left, merged } = found
  const way = interpolatorOf(settings.way, samples, settings)
  if (!way) return null
  const values = new Float64Array(cells.columns * cells.rows)
  const errors = way.errorAt ? new Float64Array(values.length) : null
  for (let r = 0; r < cells.rows; r++) {
    yield (0.9 * r) / cells.rows
    const y = cells.y0 + (r + 0.5) * cells.cell
    for (let c = 0; c < cells.columns; c++) {
      const x = cells.x0 + (c + 0.5) * cells.cell
      values[r * cells.columns + c] = way.at(x, y)
      if (errors && way.errorAt) errors[r * cells.columns + c] = way.errorAt(x, y)
    }
  }
  const grid: Grid = { ...cells, values }
  const doubt = errors && { ...cells, values: errors }
  const ground = settings.mask && data.datasetOf(settings.mask.datasetId)
  return {
    grid: settings.showError && doubt ? doubt : grid,
    within: ground?.geometry.kind === 'areas' ? cellsWithin(ground.geometry, cells) : null,
    doubt,
    remark: [
      ...(left ? [`${formatNumber(left, 0)} points without a value left out.`] : []),
      ...(merged ? [`${formatNumber(merged, 0)} points share a place with others: their mean counts.`] : []),
    ].join(' '),
    figures: [`${formatNumber(samples.values.length, 0)} samples`, cellWords(cells)],
  }
}

function* overAreas(settings: InterpolatedSettings, data: KindData, cells: Lattice): Steps<Surface | null> {
  const column = fieldOf(data.dataset, settings.field)
  if (data.dataset.geometry.kind !== 'areas' || !column) return null
  const areaOf = areaOfCells(data.dataset.geometry, cells)
  yield 0.1
  const km2 = (cells.cell / 1000) ** 2
  const counts = new Float64Array(data.dataset.rowCount)
  for (const f of areaOf) if (f >= 0) counts[f]++
  const total = isTotal(settings, data)
  // Of a ratio every area keeps its mean, of a total its sum.
  const totals = numbersOf(column).map((value, f) => (total ? value : value * counts[f]))
  const { grid, lost } = yield* within(pycnophylactic(cells, areaOf, totals), 0.1, 1)
  const outward = spreadOut(total ? { ...grid, values: grid.values.map((value) => value / km2) } : grid)
  const sum = lost.reduce((all, f) => all + totals[f], 0)
  return {
    grid: outward,
    within: Uint8Array.from(areaOf, (f) => Number(f >= 0)),
    doubt: null,
    remark: lost.length
      ? `${formatNumber(lost.length, 0)} areas are smaller than a cell and left out${total ? `, ${formatNumber(sum, 0)} in all` : ''}.`
      : '',
    figures: [cellWords(cells), total ? 'the total of each area is kept' : 'the mean of each area is kept'],
  }
}

/** How far a surface is drawn on beyond its areas, in cells: what is drawn is cut off at their outline. */
const beyond = 3

/** Cells next to those with a value take the mean of their neighbours, a few rounds. */
function spreadOut(grid: Grid): Grid {
  const { columns, rows } = grid
  let { values } = grid
  for (let round = 0; round < beyond; round++) {
    const next = values.slice()
    for (let r = 0; r < rows; r++)
      for (let c = 0; c < columns; c++) {
        const i = r * columns + c
        if (!Number.isNaN(values[i])) continue
        let [sum, count] = [0, 0]
        for (let dr = -1; dr <= 1; dr++)
          for (let dc = -1; dc <= 1; dc++) {
            const [rr, cc] = [r + dr, c + dc]
            if (rr < 0 || cc < 0 || rr >= rows || cc >= columns) continue
            const value = values[rr * columns + cc]
            if (Number.isNaN(value)) continue
            sum += value
            count++
          }
        if (count) next[i] = sum / count
      }
    values = next
  }
  return { ...grid, values }
}

const cellWords = ({ columns, rows, cell }: Lattice): string =>
  `${formatNumber(columns, 0)} × ${formatNumber(rows, 0)} cells of ${formatNumber(cell / 1000, cell < 1000 ? 3 : 2)} km`

const isTotal = ({ field }: InterpolatedSettings, { fieldMeta }: Pick<KindData, 'fieldMeta'>): boolean =>
  fieldMeta(field).role === 'total'

export const interpolatedSource: SurfaceSource<InterpolatedSettings> = {
  key: ({ field, way, power, nearest, smoothing, model, variogram, showError, cellKm, mask }) =>
    JSON.stringify([
      'interpolated',
      field,
      way,
      power,
      nearest,
      smoothing,
      model,
      variogram,
      showError,
      cellKm,
      mask,
    ]),
  make: makeSurface,
  rough(settings, data) {
    const cells = lattice({ ...settings, cellKm: null }, data, roughCells)
    return cells ? { ...settings, cellKm: cells.cell / 1000 } : settings
  },
  needs: ({ mask }) => (mask ? [mask.datasetId] : []),
  heading({ field, way, showError }, { fieldMeta }) {
    const { label } = fieldMeta(field)
    return way === 'kriging' && showError ? `Standard error of ${label.toLowerCase()}` : label
  },
  unit(settings, data) {
    const { unit } = data.fieldMeta(settings.field)
    return settings.way === 'pycnophylactic' && isTotal(settings, data) ? `${unit} per km²`.trim() : unit
  },
  least: null,
  finer: null,
  byDistance: true,
  ownGround: ({ way }) => way === 'pycnophylactic',
  doubt: { few: false, words: (limit) => `standard error over ${limit}` },
}

export { mostForSpline }
