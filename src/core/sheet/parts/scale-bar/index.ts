import { groundMetresPerMm } from '@/core/map/view'
import { formatNumber } from '@/core/classify/labels'
import type { Node } from '@/core/scene/scene'
import { textNode, verticalMetrics } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'
import { innerBox } from '../../page'
import { noRefs, renamed, type PartBox, type PartType, type SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import { inStyle } from '../../type-styles'
import { barNumbers, drawBar, drawDiagram, leftOf } from './draw'
import { barLength, type BarLength, type UnitSystem } from './length'
import { ScaleBarSettings } from './spec'

export { ScaleBarSettings } from './spec'

/** Ground metres for each millimetre at the centre of the panel it belongs to; null without a panel. */
function metresPerMm({ panelId }: ScaleBarSettings, box: PartBox, { panel }: SheetContext): number | null {
  const target = panel(panelId)
  return target && groundMetresPerMm(target.projection, target.view, Math.min(box.width, target.window.width))
}

/** The bar for the panel it belongs to, at most as wide as the part; null without a panel. */
export function barOf(
  settings: ScaleBarSettings,
  box: PartBox,
  context: SheetContext,
  system: UnitSystem = settings.units,
): BarLength | null {
  const metres = metresPerMm(settings, box, context)
  return metres === null ? null : barLength(box.width, metres, system, settings.segments)
}

/** Three digits of a number, without zeros at its end. */
function threeDigits(n: number): string {
  const rounded = Number(n.toPrecision(3))
  const decimals = rounded < 10 ? 2 : 1
  const written = formatNumber(rounded, rounded < 100 ? decimals : 0)
  return written.includes('.') ? written.replace(/\.?0+$/, '') : written
}

/** What a length on paper is on the ground, in words: “1 cm is 25 km”. */
export function scaleInWords(metresPerMm: number, system: UnitSystem): string {
  const [paper, mm] = system === 'metric' ? ['1 cm', 10] : ['1 inch', 25.4]
  const metres = metresPerMm * mm
  if (system === 'nautical') return `${paper} is ${threeDigits(metres / 1852)} nautical miles`
  const [large, small] =
    system === 'metric'
      ? ([
          [1000, 'km'],
          [1, 'm'],
        ] as const)
      : ([
          [1609.344, 'miles'],
          [0.3048, 'feet'],
        ] as const)
  const [unit, label] = metres >= large[0] ? large : small
  return `${paper} is ${threeDigits(metres / unit)} ${label}`
}

/** The words of a scale that is said and not drawn; null for bars. */
function wordsOf(settings: ScaleBarSettings, box: PartBox, context: SheetContext): string[] | null {
  const { look, units, second } = settings
  const target = context.panel(settings.panelId)
  if (look === 'fraction') return target ? [`1 : ${formatNumber(target.view.scaleDenominator, 0)}`] : []
  if (look !== 'words') return null
  const metres = metresPerMm(settings, box, context)
  return metres === null
    ? []
    : [units, ...(second ? [second] : [])].map((system) => scaleInWords(metres, system))
}

const gapMm = 1.6

/** The height of one bar with its numbers. */
const barHeight = ({ heightMm, style }: ScaleBarSettings): number => heightMm + 1.5 * pointsToMm(style.sizePt)

/** A bar of round ground length, measured along the geodesic through the centre of its panel; or the scale in words. */
export const scaleBar: PartType<ScaleBarSettings> = {
  label: 'Scale bar',
  group: 'maps',
  settings: ScaleBarSettings,
  resize: 'width',
  keepsLabelsOff: true,
  styles: ['style'],
  measure(settings, box, context) {
    const words = wordsOf(settings, box, context)
    const { ascentMm, descentMm } = verticalMetrics(context.fonts, lineStyle(settings.style))
    if (words) return { width: box.width, height: Math.max(1, words.length) * (ascentMm + descentMm) }
    const panel = context.panel(settings.panelId)
    const bar = barOf(settings, box, context)
    if (settings.look === 'diagram' && panel && bar)
      return {
        width: box.width,
        height: drawDiagram(panel, bar, { box, settings, fonts: context.fonts }).height,
      }
    const one = barHeight(settings)
    return { width: box.width, height: settings.second ? 2 * one + gapMm : one }
  },
  compose(settings, box, context) {
    const { fonts } = context
    const style = lineStyle(settings.style)
    const words = wordsOf(settings, box, context)
    if (words) {
      const { ascentMm, descentMm } = verticalMetrics(fonts, style)
      return words.map((line, i) =>
        textNode(fonts, line, style, {
          x: box.x,
          y: box.y + ascentMm + i * (ascentMm + descentMm),
          colour: settings.style.colour,
        }),
      )
    }
    const panel = context.panel(settings.panelId)
    const main = barOf(settings, box, context)
    if (!main || !panel) return []
    if (settings.look === 'diagram') return drawDiagram(panel, main, { box, settings, fonts }).nodes
    const bars = [main, settings.second && barOf(settings, box, context, settings.second)].filter(
      (bar) => bar !== null,
    )
    return bars.flatMap((bar, i): Node[] => {
      const drawing = { bar, x: box.x + leftOf(bar), y: box.y + i * (barHeight(settings) + gapMm), settings }
      return [...drawBar(drawing), ...barNumbers(drawing, fonts)]
    })
  },
  leansOn({ panelId }, _, { panel }) {
    const target = panel(panelId)
    return target ? [target.map.projection, target.view, target.window.width, target.window.height] : []
  },
  fonts: ({ style }) => [lineStyle(style).font],
  initial({ sheet }) {
    const { x, y, width, height } = innerBox(sheet)
    return {
      box: { x: x + width - 60, y: y + height - 18, width: 45, height: 6 },
      settings: plainScaleBar(),
    }
  },
  refs: ({ panelId }) => ({ ...noRefs, parts: panelId === null ? [] : [panelId] }),
  remap: (settings, ids) => ({
    ...settings,
    panelId: settings.panelId === null ? null : renamed(ids.parts, settings.panelId),
  }),
}

/** The settings of a new scale bar. */
export const plainScaleBar = (more: Partial<ScaleBarSettings> = {}): ScaleBarSettings =>
  ScaleBarSettings.parse({ panelId: null, units: 'metric', look: 'line', style: inStyle('caption'), ...more })
