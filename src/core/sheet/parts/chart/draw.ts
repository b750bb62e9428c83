import { sortedRows } from '../../figures/rows'
import type { PartBox, SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import { bars } from './bars'
import type { Drawing } from './drawing'
import { histogram } from './histogram'
import { lines } from './lines'
import { pyramid } from './pyramid'
import { scatter } from './scatter'
import { shares } from './shares'
import type { ChartSettings } from './spec'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { group, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics } from '@/core/scene/text'

/** What a chart cannot show, in a sentence; null where all is well. */
export function chartProblem(settings: ChartSettings, prepared: Prepared | undefined): string | null {
  if (!prepared) return 'Its dataset is gone.'
  const need = { bars: 1, lines: 2, histogram: 0, scatter: 2, shares: 2, pyramid: 2 }[settings.form]
  const known = settings.fields.filter((key) => fieldOf(prepared.dataset, key)?.kind === 'number')
  if (known.length < need) return `It needs ${need === 1 ? 'a field' : `${need} fields`} of numbers.`
  if (settings.form === 'histogram' && !settings.source) return 'It needs a layer with classes.'
  return null
}

/** A chart in its box; empty where it has nothing to show. */
export function drawChart(settings: ChartSettings, box: PartBox, context: SheetContext): Node[] {
  const prepared = context.datasets.get(settings.datasetId)
  if (!prepared || chartProblem(settings, prepared)) return []
  const [heading, style] = [lineStyle(settings.heading), lineStyle(settings.label)]
  const head = verticalMetrics(context.fonts, heading)
  const title = settings.title
    ? [
        textNode(context.fonts, context.fill(settings.title), heading, {
          x: box.x,
          y: box.y + head.ascentMm,
          colour: settings.heading.colour,
        }),
      ]
    : []
  const above = title.length ? head.ascentMm + head.descentMm + 1 : 0
  const drawing: Drawing = {
    settings,
    context,
    prepared,
    rows: sortedRows(prepared.dataset, settings.sortBy, settings.descending).slice(0, settings.rows),
    style,
    capMm: verticalMetrics(context.fonts, style).capHeightMm,
    space: { ...box, y: box.y + above, height: Math.max(5, box.height - above) },
  }
  return [...title, ...forms[settings.form](drawing)]
}

const forms: Record<ChartSettings['form'], (drawing: Drawing) => Node[]> = {
  bars,
  lines,
  histogram,
  scatter,
  shares,
  pyramid,
}

export const chartGroup = (name: string, nodes: Node[]): Node => group(`${name} chart`, nodes)
