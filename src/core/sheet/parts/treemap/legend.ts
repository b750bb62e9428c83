import { choroplethLegend } from '@/core/kinds/choropleth/legend'
import { singularUnit, type FieldMeta } from '@/core/data/field-meta'
import type { LegendEntry } from '@/core/kinds/kind'
import { rectangle } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { path } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import type { PartBox, SheetContext } from '../../part'
import { tileSpace, treemapProblem } from './draw'
import { figureWords } from './names'
import type { TreemapSettings } from './spec'
import { tilesOf } from './tiles'

/** The square that stands for a round amount is about so large, mm². */
const aboutMm2 = 45

/** The colours of a treemap, or its classes, and a square of its scale. */
export function treemapLegend(
  settings: TreemapSettings,
  box: PartBox,
  context: SheetContext,
): LegendEntry | null {
  const prepared = context.datasets.get(settings.datasetId)
  if (!prepared || treemapProblem(settings, prepared)) return null
  const made = tilesOf(settings, prepared)
  if (!made.total) return null
  const { fieldMeta } = prepared
  const level = settings.levels[Math.min(settings.colourLevel, settings.levels.length - 1)]
  const entry: LegendEntry = made.shade
    ? choroplethLegend(made.shade.plan, made.shade.settings, made.shade.data)
    : {
        heading: fieldMeta(level.field).label,
        items: made.names.map((name, i) => ({
          key: `name-${name}`,
          label: name,
          swatch: { shape: 'box', fill: solid(settings.colours[i % settings.colours.length]), stroke: null },
        })),
      }
  const { width, height } = tileSpace(settings, box, context)
  return {
    ...entry,
    items: [...entry.items, scaleItem((width * height) / made.total, fieldMeta(settings.value))],
  }
}

/** A square for a round amount, with the paper's share that it has in the treemap. */
function scaleItem(mm2PerUnit: number, meta: FieldMeta): LegendEntry['items'][number] {
  const amount = roundAmount(aboutMm2 / mm2PerUnit)
  const side = Math.sqrt(amount * mm2PerUnit)
  const unit = amount === 1 ? singularUnit(meta) : meta.unit || meta.label.toLowerCase()
  return {
    key: 'scale',
    apart: true,
    label: `${figureWords(amount)} ${unit}`.trim(),
    swatch: {
      shape: 'sample',
      fill: null,
      stroke: null,
      roomMm: { width: side + 0.4, height: side + 0.4 },
      sample: ({ width, height }) => [
        path(rectangle({ x: (width - side) / 2, y: (height - side) / 2, width: side, height: side }), {
          strokes: [stroke('#5a6469', pointsToMm(0.5), { join: 'miter' })],
        }),
      ],
    },
  }
}

/** The nearest of 1, 2 and 5 times a power of ten. */
export function roundAmount(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value))
  const near = [1, 2, 5, 10].reduce((best, step) =>
    Math.abs(Math.log(value / (step * power))) < Math.abs(Math.log(value / (best * power))) ? step : best,
  )
  return near * power
}
