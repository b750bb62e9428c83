import type { MapKind } from '../kind'
import { drawRaster } from './draw'
import { rasterLegend } from './legend'
import { colourOfValue, planRaster, type RasterPlan } from './plan'
import { rasterSentence } from './sentence'
import { RasterSettings } from './spec'

const hex = (rgb: [number, number, number]): string =>
  `#${rgb.map((c) => c.toString(16).padStart(2, '0')).join('')}`

/** An elevation model or a picture, as it is. */
export const raster: MapKind<RasterSettings, RasterPlan> = {
  label: 'Raster',
  thematic: false,
  comparesAreas: false,
  fits: '',
  settings: RasterSettings,
  accepts: ({ dataset }) => dataset.raster !== undefined,
  suggests: (data) => [
    {
      settings: raster.initial(data),
      shows: data.name,
      because:
        (data.dataset.raster?.bands ?? 1) >= 3 ? 'Three bands are a picture.' : 'Every cell by its value.',
      fit: (data.dataset.raster?.bands ?? 1) >= 3 ? 0.95 : 0.6,
    },
  ],
  initial: ({ dataset }) => ({
    look: (dataset.raster?.bands ?? 1) >= 3 ? 'colours' : 'heights',
    band: 0,
    colours: [0, 1, Math.min(2, (dataset.raster?.bands ?? 1) - 1)],
    low: null,
    high: null,
    reversed: false,
    opacity: null,
    saturation: 1,
    cells: 'smooth',
    empty: null,
  }),
  plan: planRaster,
  shapes: null,
  marks: () => [],
  draw: drawRaster,
  legend: rasterLegend,
  legendLines: null,
  sentence: rasterSentence,
  classings: () => [],
  classification: () => null,
  needs: () => [],
  remap: (settings) => settings,
  shared: null,
  years: null,
  showField: null,
  read: () => null,
  fonts: () => [],
  chip: (plan) =>
    plan
      ? [0, 0.35, 0.7, 1].map((share) => hex(colourOfValue(plan, plan.low + share * (plan.high - plan.low))))
      : ['#9a9a9a'],
  caution: () => null,
}
