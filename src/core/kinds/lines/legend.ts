import { writeNumber } from '@/core/classify/number-format'
import { stroke, withOpacity } from '@/core/scene/paint'
import type { KindData, LegendEntry, LegendItem, LegendLines } from '../kind'
import { headingOf, unitOf } from '../values'
import { type LinePlan } from './plan'
import { LineSettings } from './spec'

export function lineLegend(plan: LinePlan, settings: LineSettings, { fieldMeta }: KindData): LegendEntry {
  const line = (colour: string, widthMm: number): LegendItem['swatch'] => ({
    shape: 'line',
    fill: null,
    stroke: stroke(withOpacity(colour, settings.opacity), widthMm, {
      dashMm: settings.dashed ? [1.6, 1.1] : [],
    }),
  })
  const { width, colour } = settings
  const widths = plan.marks.map(({ value, widthMm }, i): LegendItem => ({
    key: `width-${i}`,
    label: writeNumber(value, settings.numbers, plan.decimals),
    swatch: line(colour ? '#777777' : settings.plainColour, widthMm),
  }))
  const classes = plan.labels.map((label, i): LegendItem => ({
    key: `hue-${i}`,
    label:
      width && i === 0
        ? `${label} ${unitOf(colour ?? { field: '', per: null, perCount: 1 }, fieldMeta)}`.trim()
        : label,
    apart: i === 0 && widths.length > 0,
    swatch: line(plan.colours[i], width ? 1 : settings.plainWidthMm),
  }))
  const missing: LegendItem[] =
    colour && plan.missing
      ? [
          {
            key: 'missing',
            apart: true,
            label: settings.missing.label,
            swatch: line(settings.missing.colour, width ? 1 : settings.plainWidthMm),
          },
        ]
      : []
  const shown = width ? { field: width.field, per: null, perCount: 1, numbers: settings.numbers } : colour
  return { heading: shown ? headingOf(shown, fieldMeta) : '', items: [...widths, ...classes, ...missing] }
}

/** Which line of the colours a feature has. */
export const lineLines = ({ labels, classOf }: LinePlan, { colour }: LineSettings): LegendLines | null =>
  colour && {
    keys: [...labels.map((_, i) => `hue-${i}`), 'missing'],
    of: (feature) => (classOf[feature] < 0 ? 'missing' : `hue-${classOf[feature]}`),
  }
