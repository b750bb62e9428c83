import { formatNumber } from '@/core/classify/labels'
import { overlaps } from '@/core/scene/bounds'
import { rectangle, type Box } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { path, type Node, type Text } from '@/core/scene/scene'
import { breakLines, textNode, verticalMetrics } from '@/core/scene/text'
import type { Tile } from '@/core/treemap/layout'
import type { NamedPart } from '@/core/treemap/tree'
import { inkOn } from '../../figures/first-colours'
import type { SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import type { Tiles } from './tiles'
import type { TreemapSettings } from './spec'

/** Between words and the edges of their tile, in sizes of the type. */
const padding = 0.35

/** A figure of a treemap as it is written. */
export const figureWords = (value: number): string => formatNumber(value, Number.isInteger(value) ? 0 : 1)

/** The colour under a word that decides its ink. */
export const groundColour = ({ paintOf }: Tiles, leaf: NamedPart): string => {
  const paint = paintOf(leaf)
  if (paint.type === 'solid') return paint.colour
  return paint.type === 'hatch' ? (paint.background ?? '#ffffff') : '#ffffff'
}

/**
 * Names at the top left of the larger parts, and at the foot of the smallest, with their figures where there is room.
 * Names that do not fit in their part are left out.
 */
export function namesOf(
  tiles: readonly Tile<NamedPart>[],
  made: Tiles,
  settings: TreemapSettings,
  { fonts }: SheetContext,
): { names: Node[]; unnamed: string[] } {
  const unnamed: string[] = []
  const [heading, label] = [lineStyle(settings.heading), lineStyle(settings.label)]
  // A line takes half of its width from the tile, the widest of them where a tile lies at the border of its parent.
  const lineMm = Math.max(...settings.levels.map((level) => level.lineMm)) / 2
  const leaves = tiles.filter(({ isLeaf }) => isLeaf)
  const headings: { box: Box; node: Node[] }[] = []
  for (const { of, box, depth, isLeaf } of tiles) {
    if (isLeaf || !settings.levels[depth - 1].heading) continue
    // Each level further down is set a little smaller.
    const style = { ...heading, sizeMm: heading.sizeMm * 0.85 ** (depth - 1) }
    const { ascentMm, descentMm } = verticalMetrics(fonts, style)
    const pad = padding * style.sizeMm
    const own = {
      x: box.x + pad + lineMm,
      y: box.y + pad + lineMm,
      width: textNode(fonts, of.name, style, { x: 0, y: 0, colour: '#000000' }).widthMm,
      height: ascentMm + descentMm,
    }
    for (const other of headings)
      if (touch(own, other.box)) own.y = other.box.y + other.box.height + 0.2 * pad
    if (own.width > box.width - 2 * (pad + lineMm) || own.y + own.height + pad > box.y + box.height) {
      unnamed.push(of.path.join(', '))
      continue
    }
    headings.push({ box: own, node: headingNodes(own, of.name) })

    function headingNodes(at: Box, words: string): Node[] {
      const under = leaves.filter((leaf) => touch(at, leaf.box)).map((leaf) => groundColour(made, leaf.of))
      const inks = new Set(under.map(inkOn))
      const ink = inks.size === 1 ? [...inks][0] : '#1b1b1b'
      const plate =
        inks.size > 1
          ? [
              path(
                rectangle({
                  x: at.x - 0.3 * pad,
                  y: at.y,
                  width: at.width + 0.6 * pad,
                  height: at.height,
                }),
                { fill: solid(settings.lineColour) },
              ),
            ]
          : []
      const onPlate = inks.size > 1 ? inkOn(settings.lineColour) : ink
      return [...plate, textNode(fonts, words, style, { x: at.x, y: at.y + ascentMm, colour: onPlate })]
    }
  }
  const { ascentMm, descentMm } = verticalMetrics(fonts, label)
  const pad = padding * label.sizeMm
  const pitch = label.sizeMm * 1.15
  const names = leaves.flatMap(({ of, value, box }): Text[] => {
    const ink = inkOn(groundColour(made, of))
    const [x, room] = [box.x + pad + lineMm, box.width - 2 * (pad + lineMm)]
    const foot = box.y + box.height - pad - lineMm - descentMm
    const write = (text: string, line: number) =>
      textNode(fonts, text, label, { x, y: foot - line * pitch, colour: ink })
    const top = (widthMm: number): number =>
      Math.max(
        box.y,
        ...headings
          .filter(({ box: head }) => touch({ ...box, x, width: widthMm }, head))
          .map(({ box: head }) => head.y + head.height),
      )
    const fits = (lines: Text[]): boolean => {
      const widest = Math.max(...lines.map(({ widthMm }) => widthMm))
      return widest <= room && foot - (lines.length - 1) * pitch - ascentMm >= top(widest)
    }
    const broken = breakLines(fonts, of.name, label, room)
    const figure = settings.values ? [figureWords(value)] : []
    // Its figure where there is room for that as well, else its name alone.
    const found = [[...broken, ...figure], broken]
      .map((lines) => lines.map((words, i) => write(words, lines.length - 1 - i)))
      .find(fits)
    if (!found) unnamed.push(of.path.join(', '))
    return found ?? []
  })
  return { names: [...headings.flatMap(({ node }) => node), ...names], unnamed }
}

const touch = (a: Box, b: Box): boolean =>
  overlaps([a.x, a.y, a.x + a.width, a.y + a.height], [b.x, b.y, b.x + b.width, b.y + b.height])
