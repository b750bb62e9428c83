import { formatNumber } from '@/core/classify/labels'
import { numbersOf, textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { circle, polygon, polyline, rectangle, type Outline } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics } from '@/core/scene/text'
import type { PartBox, SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import type { AmountForm, AmountSettings } from './spec'

/** What an amount cannot show, in a sentence; null where all is well. */
export function amountProblem({ parts, of }: AmountSettings, prepared: Prepared | undefined): string | null {
  if (!prepared) return 'Its dataset is gone.'
  const gone = parts.find(({ field }) => fieldOf(prepared.dataset, field)?.kind !== 'number')
  if (gone) return `“${gone.field}” is no field of numbers.`
  if (of && !fieldOf(prepared.dataset, of.field)) return `The field “${of.field}” is gone.`
  return null
}

/** Sums of parts over the rows that are taken; values that are not above zero have no area and are counted. */
export type Amounts = { sums: number[]; total: number; rows: number; without: number }

export function amountsOf({ parts, of }: AmountSettings, { dataset }: Prepared): Amounts {
  const chosen = of && fieldOf(dataset, of.field)
  const rows = Array.from({ length: dataset.rowCount }, (_, row) => row).filter(
    (row) => !of || (chosen && textAt(chosen, row) === of.value),
  )
  let without = 0
  const sums = parts.map(({ field }) => {
    const column = fieldOf(dataset, field)
    const values = column ? numbersOf(column) : new Float64Array(dataset.rowCount)
    return rows.reduce((sum, row) => {
      if (values[row] > 0) return sum + values[row]
      without++
      return sum
    }, 0)
  })
  return { sums, total: sums.reduce((all, sum) => all + sum, 0), rows: rows.length, without }
}

/** How large the figure of an amount is, mm: its area of colour is exactly the amount over `perMm2`. */
export function figureSize(
  { form, perMm2, hole, widthMm }: Pick<AmountSettings, 'form' | 'perMm2' | 'hole' | 'widthMm'>,
  total: number,
): { width: number; height: number } {
  const mm2 = Math.max(0, total) / perMm2
  if (form === 'bar') return { width: widthMm, height: mm2 / widthMm }
  const side =
    form === 'square' ? Math.sqrt(mm2) : 2 * Math.sqrt(mm2 / (Math.PI * (1 - openShare(form, hole) ** 2)))
  return { width: side, height: side }
}

const openShare = (form: AmountForm, hole: number): number => (form === 'ring' ? hole : 0)

/** Between a figure and its words, in sizes of the type. */
const gap = 0.35

/** An amount with the box of its figure alone. */
type Laid = { width: number; height: number; nodes: Node[]; figure: PartBox }

/** An amount with its words, from the top left corner of a box; nothing where it has nothing to show. */
export function layOutAmount(settings: AmountSettings, box: PartBox, context: SheetContext): Laid {
  const prepared = context.datasets.get(settings.datasetId)
  if (!prepared || amountProblem(settings, prepared))
    return { width: 20, height: 20, nodes: [], figure: { ...box, width: 20, height: 20 } }
  const amounts = amountsOf(settings, prepared)
  const size = figureSize(settings, amounts.total)
  const style = lineStyle(settings.label)
  const { ascentMm, descentMm } = verticalMetrics(context.fonts, style)
  const write = (text: string) =>
    textNode(context.fonts, text, style, { x: 0, y: 0, colour: settings.label.colour })
  const figure = settings.values ? write(amountWords(settings, prepared, amounts.total)) : null
  const title = context.fill(settings.title)
  // A figure stands within the ring where it has room there.
  const open = openShare(settings.form, settings.hole) * size.width
  const inside = figure !== null && Math.hypot(figure.widthMm, ascentMm) < 0.92 * open
  const below = [...(title ? [write(title)] : []), ...(figure && !inside ? [figure] : [])]
  const width = Math.max(size.width, ...below.map(({ widthMm }) => widthMm))
  const pitch = 1.2 * style.sizeMm
  const [cx, top] = [box.x + width / 2, box.y]
  const own = { x: cx - size.width / 2, y: top, ...size }
  const nodes: Node[] = [
    group('figure', figureNodes(settings, amounts, own)),
    ...(figure && inside
      ? [{ ...figure, x: cx - figure.widthMm / 2, y: top + size.height / 2 + ascentMm / 2 - descentMm / 2 }]
      : []),
    ...below.map((line, i) => ({
      ...line,
      x: cx - line.widthMm / 2,
      y: top + size.height + gap * style.sizeMm + ascentMm + i * pitch,
    })),
  ]
  const words = below.length ? gap * style.sizeMm + ascentMm + descentMm + (below.length - 1) * pitch : 0
  return { width, height: size.height + words, nodes, figure: own }
}

/** How thick the line to its place is, and the dot at its end, mm. */
const [leaderMm, dotMm] = [0.2, 0.9]

/** A line from the edge of a figure to a place with a dot on it; none where the figure lies on the place. */
export function leaderTo(
  { form, label }: Pick<AmountSettings, 'form' | 'label'>,
  { x, y, width, height }: PartBox,
  [px, py]: readonly [number, number],
): Node[] {
  const [cx, cy] = [x + width / 2, y + height / 2]
  const [dx, dy] = [px - cx, py - cy]
  const far = Math.hypot(dx, dy)
  const isRound = form === 'ring' || form === 'disc'
  // How far from its middle the edge lies in that direction.
  const edge = isRound
    ? width / 2
    : Math.min(width / 2 / Math.abs(dx / far || 1e-9), height / 2 / Math.abs(dy / far || 1e-9))
  if (!(far > edge + dotMm)) return []
  const start = [cx + (dx / far) * edge, cy + (dy / far) * edge]
  return [
    path(polyline([...start, px, py]), { strokes: [stroke(label.colour, leaderMm, { cap: 'butt' })] }),
    path(circle(px, py, dotMm / 2), { fill: solid(label.colour) }),
  ]
}

/** “1,204,000 loans” */
export function amountWords({ parts }: AmountSettings, { fieldMeta }: Prepared, total: number): string {
  const { unit } = fieldMeta(parts[0].field)
  return `${formatNumber(total, Number.isInteger(total) ? 0 : 1)} ${unit}`.trim()
}

function figureNodes(settings: AmountSettings, { sums, total }: Amounts, box: PartBox): Node[] {
  const { parts, form, lineColour, lineMm } = settings
  if (!(total > 0)) return []
  const strokes = lineMm > 0 ? [stroke(lineColour, lineMm)] : []
  let before = 0
  return parts.flatMap(({ field, colour }, i) => {
    const [from, to] = [before / total, (before + sums[i]) / total]
    before += sums[i]
    if (!(sums[i] > 0)) return []
    const outline = partOutline(settings, box, from, to)
    return [
      path(outline, {
        fill: solid(colour),
        strokes,
        ...(outline.kind === 'rings' && {
          // A ring has two outlines.
          features: { offsets: Uint32Array.of(0, outline.starts.length), names: [field] },
        }),
        ...(form === 'ring' && { fillRule: 'evenodd' as const }),
      }),
    ]
  })
}

/** The outline of a stretch of an amount, between two shares of it: clockwise from the top, or from the foot up. */
function partOutline({ form, hole }: AmountSettings, box: PartBox, from: number, to: number): Outline {
  const { x, y, width, height } = box
  if (form === 'square' || form === 'bar')
    return rectangle({ x, y: y + (1 - to) * height, width, height: (to - from) * height })
  const [cx, cy, r] = [x + width / 2, y + height / 2, width / 2]
  const inner = openShare(form, hole) * r
  if (to - from > 1 - 1e-12 && !inner) return circle(cx, cy, r)
  const outside = arc([cx, cy], r, from, to)
  if (to - from > 1 - 1e-12) return polygon(outside, arc([cx, cy], inner, to, from))
  return polygon([...outside, ...(inner ? arc([cx, cy], inner, to, from) : [cx, cy])])
}

/** Points along an arc, from one share of the circle to another; so many that its area is right to 1 in 10,000. */
function arc([cx, cy]: [number, number], r: number, from: number, to: number): number[] {
  const steps = Math.max(2, Math.ceil(360 * Math.abs(to - from)))
  return Array.from({ length: steps + 1 }, (_, k) => {
    const angle = 2 * Math.PI * (from + ((to - from) * k) / steps)
    return [cx + r * Math.sin(angle), cy - r * Math.cos(angle)]
  }).flat()
}
