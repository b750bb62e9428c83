import { formatNumber } from '@/core/classify/labels'
import { polyline, rectangle, type Box } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics } from '@/core/scene/text'
import type { Tree } from '@/core/treemap/layout'
import { stripOf } from '@/core/treemap/sub-totals'
import type { NamedPart } from '@/core/treemap/tree'
import type { SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import { figureWords } from './names'
import type { Strip, TreemapSettings } from './spec'
import type { Tiles } from './tiles'

/** Between the bar of a strip and its braces, and how high these are, mm. */
const [gapMm, braceMm] = [0.8, 1.2]

/** Between treemap and strip, mm. */
const apartMm = 3

/** The strip of a treemap before anybody changed it: the first two parts together, and what is left. */
export const firstStrip = (whole: readonly Tree<NamedPart>[]): Strip => ({
  at: 'below',
  heightMm: 8,
  rest: 'The rest',
  subTotals: whole.length
    ? [{ name: 'Together', of: whole.slice(0, 2).map(({ of }) => ({ path: [...of.path], share: 1 })) }]
    : [],
})

/** How much of the height of a treemap its strip takes, with its words; mm. */
export function stripHeight(strip: Strip, settings: TreemapSettings, { fonts }: SheetContext): number {
  const label = lineStyle(settings.label)
  const { ascentMm, descentMm } = verticalMetrics(fonts, label)
  const lines = settings.values ? 1.15 * label.sizeMm : 0
  return strip.heightMm + gapMm + braceMm + 0.4 + ascentMm + descentMm + lines + apartMm
}

/**
 * A bar as long as the whole in a box, its sub-totals under braces with their names, sums and shares. Names without
 * room are left out.
 */
export function drawStrip(
  strip: Strip,
  box: Box,
  { settings, made, context }: { settings: TreemapSettings; made: Tiles; context: SheetContext },
): { nodes: Node[]; named: string[]; unnamed: string[] } {
  const { fonts } = context
  const label = lineStyle(settings.label)
  const { ascentMm } = verticalMetrics(fonts, label)
  const { segments } = stripOf(made.whole, strip.subTotals)
  const at = (share: number): number => box.x + share * box.width
  const bar = (from: number, to: number): Box => ({
    x: at(from),
    y: box.y,
    width: at(to) - at(from),
    height: strip.heightMm,
  })
  const levels = settings.levels.map(({ lineMm }) => lineMm)
  const outlined = (name: string, boxes: Box[], widthMm: number): Node[] =>
    widthMm
      ? [
          group(
            name,
            boxes.map((one) => path(rectangle(one), { strokes: [stroke(settings.lineColour, widthMm)] })),
          ),
        ]
      : []
  const pieces = segments.flatMap((segment) => segment.pieces)
  const [named, unnamed]: [string[], string[]] = [[], []]
  const words = segments.flatMap(({ index, value, from, to }): Node[] => {
    const name = index === null ? strip.rest : strip.subTotals[index].name
    const top = box.y + strip.heightMm + gapMm
    const inset = Math.min(0.3, 0.1 * (at(to) - at(from)))
    const [left, right] = [at(from) + inset, at(to) - inset]
    const brace = path(polyline([left, top, left, top + braceMm / 2, right, top + braceMm / 2, right, top]), {
      strokes: [stroke(settings.label.colour, 0.2, { cap: 'butt', join: 'miter' })],
    })
    const share = formatNumber((100 * value) / made.total, 1)
    const write = (text: string, line: number) => {
      const node = textNode(fonts, text, label, {
        x: 0,
        y: top + braceMm + 0.4 + ascentMm + line * 1.15 * label.sizeMm,
        colour: settings.label.colour,
      })
      return { ...node, x: (at(from) + at(to) - node.widthMm) / 2 }
    }
    const texts = [
      write(name, 0),
      ...(settings.values ? [write(`${figureWords(value)} (${share} %)`, 1)] : []),
    ]
    const room = at(to) - at(from)
    if (texts.some(({ widthMm }) => widthMm > room)) {
      unnamed.push(name)
      return [brace]
    }
    named.push(name)
    return [brace, ...texts]
  })
  return {
    named,
    unnamed,
    nodes: [
      group(
        'strip',
        pieces.map(({ of, from, to }) =>
          path(rectangle(bar(from, to)), {
            fill: made.paintOf(of),
            features: { offsets: Uint32Array.of(0, 1), names: [of.path.join(', ')] },
          }),
        ),
      ),
      ...outlined(
        'lines of the strip',
        pieces.map(({ from, to }) => bar(from, to)),
        levels[levels.length - 1],
      ),
      ...outlined(
        'lines of sub-totals',
        segments.map(({ from, to }) => bar(from, to)),
        levels[0],
      ),
      group('sub-totals', words),
    ],
  }
}
