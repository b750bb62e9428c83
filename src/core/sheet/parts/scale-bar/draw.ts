import { formatNumber } from '@/core/classify/labels'
import { polyline, rectangle } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics, type FontBook } from '@/core/scene/text'
import type { PanelView, PartBox } from '../../part'
import { lineStyle } from '../../type-style'
import type { BarLength } from './length'
import type { ScaleBarSettings } from './spec'
import { diagramLatitudes, metresPerMmAlong } from './spread'

export const tidyNumber = (n: number): string =>
  formatNumber(n, Number.isInteger(n) ? 0 : 2)
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '')

/** Where the divisions of a bar begin and end, mm from its zero: those left of it, then those right of it. */
export function divisionsOf({ widthMm, parts, left }: BarLength): { from: number; to: number }[] {
  const segment = widthMm / parts
  const cut = (start: number, length: number, count: number) =>
    Array.from({ length: count }, (_, i) => ({
      from: start + (length * i) / count,
      to: start + (length * (i + 1)) / count,
    }))
  return [...cut(-segment, segment, left), ...cut(0, widthMm, parts)]
}

/** How far a bar reaches left of its zero, mm. */
export const leftOf = ({ widthMm, parts, left }: BarLength): number => (left > 0 ? widthMm / parts : 0)

type Drawing = { bar: BarLength; x: number; y: number; settings: ScaleBarSettings }

const hair = 0.18

/** The bar itself, its zero at (x, y), its numbers left out. */
export function drawBar({ bar, x, y, settings }: Drawing): Node[] {
  const { look, heightMm: height, style, light } = settings
  const dark = style.colour
  const divisions = divisionsOf(bar)
  const [start, end] = [x + divisions[0].from, x + bar.widthMm]
  const edge = stroke(dark, hair, { join: 'miter' })
  const line = stroke(dark, 0.25, { cap: 'butt', join: 'miter' })
  const block = (from: number, to: number, [top, tall]: [number, number], isDark: boolean): Node =>
    path(rectangle({ x: x + from, y: y + top, width: to - from, height: tall }), {
      fill: solid(isDark ? dark : light),
      strokes: [edge],
    })
  const bottom = y + height
  const inner = divisions.slice(1).map(({ from }) => x + from)
  switch (look) {
    case 'line':
      return [
        path(
          polyline(
            [start, y, start, bottom, end, bottom, end, y],
            ...inner.map((at) => [at, bottom, at, bottom - height * 0.6]),
          ),
          { strokes: [line] },
        ),
      ]
    case 'ends':
      return [
        path(
          polyline(
            [start, y + height / 2, end, y + height / 2],
            [start, y, start, bottom],
            [end, y, end, bottom],
          ),
          { strokes: [stroke(dark, 0.35, { cap: 'butt' })] },
        ),
      ]
    case 'blocks':
      return divisions.map(({ from, to }, i) => block(from, to, [0, height], (i - bar.left) % 2 === 0))
    case 'rows':
      return divisions.flatMap(({ from, to }, i) => [
        block(from, to, [0, height / 2], (i - bar.left) % 2 === 0),
        block(from, to, [height / 2, height / 2], (i - bar.left) % 2 !== 0),
      ])
    case 'stairs': {
      // Each division is a step higher than the one before it.
      const step = height / divisions.length
      return divisions.map(({ from, to }, i) =>
        block(from, to, [height - step * (i + 1), step * (i + 1)], (i - bar.left) % 2 === 0),
      )
    }
    case 'hollow':
      return [
        path(rectangle({ x: start, y, width: end - start, height }), { fill: solid(light), strokes: [line] }),
        ...(inner.length
          ? [path(polyline(...inner.map((at) => [at, y, at, bottom])), { strokes: [line] })]
          : []),
      ]
    default:
      return []
  }
}

