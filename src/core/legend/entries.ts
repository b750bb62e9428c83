import type { LegendEntry, LegendItem } from '@/core/kinds/kind'
import { kindOf } from '@/core/kinds/registry'
import { kindData, planOf } from '@/core/map/compose-map'
import type { DrawnLayer } from '@/core/map/drawn'

/** A line of a legend with the key under which its wording is kept, and the wording that follows the map. */
export type LegendLine = {
  key: string
  text: string
  proposed: string
  role: 'heading' | 'item' | 'limit' | 'size' | 'axis' | 'note'
  item: LegendItem | null
}

/**
 * What the legend says of one layer. `limits` are the ends of its classes, lowest first; empty where it has
 * none.
 */
export type LegendBlock = {
  heading: LegendLine | null
  items: LegendLine[]
  limits: LegendLine[]
  distribution: LegendEntry['distribution'] | null
  sizes: { figure: NonNullable<LegendEntry['sizes']>; lines: { line: LegendLine; sizeMm: number }[] } | null
  /** Over the items, where sizes stand before them. */
  itemsHeading: LegendLine | null
  square: {
    figure: NonNullable<LegendEntry['square']>
    across: LegendLine | null
    up: LegendLine | null
  } | null
}

/**
 * The legend of what is seen of a map: a block for each layer that enters it, with the wording changes of
 * `words` and without hidden lines.
 */
export function legendBlocks(
  drawn: readonly DrawnLayer[],
  words: Record<string, string>,
  hidden: readonly string[] = [],
): LegendBlock[] {
  return drawn.flatMap(({ layer, prepared }): LegendBlock[] => {
    if (!layer.inLegend) return []
    const entry: LegendEntry = kindOf(layer.symbology.kind).legend(
      planOf(layer, prepared),
      layer.symbology.settings,
      kindData(prepared),
    )
    const line = (
      key: string,
      proposed: string,
      role: LegendLine['role'],
      item: LegendItem | null = null,
    ): LegendLine => ({
      key: `${layer.id}/${key}`,
      text: words[`${layer.id}/${key}`] ?? proposed,
      proposed,
      role,
      item,
    })
    const shown = (one: LegendLine): boolean => !hidden.includes(one.key)
    const orNull = (one: LegendLine): LegendLine | null => (shown(one) ? one : null)
    return [
      {
        heading: entry.heading ? orNull(line('heading', entry.heading, 'heading')) : null,
        items: entry.items.map((item) => line(item.key, item.label, 'item', item)).filter(shown),
        // A hidden limit keeps its place among the others, without words.
        limits: (entry.limits ?? [])
          .map((text, i) => line(`limit-${i}`, text, 'limit'))
          .map((one) => (shown(one) ? one : { ...one, text: '' })),
        distribution: entry.distribution ?? null,
        sizes: entry.sizes
          ? {
              figure: entry.sizes,
              lines: entry.sizes.marks
                .map(({ label, sizeMm }, i) => ({ line: line(`size-${i}`, label, 'size'), sizeMm }))
                .filter((one) => shown(one.line)),
            }
          : null,
        itemsHeading:
          entry.itemsHeading && entry.items.length
            ? orNull(line('items-heading', entry.itemsHeading, 'heading'))
            : null,
        square: entry.square
          ? {
              figure: entry.square,
              across: orNull(line('across', entry.square.across, 'axis')),
              up: orNull(line('up', entry.square.up, 'axis')),
            }
          : null,
      },
    ]
  })
}

/** All lines of some blocks that have words of their own, from the top down. */
export const linesOf = (blocks: LegendBlock[]): LegendLine[] =>
  blocks.flatMap(({ heading, square, sizes, itemsHeading, items, limits }) =>
    [
      heading,
      square?.across,
      square?.up,
      ...(sizes?.lines.map(({ line }) => line) ?? []),
      itemsHeading,
      ...items,
      ...limits,
    ].filter((line) => line !== null && line !== undefined),
  )
