import { z } from 'zod'
import { methods } from '@/core/classify/classify'
import { formatNumber, numberWord } from '@/core/classify/labels'
import { colouringLabel } from '@/core/colour/colouring'
import { finestMetres } from '@/core/data/raster-ground'
import { gridOfRaster, latticeOfRaster } from '@/core/data/raster-grid'
import { blurred } from '@/core/grid/blur'
import { within, type Steps } from '@/core/grid/steps'
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
  /** Details smaller than about this are smoothed away before lines are drawn; 0 keeps all. */
  smoothKm: z.number().min(0).max(5000),
  ...surfaceLookShape,
})
export type IsolineSettings = z.infer<typeof IsolineSettings>

const roughly = 15_000

/** What is as wide as the box of a mean is about two standard deviations wide; m. */
const sigmaOf = (smoothKm: number): number => (smoothKm * 1000) / 2

const source: SurfaceSource<IsolineSettings> = {
  key: ({ band, cellKm, smoothKm }) => JSON.stringify(['isolines', band, cellKm, smoothKm]),
  *make(settings, { dataset }): Steps<Surface | null> {
    const { raster } = dataset
    if (!raster || settings.band >= raster.bands) return null
    const read = yield* within(
      gridOfRaster(raster, settings.band, { cellM: settings.cellKm && settings.cellKm * 1000 }),
      0,
      0.8,
    )
    const grid = read && (yield* within(blurred(read, sigmaOf(settings.smoothKm)), 0.8, 1))
    return (
      grid && {
        grid,
        within: null,
        doubt: null,
        remark: '',
        figures: [
          `${formatNumber(grid.columns, 0)} × ${formatNumber(grid.rows, 0)} cells of ${formatNumber(grid.cell / 1000, 3)} km`,
          ...(finestMetres(raster) < grid.cell * 0.99 && !settings.cellKm
            ? ['Drawn through finer cells where the scale shows them']
            : []),
        ],
      }
    )
  },
  rough(settings, { dataset: { raster } }) {
    const cells = raster && latticeOfRaster(raster, { cellM: null, cells: roughly })
    return cells ? { ...settings, cellKm: cells.cell / 1000 } : settings
  },
  needs: () => [],
  heading: ({ what }) => what,
  unit: ({ unit }) => unit,
  least: null,
  finer({ band, cellKm, smoothKm }, { dataset: { raster } }) {
    if (!raster || band >= raster.bands) return null
    return { raster, band, sigmaM: sigmaOf(smoothKm), cellM: cellKm && cellKm * 1000 }
  },
  byDistance: false,
  ownGround: null,
  doubt: null,
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
      smoothKm: 0,
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