/** The numbers under a bar: the unit stands behind the last one, which is centred on the end of the bar. */
export function barNumbers({ bar, x, y, settings }: Drawing, fonts: FontBook): Node[] {
  const style = lineStyle(settings.style)
  const { colour } = settings.style
  const { capHeightMm } = verticalMetrics(fonts, style)
  const base = y + settings.heightMm + 1 + capHeightMm
  const each = bar.total / bar.parts
  const marks: { at: number; words: string }[] = []
  if (bar.left > 0) marks.push({ at: -leftOf(bar), words: tidyNumber(each) })
  for (let i = 0; i < bar.parts; i++)
    if (i % settings.labelEvery === 0)
      marks.push({ at: (bar.widthMm * i) / bar.parts, words: tidyNumber(each * i) })
  // A line with marks at its ends says no more than they do.
  const shown = settings.look === 'ends' ? marks.filter(({ at }) => at <= 0) : marks
  const last = tidyNumber(bar.total)
  const digits = textNode(fonts, last, style, { x: 0, y: 0, colour }).widthMm
  const end = textNode(fonts, `${last} ${bar.label}`, style, {
    x: x + bar.widthMm - digits / 2,
    y: base,
    colour,
  })
  const fits = (node: { x: number; widthMm: number }, next: number) =>
    node.x + node.widthMm + style.sizeMm * 0.25 < next
  const nodes = shown.map(({ at, words }) =>
    textNode(fonts, words, style, { x: x + at, y: base, colour, anchor: 'middle' }),
  )
  // Numbers that would touch the next one are left out, from the right.
  const kept: typeof nodes = []
  let next = end.x
  for (const node of [...nodes].reverse())
    if (fits(node, next)) {
      kept.unshift(node)
      next = node.x
    }
  return [...kept, end]
}

/**
 * A scale diagram: for each of several latitudes the divisions as long as they are there, joined by curves; latitudes
 * stand on the left.
 */
export function drawDiagram(
  panel: PanelView,
  bar: BarLength,
  { box, settings, fonts }: { box: PartBox; settings: ScaleBarSettings; fonts: FontBook },
): { nodes: Node[]; height: number } {
  const style = lineStyle(settings.style)
  const { colour } = settings.style
  const { capHeightMm } = verticalMetrics(fonts, style)
  const lats = diagramLatitudes(panel).filter((lat) => metresPerMmAlong(panel, lat) !== null)
  const pace = Math.max(style.sizeMm * 1.25, settings.heightMm * 2)
  const words = lats.map((lat) => latWords(lat))
  const widths = words.map((text) => textNode(fonts, text, style, { x: 0, y: 0, colour }).widthMm)
  const x0 = box.x + Math.max(0, ...widths) + 1.5
  const top = box.y + capHeightMm / 2
  const centre = metresPerMmAlong(panel, panel.view.centre[1]) ?? 1
  const lengthAt = (lat: number, share: number): number =>
    (share * bar.widthMm * centre) / (metresPerMmAlong(panel, lat) ?? centre)
  const lines = lats.map((lat, i) => [x0, top + i * pace, x0 + lengthAt(lat, 1), top + i * pace])
  const curves = Array.from({ length: bar.parts + 1 }, (_, k) =>
    lats.flatMap((lat, i) => [x0 + lengthAt(lat, k / bar.parts), top + i * pace]),
  )
  const line = stroke(colour, 0.2, { cap: 'butt', join: 'round' })
  const base = top + (lats.length - 1) * pace + 1.2 + capHeightMm
  const lowest = lats.at(-1) ?? 0
  const numbers = Array.from({ length: bar.parts + 1 }, (_, k) => k)
    .filter((k) => k % settings.labelEvery === 0 || k === bar.parts)
    .map((k) => {
      const number = tidyNumber((bar.total * k) / bar.parts)
      const text = k === bar.parts ? `${number} ${bar.label}` : number
      const half = textNode(fonts, number, style, { x: 0, y: 0, colour }).widthMm / 2
      return textNode(fonts, text, style, { x: x0 + lengthAt(lowest, k / bar.parts) - half, y: base, colour })
    })
  return {
    nodes: lats.length
      ? [
          path(polyline(...lines, ...curves), { strokes: [line] }),
          ...words.map((text, i) =>
            textNode(fonts, text, style, {
              x: x0 - 1.2,
              y: top + i * pace + capHeightMm / 2,
              colour,
              anchor: 'end',
            }),
          ),
          ...numbers,
        ]
      : [],
    height: capHeightMm + Math.max(0, lats.length - 1) * pace + 1.2 + style.sizeMm,
  }
}

const latWords = (lat: number): string => {
  if (lat === 0) return '0°'
  return `${Math.abs(lat)}° ${lat > 0 ? 'N' : 'S'}`
}
