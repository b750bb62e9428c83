import type { LegendEntry, LegendItem, LegendLines, LegendView } from '@/core/kinds/kind'
import { kindOf } from '@/core/kinds/registry'
import { kindData, planOf } from '@/core/map/layer-plan'
import type { DrawnLayer } from '@/core/map/drawn'

/** A line of a legend with the key under which its wording is kept, and the wording that follows the map. */
export type LegendLine = {
  key: string
  text: string
  proposed: string
  role: 'title' | 'heading' | 'item' | 'limit' | 'size' | 'axis' | 'note'
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
 * A layer as a legend explains it. `panelId` is where it is seen, for legends of several panels; `seen` are the
 * features that are seen there, for legends that leave out what is not; `view` is the scale there.
 */
export type ExplainedLayer = DrawnLayer & {
  panelId?: string
  seen?: readonly number[]
  view?: LegendView
}

/**
 * The legend of what is seen of a map, or of several: a block for each layer that enters it, and for each of `figures`,
 * with the wording changes of `words` and without hidden lines.
 */
export function legendBlocks(
  drawn: readonly ExplainedLayer[],
  words: Record<string, string>,
  { hidden = [], figures = [] }: { hidden?: readonly string[]; figures?: readonly Explanation[] } = {},
): LegendBlock[] {
  return [...explain(drawn), ...figures].flatMap(({ id, entry }): LegendBlock[] => {
    const line = (
      key: string,
      proposed: string,
      role: LegendLine['role'],
      item: LegendItem | null = null,
    ): LegendLine => ({
      key: `${id}/${key}`,
      text: words[`${id}/${key}`] ?? proposed,
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

/** What stands in a legend under one heading, and the id under which its wordings are kept. */
export type Explanation = { id: string; entry: LegendEntry }

/**
 * What is explained of layers. Those whose swatches, sizes and words are the same, as panels that share a scheme have
 * them, are explained once, under a heading that fits all.
 */
function explain(layers: readonly ExplainedLayer[]): Explanation[] {
  const found = new Map<string, Explanation & { headings: string[] }>()
  const ids = new Set<string>()
  for (const { layer, prepared, panelId = '', seen, view = null } of layers) {
    if (!layer.inLegend) continue
    const { legend, legendLines } = kindOf(layer.symbology.kind)
    const { settings } = layer.symbology
    const plan = planOf(layer, prepared)
    const lines = seen ? (legendLines?.(plan, settings) ?? null) : null
    const whole = legend(plan, settings, kindData(prepared), view)
    const entry = lines && seen ? onlySeen(whole, lines, seen) : whole
    const { heading } = entry
    const same = JSON.stringify({ ...entry, heading: '', distribution: null })
    const known = found.get(same)
    if (known) {
      known.headings.push(heading)
      known.entry.heading = headingOfAll(known.headings)
      continue
    }
    const id = ids.has(layer.id) ? `${layer.id}@${panelId}` : layer.id
    ids.add(id)
    found.set(same, { id, entry: { ...entry }, headings: [heading] })
  }
  return [...found.values()]
}

/** An entry without the lines that no feature has of those that are seen. */
function onlySeen(entry: LegendEntry, { keys, of }: LegendLines, seen: readonly number[]): LegendEntry {
  const had = new Set(seen.map(of))
  const left = new Set(keys.filter((key) => !had.has(key)))
  const items = entry.items.filter(({ key }) => !left.has(key))
  if (items.length === entry.items.length) return entry
  const { limits, distribution, ...rest } = entry
  // Limits and bars are those of all classes; where one is left out, words stand at the others.
  const classesLeft = entry.items.some(({ key }) => left.has(key) && key.startsWith('class-'))
  return { ...rest, ...(!classesLeft && { limits, distribution }), items }
}

/**
 * A heading for several: where they differ in numbers alone, as those of years do, what is left without these, else all
 * of them.
 */
export function headingOfAll(headings: readonly string[]): string {
  const all = [...new Set(headings)]
  if (all.length === 1) return all[0]
  const rest = all.map((heading) =>
    heading
      .split(' ')
      .filter((word) => !/\d/.test(word))
      .join(' ')
      .replace(/[\s,;:(–-]+$/, ''),
  )
  if (rest[0] && rest.every((words) => words === rest[0])) return rest[0]
  return all.length > 3 ? `${all[0]} … ${all[all.length - 1]}` : all.join('; ')
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
