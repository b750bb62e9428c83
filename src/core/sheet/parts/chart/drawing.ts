import { roundMarks } from '../../figures/rows'
import type { PartBox, SheetContext } from '../../part'
import type { ChartSettings } from './spec'
import { decimalsFor, formatNumber } from '@/core/classify/labels'
import { textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { polyline } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { type Node, path } from '@/core/scene/scene'
import { textNode, type TextStyle } from '@/core/scene/text'

export const ink = '#8a8a8a'
export const hair = stroke(ink, 0.12, { cap: 'butt' })
export const axis = stroke('#4a4a4a', 0.2, { cap: 'butt' })

export type Drawing = {
  settings: ChartSettings
  context: SheetContext
  prepared: Prepared
  rows: number[]
  style: TextStyle
  capMm: number
  /** The space for the chart, under its title. */
  space: PartBox
}

export type Anchor = 'start' | 'middle' | 'end'

export const write = (
  { settings, context, style }: Drawing,
  text: string,
  [x, y, colour = settings.label.colour]: [x: number, y: number, colour?: string],
  anchor: Anchor = 'start',
): Node => textNode(context.fonts, text, style, { x, y, anchor, colour })

export const widthOf = ({ context, style }: Drawing, text: string): number =>
  textNode(context.fonts, text, style, { x: 0, y: 0, colour: '#000000' }).widthMm

export const nameOf = ({ prepared, settings }: Drawing, row: number): string => {
  const column = fieldOf(prepared.dataset, settings.nameField)
  return (column && textAt(column, row)) || String(row + 1)
}

export const labelOf = ({ prepared }: Drawing, field: string): string => prepared.fieldMeta(field).label

export const colourAt = ({ colours }: ChartSettings, i: number): string => colours[i % colours.length]

export const finite = (values: Iterable<number>): number[] => [...values].filter(Number.isFinite)

/** A scale of values over a length, from round number to round number. */
export function scaleOver(values: number[], [from, to]: [number, number], { zero = true, count = 5 } = {}) {
  const low = Math.min(...values, ...(zero ? [0] : []))
  const high = Math.max(...values, ...(zero ? [0] : []))
  const marks = roundMarks(low, high > low ? high : low + 1, count)
  const [first, last] = [marks[0], marks[marks.length - 1]]
  return {
    marks,
    at: (value: number) => from + ((value - first) / (last - first || 1)) * (to - from),
    words: (value: number) => formatNumber(value, decimalsFor(marks)),
  }
}

/** Level lines and numbers of an axis along the foot. */
export function footAxis(
  drawing: Drawing,
  scale: ReturnType<typeof scaleOver>,
  { y, height }: PartBox,
): Node[] {
  const { settings, style, capMm } = drawing
  const bottom = y + height
  return [
    ...(settings.gridlines
      ? [
          path(polyline(...scale.marks.map((mark) => [scale.at(mark), y, scale.at(mark), bottom])), {
            strokes: [hair],
          }),
        ]
      : []),
    ...marksThatFit(
      [...scale.marks]
        .map((mark) => ({ text: scale.words(mark), x: scale.at(mark) }))
        .sort((p, q) => p.x - q.x),
      (text) => widthOf(drawing, text),
    ).map(({ text, x }) => write(drawing, text, [x, bottom + 0.35 * style.sizeMm + capMm], 'middle')),
  ]
}

/** Labels along an axis, without those that would touch the one before. */
export function marksThatFit(
  marks: { text: string; x: number }[],
  width: (text: string) => number,
): { text: string; x: number }[] {
  let end = -Infinity
  return marks.filter(({ text, x }) => {
    const half = width(text) / 2
    if (x - half < end + 1) return false
    end = x + half
    return true
  })
}
