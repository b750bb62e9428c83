import { formatNumber } from '@/core/classify/labels'
import { kindsOfCells } from '@/core/data/raster-kinds'
import { unordered } from '@/core/colour/schemes'
import { solid, stroke } from '@/core/scene/paint'
import { pointedCells } from '../cells-on-paper/pointed'
import type { Node } from '@/core/scene/scene'
import { gridOnPaper } from '../cells-on-paper/grid'
import { opaque, paintSamples } from '../cells-on-paper/paint-samples'
import { sampler } from '../cells-on-paper/sample'
import { cellUnder } from '../cells-on-paper/under'
import type { DrawContext, KindData, LegendEntry, MapKind, SentencePart } from '../kind'
import { planCellCategories, type CellCategory, type CellCategoryPlan } from './plan'
import { CellCategorySettings } from './spec'

/** Ground in words: “1,240 km²”. */
const groundWords = (km2: number): string => `${formatNumber(km2, km2 < 10 ? 2 : 0)} km²`

/** Cells of a raster by the kind of ground that their values name. */
export const cellCategories: MapKind<CellCategorySettings, CellCategoryPlan, true> = {
  label: 'Cells by kind',
  thematic: true,
  comparesAreas: true,
  fits: 'Fit for kinds of ground',
  settings: CellCategorySettings,
  accepts: ({ dataset: { raster } }) => raster !== undefined && kindsOfCells(raster, 0).values.length > 0,
  suggests: (data) =>
    data.dataset.raster?.ofKinds
      ? [
          {
            settings: cellCategories.initial(data),
            shows: data.name,
            because: 'Its values name kinds of ground.',
            fit: 0.95,
          },
        ]
      : [],
  initial: ({ name, dataset: { raster } }) => ({
    band: 0,
    what: name,
    set: raster?.palette ? null : 'harbour',
    order: 'value',
    own: {},
    missing: null,
  }),
  plan: planCellCategories,
  shapes: pointedCells((place, { plan, settings, data }) => {
    const value = data.dataset.raster ? cellUnder(data.dataset.raster, settings.band)(place) : NaN
    const category = plan.categories.find(({ values }) => values.includes(value))
    return category
      ? {
          feature: -1,
          name: settings.what || data.name,
          reading: { value: category.label, detail: `${groundWords(category.km2)} of it` },
        }
      : null
  }),
  marks: () => [],
  draw: drawCellCategories,
  legend,
  legendLines: null,
  sentence,
  classings: () => [],
  classification: () => null,
  needs: () => [],
  remap: (settings, { dataset: { raster } }) => ({
    ...settings,
    band: settings.band < (raster?.bands ?? 0) ? settings.band : 0,
    set: settings.set ?? (raster?.palette ? null : 'harbour'),
  }),
  shared: null,
  years: null,
  showField: null,
  read: () => null,
  fonts: () => [],
  chip: ({ categories }) => {
    const colours = categories.filter(({ shown }) => shown).map(({ colour }) => colour)
    return colours.length ? colours.slice(0, 6) : ['#9a9a9a']
  },
  caution: ({ tooMany }) =>
    tooMany
      ? { words: 'These values are amounts: there are too many different ones to be kinds.', remedies: [] }
      : null,
}

/** Each cell on paper in the colour of the cell in which its place lies. */
function drawCellCategories(
  plan: CellCategoryPlan,
  settings: CellCategorySettings,
  context: DrawContext,
): Node[] {
  const { raster } = context.dataset
  const grid = raster && plan.categories.length ? gridOnPaper(raster.edge, context) : null
  if (!raster || !grid) return []
  const colours = new Map(
    plan.categories
      .filter(({ shown }) => shown)
      .flatMap(({ colour, values }) => values.map((value) => [value, opaque(colour)] as const)),
  )
  const missing = settings.missing && opaque(settings.missing.colour)
  // Whatever the file was taken for, kinds are never mixed.
  const own = { ...raster, ofKinds: true }
  const cells = sampler({ raster: own, band: settings.band, grid, context, between: 'nearest' })
  return [
    paintSamples(grid, [cells], ([value], rgba, at) => {
      const colour = value === value ? colours.get(value) : missing
      if (colour) rgba.set(colour, at)
    }),
  ]
}

function legend(plan: CellCategoryPlan, settings: CellCategorySettings, { name }: KindData): LegendEntry {
  const item = ({ key, label, colour }: Pick<CellCategory, 'key' | 'label' | 'colour'>) => ({
    key: `category-${key}`,
    label,
    swatch: { shape: 'box' as const, fill: solid(colour), stroke: null },
  })
  const { missing } = settings
  return {
    heading: settings.what || name,
    items: [
      ...plan.categories.filter(({ shown }) => shown).map(item),
      ...(missing && plan.missing
        ? [
            {
              key: 'missing',
              apart: true,
              label: missing.label,
              swatch: { shape: 'box' as const, fill: solid(missing.colour), stroke: stroke('#9a9a9a', 0.1) },
            },
          ]
        : []),
    ],
  }
}

/** “Show the cells of land cover by kind, coloured Harbour.” */
function sentence({ set }: CellCategorySettings, { name }: KindData): SentencePart[] {
  return [
    { text: 'Show the cells of ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ' by kind, coloured ' },
    { text: set === null ? 'as in the file' : (unordered[set]?.label ?? set), control: 'colours' },
    { text: '.' },
  ]
}
