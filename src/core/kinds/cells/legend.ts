import { formatNumber } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import { polygon } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { path } from '@/core/scene/scene'
import { darker } from '../area-drawing'
import { choroplethLegend } from '../choropleth/legend'
import type { KindData, LegendEntry, LegendItem } from '../kind'
import { spike, spikeMm } from './draw'
import { asChoropleth, cellData, type CellPlan } from './plan'
import type { CellSettings } from './spec'

/** Classes as of areas, how large a cell is, and what the sizes of cells or spikes stand for. */
export function cellLegend(plan: CellPlan, settings: CellSettings, data: KindData): LegendEntry {
  const entry = choroplethLegend(plan, asChoropleth(settings), cellData(settings, data))
  return { ...entry, items: [...entry.items, ...sizeItems(plan, settings), ...groundItem(plan, settings)] }
}

/** “one hexagon: 87 km²” */
function groundItem({ cellM2 }: CellPlan, settings: CellSettings): LegendItem[] {
  if (!cellM2) return []
  const km2 = cellM2 / 1e6
  const written = formatNumber(km2, km2 < 10 ? 1 : 0)
  return [
    {
      key: 'cell',
      apart: true,
      label: `one ${settings.shape.slice(0, -1)}: ${written} km²`,
      swatch: {
        shape: 'sample',
        fill: null,
        stroke: null,
        sample: ({ width, height }) => [
          path(outlineIn(settings.shape, width, height), { strokes: [stroke('#6a6a6a', 0.15)] }),
        ],
      },
    },
  ]
}

/** A cell that fills a box. */
function outlineIn(shape: CellSettings['shape'], width: number, height: number) {
  const r = Math.min(width, height) / 2
  const sides = { hexagons: 6, squares: 4, triangles: 3 }[shape]
  const turn = shape === 'squares' ? Math.PI / 4 : Math.PI / 2
  return polygon(
    Array.from({ length: sides }, (_, i) => turn + (2 * Math.PI * i) / sides).flatMap((a) => [
      width / 2 + r * Math.cos(a),
      height / 2 - r * Math.sin(a),
    ]),
  )
}

/** Two values with the cell or the spike that they have. */
function sizeItems(plan: CellPlan, settings: CellSettings): LegendItem[] {
  if (settings.form === 'classes' || !(plan.largest > 0)) return []
  const round = (value: number) => Number(value.toPrecision(1))
  const marks = [...new Set([round(plan.largest), round(plan.largest / 4)])]
  const colour = plan.colours.at(-1) ?? '#6a6a6a'
  return marks.map((value, i) => ({
    key: `size-${i}`,
    apart: i === 0,
    label: writeNumber(value, settings.numbers, value < 1 ? 2 : 0),
    swatch: {
      shape: 'sample',
      fill: null,
      stroke: null,
      sample: ({ width, height }) => {
        if (settings.form === 'spikes')
          return [
            path(spike(width / 2, height, 2.4, Math.min(spikeMm(value, plan, settings), 3 * height)), {
              fill: solid(colour),
              strokes: [stroke(darker(colour), 0.1)],
            }),
          ]
        const share = Math.sqrt(value / plan.largest)
        return [path(outlineIn(settings.shape, width * share, height * share), { fill: solid(colour) })]
      },
    },
  }))
}
