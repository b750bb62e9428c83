import { hasOwnShapes, isTiled } from '@/core/cartogram/spec'
import { formatNumber } from '@/core/classify/labels'
import { solid, stroke } from '@/core/scene/paint'
import { choroplethLegend } from '../choropleth/legend'
import type { KindData, LegendEntry, LegendView, SizeFigure } from '../kind'
import { headingOf } from '../values'
import type { CartogramPlan } from './plan'
import type { CartogramSettings } from './spec'

/** Classes as of a choropleth, under the sizes that shapes have in the panel. */
export function cartogramLegend(
  plan: CartogramPlan,
  settings: CartogramSettings,
  data: KindData,
  view: LegendView | null,
): LegendEntry {
  const entry = choroplethLegend(plan, settings, data)
  if (isTiled(settings.form) || !(plan.total > 0)) return entry
  const { label, unit } = data.fieldMeta(settings.size)
  const heading = unit && !label.toLowerCase().includes(unit.toLowerCase()) ? `${label} (${unit})` : label
  if (hasOwnShapes(settings.form)) {
    if (!view) return entry
    const item = { key: 'size', apart: true, label: sizeWords(plan, unit, view), swatch: nothing }
    return { ...entry, items: [...entry.items, item] }
  }
  return {
    ...entry,
    heading,
    itemsHeading: headingOf(settings, data.fieldMeta),
    sizes: {
      shape: settings.form === 'circles' ? 'circle' : 'square',
      barWidthMm: 2,
      form: 'nested',
      fill: solid('#ffffff'),
      stroke: stroke('#555555', 0.15),
      marks: sizeMarks(plan, settings, view),
    },
  }
}

const nothing: LegendEntry['items'][number]['swatch'] = { shape: 'box', fill: null, stroke: null }

/** Squares and circles are named by their width, which is a side or a diameter; mm at the scale of the panel. */
export function widthMm(
  amount: number,
  { m2 }: Pick<CartogramPlan, 'm2'>,
  form: CartogramSettings['form'],
  mmPerMetre: number,
): number {
  const area = amount * m2
  return (form === 'squares' ? Math.sqrt(area) : 2 * Math.sqrt(area / Math.PI)) * mmPerMetre
}

/** Without a panel the sizes are those of one in which the largest is so wide, mm. */
const plainMm = 12

/** Three round amounts, the largest first. */
function sizeMarks(
  plan: CartogramPlan,
  { form }: CartogramSettings,
  view: LegendView | null,
): SizeFigure['marks'] {
  const scale = view?.mmPerMetre ?? plainMm / widthMm(plan.largest, plan, form, 1)
  const amounts = [...new Set([1, 3, 12].map((part) => roundDown(plan.largest / part)))]
  return amounts.map((amount) => ({
    label: formatNumber(amount, amount < 1 ? 2 : 0),
    sizeMm: widthMm(amount, plan, form, scale),
  }))
}

/** The largest of 1, 2 and 5 times a power of ten that is no larger. */
function roundDown(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value))
  return ([5, 2, 1].find((digit) => digit * power <= value * (1 + 1e-9)) ?? 1) * power
}

/** “1 cm² of the map: 5,300 persons” */
function sizeWords({ m2 }: CartogramPlan, unit: string, { mmPerMetre }: LegendView): string {
  const m2PerCm2 = (10 / mmPerMetre) ** 2
  const amount = Number((m2PerCm2 / m2).toPrecision(2))
  return `1 cm² of the map: ${formatNumber(amount, amount < 10 ? 1 : 0)} ${unit}`.trim()
}
