import { z } from 'zod'
import { formatNumber } from '@/core/classify/labels'
import { groundMetresPerMm } from '@/core/map/view'
import { polyline, rectangle } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'
import { innerBox } from '../../page'
import { noRefs, renamed, type PartBox, type PartType, type SheetContext } from '../../part'
import { lineStyle, TypeStyle } from '../../type-style'
import { inStyle } from '../../type-styles'
import { barLength, type BarLength } from './length'

export const ScaleBarSettings = z.object({
  panelId: z.string().nullable(),
  units: z.enum(['metric', 'imperial']),
  look: z.enum(['line', 'blocks']),
  style: TypeStyle,
})
export type ScaleBarSettings = z.infer<typeof ScaleBarSettings>

const barHeightMm = 1.4

/** The bar for the panel it belongs to, at most as wide as the part; null without a panel. */
export function barOf(
  { panelId, units }: ScaleBarSettings,
  box: PartBox,
  { panel }: SheetContext,
): BarLength | null {
  const target = panel(panelId)
  if (!target) return null
  const { projection, view, window } = target
  const metresPerMm = groundMetresPerMm(projection, view, Math.min(box.width, window.width))
  return barLength(box.width, metresPerMm, units)
}

/** A bar of round ground length, measured along the geodesic through the centre of its panel. */
export const scaleBar: PartType<ScaleBarSettings> = {
  label: 'Scale bar',
  group: 'maps',
  keepsLabelsOff: true,
  styles: ['style'],
  refs: ({ panelId }) => ({ ...noRefs, parts: panelId === null ? [] : [panelId] }),
  remap: (settings, ids) => ({
    ...settings,
    panelId: settings.panelId === null ? null : renamed(ids.parts, settings.panelId),
  }),
  initial({ sheet }) {
    const { x, y, width, height } = innerBox(sheet)
    return {
      box: { x: x + width - 60, y: y + height - 18, width: 45, height: 6 },
      settings: { panelId: null, units: 'metric', look: 'line', style: inStyle('caption') },
    }
  },
  settings: ScaleBarSettings,
  resize: 'width',
  measure: ({ style }, { width }) => ({ width, height: barHeightMm + 1.5 * pointsToMm(style.sizePt) }),
  compose(settings, box, context) {
    const bar = barOf(settings, box, context)
    if (!bar) return []
    const style = lineStyle(settings.style)
    const { capHeightMm } = verticalMetrics(context.fonts, style)
    const { colour } = settings.style
    const labels: [number, string, 'start' | 'middle' | 'end'][] = [
      [0, '0', 'middle'],
      [bar.widthMm, `${tidy(bar.total)} ${bar.label}`, 'start'],
    ]
    if (bar.parts === 2) labels.splice(1, 0, [bar.widthMm / 2, tidy(bar.total / 2), 'middle'])
    // The number of the last label is centred on the end of the bar; its unit stands behind.
    const lastDigits = textNode(context.fonts, tidy(bar.total), style, { x: 0, y: 0, colour }).widthMm
    const words = labels.map(([x, label, anchor], i) =>
      textNode(context.fonts, label, style, {
        x: box.x + x - (i === labels.length - 1 ? lastDigits / 2 : 0),
        y: box.y + barHeightMm + 1 + capHeightMm,
        colour,
        anchor,
      }),
    )
    return [...(settings.look === 'line' ? lineBar(bar, box, colour) : blockBar(bar, box, colour)), ...words]
  },
  leansOn({ panelId }, _, { panel }) {
    const target = panel(panelId)
    return target ? [target.map, target.view, target.window.width] : []
  },
  fonts: ({ style }) => [lineStyle(style).font],
}

const tidy = (n: number): string =>
  formatNumber(n, Number.isInteger(n) ? 0 : 2)
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '')

function lineBar({ widthMm, parts }: BarLength, { x, y }: PartBox, colour: string): Node[] {
  const ticks = Array.from({ length: parts + 1 }, (_, i) => x + (widthMm * i) / parts)
  const bottom = y + barHeightMm
  const line = stroke(colour, 0.25, { cap: 'butt', join: 'miter' })
  return [
    path(
      polyline(
        [x, y, x, bottom, x + widthMm, bottom, x + widthMm, y],
        ...ticks.slice(1, -1).map((t) => [t, bottom, t, bottom - barHeightMm * 0.6]),
      ),
      { strokes: [line] },
    ),
  ]
}

function blockBar({ widthMm, parts }: BarLength, { x, y }: PartBox, colour: string): Node[] {
  const blocks = Array.from({ length: parts }, (_, i) =>
    path(rectangle({ x: x + (widthMm * i) / parts, y, width: widthMm / parts, height: barHeightMm }), {
      fill: solid(i % 2 ? '#ffffff' : colour),
      strokes: [stroke(colour, 0.18, { join: 'miter' })],
    }),
  )
  return blocks
}
