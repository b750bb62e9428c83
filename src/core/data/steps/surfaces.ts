import { z } from 'zod'
import { formatNumber } from '@/core/classify/labels'
import { extentOf } from '@/core/geo/extent'
import { geometryFromShapes } from '@/core/geo/shapes'
import { bandsOf, isolinesOf } from '@/core/grid/bands'
import { distanceWords } from '../distance-words'
import { latticeOver, placesIn, planeFor, statisticsOf, type Grid, type Lattice } from '@/core/grid/grid'
import { inverseDistance } from '@/core/grid/interpolate/inverse-distance'
import { empiricalVariogram, fittedVariogram, kriging } from '@/core/grid/interpolate/kriging'
import { naturalNeighbours } from '@/core/grid/interpolate/natural-neighbours'
import { cleanSamples, type Interpolator, type Samples } from '@/core/grid/interpolate/samples'
import { mostForSpline, thinPlate } from '@/core/grid/interpolate/thin-plate'
import { kernelDensity, kernels, reachOf, silverman } from '@/core/grid/kernel-density'
import type { Steps } from '@/core/grid/steps'
import { numberColumn, numbersOf } from '../column'
import { fieldOf } from '../dataset'
import type { FieldMeta } from '../field-meta'
import { leftOutWords, pointWeights } from '../point-weights'
import { gridOfRaster, linesLost, rasterOfGrid } from '../raster-grid'
import { StepProblem, type Preparing, type StepControl, type StepKind, type StepWork } from './step'

/** What becomes of a surface: areas between its levels, lines at them, or its values as a raster. */
const outputShape = {
  out: z.enum(['areas', 'lines', 'raster']),
  /** Between levels; 0 takes about eight round ones. */
  interval: z.number().min(0),
}
type Output = { out: 'areas' | 'lines' | 'raster'; interval: number }

const outputForm: StepControl[] = [
  {
    name: 'out',
    label: 'Gives',
    control: 'choice',
    options: [
      { value: 'areas', label: 'areas between levels' },
      { value: 'lines', label: 'lines at levels' },
      { value: 'raster', label: 'a raster' },
    ],
  },
  {
    name: 'interval',
    label: 'Level every',
    control: 'number',
    unit: '',
    min: 0,
    step: 1,
    when: { name: 'out', is: ['areas', 'lines'] },
  },
]

/** More levels than this are refused. */
const mostLevels = 500

function run<Made>(steps: Steps<Made>, { tell }: StepWork): Made {
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
    tell(step.value)
  }
}

/** A round step that gives about so many. */
function roundStep(span: number, count: number): number {
  const raw = span / count
  const power = 10 ** Math.floor(Math.log10(raw))
  return ([1, 2, 5, 10].find((n) => n * power >= raw) ?? 10) * power
}

/** The levels of a grid, so far apart; about eight round ones for 0. @throws StepProblem where they are too many */
function levelsOf(grid: Grid, interval: number): { levels: number[]; step: number } {
  const { min, max } = statisticsOf(grid)
  if (!(max >= min)) throw new StepProblem('The surface has no values.')
  const step = interval > 0 ? interval : roundStep(max - min || Math.abs(max) || 1, 8)
  const first = Math.floor(min / step)
  const count = Math.floor(max / step) - first + 1
  if (count > mostLevels)
    throw new StepProblem(
      `A level every ${formatNumber(step, 3)} gives ${formatNumber(count, 0)} of them; at most ${mostLevels} can be made.`,
    )
  return {
    levels: Array.from({ length: count }, (_, i) => Number(((first + i) * step).toPrecision(12))),
    step,
  }
}

/** A grid as the dataset that is asked for; what it measures is in `meta`. */
function given(grid: Grid, { out, interval }: Output, from: Preparing, meta: FieldMeta): Preparing {
  if (out === 'raster') {
    const raster = rasterOfGrid(grid)
    if (!raster) throw new StepProblem('A raster cannot go round the globe: choose areas or lines.')
    return {
      ...from,
      dataset: { rowCount: 0, fields: [], geometry: { kind: 'none' }, raster },
      origins: new Map(),
      made: new Map(),
    }
  }
  const { levels, step } = levelsOf(grid, interval)
  const areas = out === 'areas'
  const shapes = areas ? bandsOf(grid, levels) : isolinesOf(grid, levels)
  const kept = levels.flatMap((level, i) => (shapes[i] ? [{ level, shape: shapes[i] }] : []))
  if (!kept.length) throw new StepProblem('No level is reached: choose a smaller distance between them.')
  const fields = areas
    ? [
        { key: 'from', column: numberColumn(kept.map(({ level }) => level)) },
        { key: 'to', column: numberColumn(kept.map(({ level }) => level + step)) },
      ]
    : [{ key: 'level', column: numberColumn(kept.map(({ level }) => level)) }]
  return {
    ...from,
    dataset: { rowCount: kept.length, fields, geometry: geometryFromShapes(kept.map(({ shape }) => shape)) },
    origins: new Map(),
    made: new Map(
      fields.map(({ key }) => [
        key,
        { ...meta, label: `${meta.label}${areas ? `, ${key}` : ''}`, role: 'index' as const },
      ]),
    ),
  }
}

