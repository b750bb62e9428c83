import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { rectangle, type Box } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics } from '@/core/scene/text'
import { treemap, type Tile } from '@/core/treemap/layout'
import { stripOf } from '@/core/treemap/sub-totals'
import type { NamedPart } from '@/core/treemap/tree'
import type { PartBox, SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import { namesOf } from './names'
import type { TreemapSettings } from './spec'
import { drawStrip, stripHeight } from './strip'
import { tilesOf, type Tiles } from './tiles'

/** What a treemap cannot show, in a sentence; null where all is well. */
export function treemapProblem(settings: TreemapSettings, prepared: Prepared | undefined): string | null {
  if (!prepared) return 'Its dataset is gone.'
  const { dataset } = prepared
  if (fieldOf(dataset, settings.value)?.kind !== 'number') return 'It needs a field of numbers.'
  const gone = settings.levels.find(({ field }) => !fieldOf(dataset, field))
  if (gone) return `The field “${gone.field}” is gone. Choose another one.`
  const { shade } = settings
  const shades = shade ? [shade.field, ...(shade.per === null ? [] : [shade.per])] : []
  const unshaded = shades.find((field) => fieldOf(dataset, field)?.kind !== 'number')
  return unshaded === undefined ? null : `The field “${unshaded}” that shades it is no field of numbers.`
}

/** What is wrong with the sub-totals of a treemap, in sentences. */
export function stripProblems({ strip }: TreemapSettings, { whole }: Tiles): string[] {
  if (!strip) return []
  const { gone, over } = stripOf(whole, strip.subTotals)
  const some = (all: string[]) =>
    `${all.slice(0, 3).join('; ')}${all.length > 3 ? ` and ${all.length - 3} more` : ''}`
  return [
    ...(gone.length ? [`No longer among the parts: ${some(gone)}.`] : []),
    ...(over.length ? [`Counted more than once over, so there is no strip: ${some(over)}.`] : []),
  ]
}

/** A treemap in its box; empty where it has nothing to show. */
export const drawTreemap = (settings: TreemapSettings, box: PartBox, context: SheetContext): Node[] =>
  layOutTreemap(settings, box, context).nodes

/** A treemap, its tiles and sub-totals by name, and which of these have no room for their names. */
export type LaidTreemap = { nodes: Node[]; tiles: string[]; unnamed: string[] }

/** Where the tiles of a treemap lie in its box, beneath its title and beside its strip. */
export function tileSpace(settings: TreemapSettings, box: PartBox, context: SheetContext): Box {
  const { ascentMm, descentMm } = verticalMetrics(context.fonts, lineStyle(settings.heading))
  const above = settings.title ? ascentMm + descentMm + 1 : 0
  const { strip } = settings
  const beside = strip ? Math.min(stripHeight(strip, settings, context), box.height - above - 5) : 0
  return {
    ...box,
    y: box.y + above + (strip?.at === 'above' ? beside : 0),
    height: Math.max(5, box.height - above - beside),
  }
}

export function layOutTreemap(settings: TreemapSettings, box: PartBox, context: SheetContext): LaidTreemap {
  const prepared = context.datasets.get(settings.datasetId)
  if (!prepared || treemapProblem(settings, prepared)) return { nodes: [], tiles: [], unnamed: [] }
  const { fonts } = context
  const heading = lineStyle(settings.heading)
  const { ascentMm, descentMm } = verticalMetrics(fonts, heading)
  const title = settings.title
    ? [
        textNode(fonts, context.fill(settings.title), heading, {
          x: box.x,
          y: box.y + ascentMm,
          colour: settings.heading.colour,
        }),
      ]
    : []
  const made = tilesOf(settings, prepared)
  const space = tileSpace(settings, box, context)
  const tiles = treemap(made.whole, space, settings.layout)
  const leaves = tiles.filter(({ isLeaf }) => isLeaf)
  const { names, unnamed } = namesOf(tiles, made, settings, context)
  const { strip: wanted } = settings
  const below = space.y + space.height + 3
  const above = box.y + (settings.title ? ascentMm + descentMm + 1 : 0)
  const strip = wanted
    ? drawStrip(wanted, { ...space, y: wanted.at === 'above' ? above : below }, { settings, made, context })
    : { nodes: [], named: [], unnamed: [] }
  return {
    tiles: [...leaves.map(({ of }) => of.path.join(', ')), ...strip.named, ...strip.unnamed],
    unnamed: [...unnamed, ...strip.unnamed],
    nodes: [
      ...title,
      group(
        'tiles',
        leaves.map((tile) => tileNode(tile, made)),
      ),
      ...linesOf(tiles, settings),
      group('names', names),
      ...strip.nodes,
    ],
  }
}

const tileNode = ({ of, box }: Tile<NamedPart>, { paintOf }: Tiles): Node =>
  path(rectangle(box), {
    fill: paintOf(of),
    features: { offsets: Uint32Array.of(0, 1), names: [of.path.join(', ')] },
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
