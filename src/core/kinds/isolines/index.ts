import { z } from 'zod'
import { methods } from '@/core/classify/classify'
import { formatNumber, numberWord } from '@/core/classify/labels'
import { colouringLabel } from '@/core/colour/colouring'
import { gridPlace, rasterAt, type Raster } from '@/core/data/raster'
import { planeFor, type Grid } from '@/core/grid/grid'
import type { Steps } from '@/core/grid/steps'
import { extentOf } from '@/core/geo/extent'
import { createProjection } from '@/core/projection/projection'
import { fromDegrees } from '@/core/projection/reference'
import type { KindData, SentencePart } from '../kind'
import { formWords, surfaceKind } from '../surfaces/kind'
import { plainSurfaceLook, surfaceLookShape } from '../surfaces/look'
import type { Surface, SurfaceSource } from '../surfaces/surface'

/** Lines of equal value, and classes between them, of a raster. */
export const IsolineSettings = z.object({
  /** Counted from 0. */
  band: z.number().int().nonnegative(),
  /** What the values are, and their unit: a raster does not say. */
  what: z.string().max(120),
  unit: z.string().max(40),
  /** Side of a cell; null takes about that of the raster. */
  cellKm: z.number().positive().max(5000).nullable(),
  ...surfaceLookShape,
})
export type IsolineSettings = z.infer<typeof IsolineSettings>

const most = 400_000
const roughly = 15_000

/** A raster brought into an equal-area plane; cells are the mean of the places in them where they are larger. */
function* sampled(
  { raster, dataset }: { raster: Raster; dataset: KindData['dataset'] },
  settings: IsolineSettings,
  cells: number,
): Steps<Grid | null> {
  const points = { kind: 'points' as const, coords: raster.edge, featureStarts: new Uint32Array(0) }
  const extent = extentOf([points])
  if (!extent || dataset.raster !== raster) return null
  const plane = planeFor(extent)
  const projection = createProjection(plane)
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < raster.edge.length; i += 2) {
    const [x, y] = projection.project(raster.edge[i], raster.edge[i + 1])
    if (!Number.isFinite(x)) continue
    x0 = Math.min(x0, x)
    x1 = Math.max(x1, x)
    y0 = Math.min(y0, y)
    y1 = Math.max(y1, y)
  }
  const own = Math.sqrt(((x1 - x0) * (y1 - y0)) / Math.min(cells, raster.columns * raster.rows))
  const cell = Math.max(
    settings.cellKm ? settings.cellKm * 1000 : own,
    Math.sqrt(((x1 - x0) * (y1 - y0)) / most),
  )
  if (!(cell > 0)) return null
  const [columns, rows] = [Math.max(2, Math.ceil((x1 - x0) / cell)), Math.max(2, Math.ceil((y1 - y0) / cell))]
  const values = new Float64Array(columns * rows)
  const toSystem = fromDegrees(raster.crs)
  for (let r = 0; r < rows; r++) {
    yield r / rows
    for (let c = 0; c < columns; c++) {
      const at = projection.invert(x0 + (c + 0.5) * cell, y0 + (r + 0.5) * cell)
      values[r * columns + c] = at
        ? rasterAt(raster, settings.band, ...gridPlace(raster, ...toSystem(at[0], at[1])))
        : NaN
    }
  }
  return { plane, x0, y0, cell, columns, rows, values }
}

const source: SurfaceSource<IsolineSettings> = {
  key: ({ band, cellKm }) => JSON.stringify(['isolines', band, cellKm]),
  *make(settings, { dataset }): Steps<Surface | null> {
    const { raster } = dataset
    if (!raster || settings.band >= raster.bands) return null
    const grid = yield* sampled({ raster, dataset }, settings, most)
    return (
      grid && {
        grid,
        within: null,
        doubt: null,
        remark: '',
        figures: [
          `${formatNumber(grid.columns, 0)} × ${formatNumber(grid.rows, 0)} cells of ${formatNumber(grid.cell / 1000, 3)} km`,
        ],
      }
    )
  },
  rough: (settings, { dataset: { raster, ...rest } }) => {
    const steps = raster
      ? sampled({ raster, dataset: { ...rest, raster } }, { ...settings, cellKm: null }, roughly)
      : null
    // Only the size of its cells is wanted.
    const grid = steps && lastOf(steps)
    return grid ? { ...settings, cellKm: grid.cell / 1000 } : settings
  },
  needs: () => [],
  heading: ({ what }) => what,
  unit: ({ unit }) => unit,
  least: null,
  ownGround: null,
  doubt: null,
}

function lastOf(steps: Steps<Grid | null>): Grid | null {
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}

/** Lines, classes, tints or lit lines of a raster. */
export const isolines = surfaceKind<IsolineSettings>({
  label: 'Isolines',
  fits: 'Fit for heights and other fields',
  settings: IsolineSettings,
  source,
  accepts: ({ dataset }) => dataset.raster !== undefined,
  initial: ({ name }) => {
    const look = plainSurfaceLook()
    return {
      ...look,
      band: 0,
      what: name,
      unit: '',
      cellKm: null,
      form: 'lines',
      interval: 100,
      lines: { ...look.lines, indexEvery: 5, numbered: 'index' },
    }
  },
  sentence: isolineSentence,
  remap: (settings) => settings,
  showField: null,
  caution: () => null,
})

/** “Height as lines every 100 m, coloured Reed.” */
function isolineSentence(settings: IsolineSettings, { name }: KindData): SentencePart[] {
  const count = settings.method === 'manual' ? settings.manualBreaks.length + 1 : settings.classes
  return [
    { text: name, control: 'dataset' },
    { text: ' ' },
    ...formWords(settings, numberWord(count), settings.unit),
    ...(settings.form === 'bands'
      ? [{ text: methods[settings.method].label, control: 'method' as const }]
      : []),
    ...(settings.form === 'lines'
      ? []
      : [{ text: ', coloured ' }, { text: colouringLabel(settings), control: 'colours' as const }]),
    { text: '.' },
  ]
}