const isPoints = ({ dataset }: Preparing): boolean => dataset.geometry.kind === 'points'

export const DensityStepSettings = z.object({
  /** Empty counts each point once. */
  weight: z.string(),
  kernel: z.enum(kernels),
  /** Kilometres; 0 takes Silverman's rule. */
  bandwidthKm: z.number().min(0).max(20_000),
  ...outputShape,
})
export type DensityStepSettings = z.infer<typeof DensityStepSettings>

/** Cells to a bandwidth. */
const perBandwidth = 10

/** The density of points, per km². */
export const density: StepKind<DensityStepSettings> = {
  label: 'Density',
  about: 'shapes',
  settings: DensityStepSettings,
  form: [
    { name: 'weight', label: 'Counting', control: 'field', kind: 'number', optional: true },
    {
      name: 'kernel',
      label: 'Kernel',
      control: 'choice',
      options: [
        { value: 'quartic', label: 'quartic' },
        { value: 'gaussian', label: 'Gaussian' },
        { value: 'epanechnikov', label: 'Epanechnikov' },
      ],
    },
    { name: 'bandwidthKm', label: 'Bandwidth (0: by rule)', control: 'number', unit: 'km', min: 0, step: 1 },
    ...outputForm,
  ],
  accepts: isPoints,
  initial: () => ({ weight: '', kernel: 'quartic', bandwidthKm: 0, out: 'areas', interval: 0 }),
  needs: () => [],
  words: ({ bandwidthKm, kernel, out }) =>
    `${kernel}, ${bandwidthKm ? `${formatNumber(bandwidthKm, 1)} km` : 'bandwidth by rule'}, as ${out}`,
  apply(settings, from, _, work) {
    const { geometry } = from.dataset
    const extent = extentOf([geometry])
    if (geometry.kind !== 'points' || !extent) throw new StepProblem('It takes points.')
    const points = pointWeights(from.dataset, settings.weight || null)
    const ruled = silverman(placesIn(planeFor(extent), points.lonLat), points.weights, settings.kernel)
    const bandwidth = settings.bandwidthKm ? settings.bandwidthKm * 1000 : ruled
    if (!(bandwidth > 0)) throw new StepProblem('One place alone gives no bandwidth: set one.')
    const cell = bandwidth / perBandwidth
    const marginM = bandwidth * reachOf(settings.kernel) + cell
    const lattice = latticeOver([geometry], { cell, marginM, most: 300_000 })
    if (!lattice) throw new StepProblem('There are no places.')
    const left = leftOutWords(points)
    if (left) work.remark(left)
    sayDistances(lattice, work)
    work.note(
      `${formatNumber(bandwidth / 1000, 2)} km bandwidth, cells of ${formatNumber(lattice.cell / 1000, 3)} km.`,
    )
    const places = placesIn(lattice.plane, points.lonLat)
    const { kernel } = settings
    const { grid } = run(
      kernelDensity(lattice, { places, weights: points.weights }, { kernel, bandwidth, mask: null }),
      work,
    )
    const unit = settings.weight ? (from.fieldMeta?.(settings.weight).unit ?? '') : ''
    return given(grid, settings, from, { label: 'Density', unit: `${unit} per km²`.trim(), role: 'index' })
  },
}

/** Says where distances are not those on the ground. */
function sayDistances(lattice: Lattice, { remark }: Pick<StepWork, 'remark'>): void {
  const words = distanceWords(lattice)
  if (words) remark(words)
}

export const InterpolateStepSettings = z.object({
  field: z.string(),
  way: z.enum(['inverse-distance', 'natural-neighbours', 'thin-plate', 'kriging']),
  ...outputShape,
})
export type InterpolateStepSettings = z.infer<typeof InterpolateStepSettings>

function wayOf(way: InterpolateStepSettings['way'], samples: Samples): Interpolator | null {
  if (way === 'inverse-distance') return inverseDistance(samples, { power: 2, nearest: 16 })
  if (way === 'natural-neighbours') return naturalNeighbours(samples)
  if (way === 'thin-plate') return thinPlate(samples, { smoothing: 0 })
  return kriging(samples, fittedVariogram(empiricalVariogram(samples), 'spherical'), { nearest: 16 })
}

