import { formatNumber } from '@/core/classify/labels'
import type { Prepared } from '@/core/data/prepare'
import { fieldOf } from '@/core/data/dataset'
import { rectangle } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics, type TextStyle } from '@/core/scene/text'
import { treemap, type Tile } from '@/core/treemap/layout'
import { treeOf, type NamedPart } from '@/core/treemap/tree'
import type { PartBox, SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import { inkOn } from '../../figures/first-colours'
import type { TreemapSettings } from './spec'

/** What a treemap cannot show, in a sentence; null where all is well. */
export function treemapProblem(settings: TreemapSettings, prepared: Prepared | undefined): string | null {
  if (!prepared) return 'Its dataset is gone.'
  if (fieldOf(prepared.dataset, settings.value)?.kind !== 'number') return 'It needs a field of numbers.'
  const gone = settings.levels.find(({ field }) => !fieldOf(prepared.dataset, field))
  return gone ? `The field “${gone.field}” is gone. Choose another one.` : null
}

/** Between words and the edges of their tile, in sizes of the type. */
const padding = 0.35

/** A treemap in its box; empty where it has nothing to show. */
export const drawTreemap = (settings: TreemapSettings, box: PartBox, context: SheetContext): Node[] =>
  layOutTreemap(settings, box, context).nodes

/** A treemap, its tiles by name, and which of these have no room for their names. */
export type LaidTreemap = { nodes: Node[]; tiles: string[]; unnamed: string[] }

export function layOutTreemap(settings: TreemapSettings, box: PartBox, context: SheetContext): LaidTreemap {
  const prepared = context.datasets.get(settings.datasetId)
  if (!prepared || treemapProblem(settings, prepared)) return { nodes: [], tiles: [], unnamed: [] }
  const { fonts } = context
  const heading = lineStyle(settings.heading)
  const head = verticalMetrics(fonts, heading)
  const title = settings.title
    ? [
        textNode(fonts, context.fill(settings.title), heading, {
          x: box.x,
          y: box.y + head.ascentMm,
          colour: settings.heading.colour,
        }),
      ]
    : []
  const above = title.length ? head.ascentMm + head.descentMm + 1 : 0
  const space = { ...box, y: box.y + above, height: Math.max(5, box.height - above) }
  const { whole } = treeOf(prepared.dataset, settings.levels, settings.value)
  const tiles = treemap(whole, space, settings.layout)
  const leaves = tiles.filter(({ isLeaf }) => isLeaf)
  const { names, unnamed } = namesOf(tiles, settings, context)
  return {
    tiles: leaves.map(({ of }) => of.name),
    unnamed,
    nodes: [
      ...title,
      group(
        'tiles',
        leaves.map((tile) => tileNode(tile, settings)),
      ),
      ...linesOf(tiles, settings),
      group('names', names),
    ],
  }
}

const colourOf = ({ of }: Tile<NamedPart>, { colours }: TreemapSettings): string =>
  colours[of.top % colours.length]

const tileNode = (tile: Tile<NamedPart>, settings: TreemapSettings): Node =>
  path(rectangle(tile.box), {
    fill: solid(colourOf(tile, settings)),
    features: { offsets: Uint32Array.of(0, 1), names: [tile.of.name] },
  })

/** Lines round the parts, those of the smallest beneath those of the whole's. */
function linesOf(tiles: Tile<NamedPart>[], { levels, lineColour }: TreemapSettings): Node[] {
  return [...levels.keys()].reverse().flatMap((level) => {
    const own = tiles.filter(({ depth }) => depth === level + 1)
    const { lineMm } = levels[level]
    if (!lineMm || !own.length) return []
    const strokes = [stroke(lineColour, lineMm)]
    return [
      group(
        `lines of level ${level + 1}`,
        own.map(({ box }) => path(rectangle(box), { strokes })),
      ),
    ]
  })
}

/**
 * Names at the top left of the larger parts, and at the foot of the smallest, with their figures where there is room.
 * Names that do not fit in their part are left out.
 */
function namesOf(
  tiles: Tile<NamedPart>[],
  settings: TreemapSettings,
  { fonts }: SheetContext,
): { names: Node[]; unnamed: string[] } {
  const unnamed: string[] = []
  const [heading, label] = [lineStyle(settings.heading), lineStyle(settings.label)]
  const several = settings.levels.length > 1
  // A line takes half of its width from the tile, the widest of them where a tile lies at the border of its parent.
  const lineMm = Math.max(...settings.levels.map((level) => level.lineMm)) / 2
  const headed = new Map<string, number>()
  const write = (text: string, style: TextStyle, at: { x: number; y: number; colour: string }) =>
    textNode(fonts, text, style, at)
  const names = tiles.flatMap((tile): Node[] => {
    const { box, isLeaf, depth } = tile
    const style = isLeaf ? label : heading
    if (!isLeaf && depth > 1) return []
    const { ascentMm, descentMm } = verticalMetrics(fonts, style)
    const pad = padding * style.sizeMm
    const [x, room] = [box.x + pad + lineMm, box.width - 2 * (pad + lineMm)]
    const ink = inkOn(colourOf(tile, settings))
    const height = ascentMm + descentMm
    if (!isLeaf) {
      const node = write(tile.of.name, style, { x, y: box.y + pad + lineMm + ascentMm, colour: ink })
      if (node.widthMm > room || height + 2 * pad > box.height) {
        unnamed.push(tile.of.name)
        return []
      }
      headed.set(`${tile.of.top}`, box.y + 2 * pad + lineMm + height)
      return [node]
    }
    const figure = settings.values ? formatNumber(tile.value, Number.isInteger(tile.value) ? 0 : 1) : ''
    const foot = box.y + box.height - pad - lineMm - descentMm
    const top = Math.max(box.y, several ? (headed.get(`${tile.of.top}`) ?? box.y) : box.y)
    const name = write(tile.of.name, style, { x, y: foot, colour: ink })
    const below = figure ? write(figure, style, { x, y: foot, colour: ink }) : null
    const pitch = style.sizeMm * 1.15
    const both = below !== null && below.widthMm <= room && foot - pitch - ascentMm >= top
    if (name.widthMm > room || foot - ascentMm < top) {
      unnamed.push(tile.of.name)
      return []
    }
    return both && below ? [{ ...name, y: foot - pitch }, below] : [name]
  })
  return { names, unnamed }
}