function* filled(lattice: Omit<Grid, 'values'>, way: Interpolator): Steps<Grid> {
  const { columns, rows, x0, y0, cell } = lattice
  const values = new Float64Array(columns * rows)
  for (let r = 0; r < rows; r++) {
    yield r / rows
    for (let c = 0; c < columns; c++)
      values[r * columns + c] = way.at(x0 + (c + 0.5) * cell, y0 + (r + 0.5) * cell)
  }
  return { ...lattice, values }
}

/** A surface through values at points. */
export const interpolate: StepKind<InterpolateStepSettings> = {
  label: 'Interpolate',
  about: 'shapes',
  settings: InterpolateStepSettings,
  form: [
    { name: 'field', label: 'Values of', control: 'field', kind: 'number' },
    {
      name: 'way',
      label: 'By',
      control: 'choice',
      options: [
        { value: 'natural-neighbours', label: 'natural neighbours' },
        { value: 'inverse-distance', label: 'inverse distance' },
        { value: 'thin-plate', label: 'a thin-plate spline' },
        { value: 'kriging', label: 'kriging' },
      ],
    },
    ...outputForm,
  ],
  accepts: (from) => isPoints(from) && from.dataset.fields.some(({ column }) => column.kind === 'number'),
  initial: ({ dataset }) => ({
    field: dataset.fields.find(({ column }) => column.kind === 'number')?.key ?? '',
    way: 'natural-neighbours',
    out: 'areas',
    interval: 0,
  }),
  needs: () => [],
  words: ({ field, way, out }) => `${field} by ${way.replace('-', ' ')}, as ${out}`,
  apply(settings, from, _, work) {
    const { geometry } = from.dataset
    const column = fieldOf(from.dataset, settings.field)
    if (geometry.kind !== 'points' || !column) throw new StepProblem('It takes points with a number.')
    const lattice = latticeOver([geometry], { cell: 1, most: 60_000 })
    if (!lattice) throw new StepProblem('There are no places.')
    const { lonLat, features } = pointWeights(from.dataset, null)
    const numbers = numbersOf(column)
    const { samples, left, merged } = cleanSamples(
      placesIn(lattice.plane, lonLat),
      Float64Array.from(features, (f) => numbers[f]),
    )
    const way = samples.values.length > 2 ? wayOf(settings.way, samples) : null
    if (!way)
      throw new StepProblem(
        settings.way === 'thin-plate'
          ? `A spline takes 3 to ${mostForSpline.toLocaleString('en-GB')} points that do not lie on one line.`
          : 'It takes at least three points with a value.',
      )
    if (left) work.remark(`${formatNumber(left, 0)} points without a value left out.`)
    if (merged) work.remark(`${formatNumber(merged, 0)} points share a place with others: their mean counts.`)
    sayDistances(lattice, work)
    const meta = from.fieldMeta?.(settings.field) ?? {
      label: settings.field,
      unit: '',
      role: 'index' as const,
    }
    return given(run(filled(lattice, way), work), settings, from, meta)
  },
}

export const IsolinesStepSettings = z.object({
  /** Counted from 1. */
  band: z.number().int().min(1),
  ...outputShape,
})
export type IsolinesStepSettings = z.infer<typeof IsolinesStepSettings>

/** From so many cells, whatever the raster has: lines through more are too many for a table. */
const mostRead = 1_500_000

/** Lines at levels of a raster, or areas between them. */
export const isolines: StepKind<IsolinesStepSettings> = {
  label: 'Isolines',
  about: 'cells',
  settings: IsolinesStepSettings,
  form: [{ name: 'band', label: 'Band', control: 'number', unit: '', min: 1, step: 1 }, ...outputForm],
  accepts: ({ dataset }) => dataset.raster !== undefined,
  initial: () => ({ band: 1, out: 'lines', interval: 0 }),
  needs: () => [],
  words: ({ interval, out }) => `${out}${interval ? ` every ${formatNumber(interval, 2)}` : ''}`,
  apply(settings, from, _, work) {
    const { raster } = from.dataset
    if (!raster) throw new StepProblem('It takes a raster.')
    if (settings.band > raster.bands)
      throw new StepProblem(`There is no band ${settings.band}: the raster has ${raster.bands}.`)
    const grid = run(gridOfRaster(raster, settings.band - 1, { cellM: null, cells: mostRead }), work)
    if (!grid) throw new StepProblem('The raster has no place on the globe.')
    work.note(`From cells of ${formatNumber(grid.cell / 1000, 3)} km.`)
    const made = given(grid, settings, from, { label: 'Value', unit: '', role: 'index' })
    if (settings.out !== 'raster') {
      const { step } = levelsOf(grid, settings.interval)
      const lost = linesLost(raster, settings.band - 1, grid, step)
      const [lines, are] = lost === 1 ? ['line', 'is'] : ['lines', 'are']
      if (lost)
        work.remark(
          `${formatNumber(lost, 0)} ${lines} round single cells of the raster, narrower than the cells that they are drawn from, ${are} left out.`,
        )
    }
    return made
  },
}
