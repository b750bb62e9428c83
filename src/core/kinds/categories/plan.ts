import { unordered } from '@/core/colour/schemes'
import { textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { neighbourPairs } from '@/core/geo/neighbours'
import type { Colour } from '@/core/scene/paint'
import type { KindData } from '../kind'
import type { PlainShape } from '../marks/shapes'
import { colourApart } from './assign'
import type { CategorySettings, Own } from './spec'

export type Category = {
  key: string
  label: string
  colour: Colour
  hatchDeg: number | null
  pattern: Own['pattern']
  shape: PlainShape
  count: number
  /** The values of the field that are shown as this. */
  values: string[]
}

/** `of[f]`: the category of feature `f`; −1 where the field is empty. */
export type CategoryPlan = { categories: Category[]; of: Int32Array; missingCount: number }

/** Shapes in the order in which they are told apart best. */
const toldApart: PlainShape[] = ['circle', 'square', 'triangle', 'diamond', 'drop']

const otherKey = '\u0000other'

export function planCategories(settings: CategorySettings, { dataset }: KindData): CategoryPlan {
  const column = fieldOf(dataset, settings.field)
  const texts = Array.from({ length: dataset.rowCount }, (_, row) => (column && textAt(column, row)) || null)
  const present = new Map<string, number>()
  for (const text of texts) if (text !== null) present.set(text, (present.get(text) ?? 0) + 1)
  // Merging first: what is shown together is counted together.
  const target = (text: string): string => {
    const other = settings.own[text]?.with
    return other && other !== text && present.has(other) && !settings.own[other]?.with ? other : text
  }
  const counts = new Map<string, number>()
  for (const [text, count] of present) counts.set(target(text), (counts.get(target(text)) ?? 0) + count)
  const few = (key: string): boolean => (counts.get(key) ?? 0) < settings.fewest
  const keys = [...counts.keys()]
    .filter((key) => !few(key))
    .sort(
      (a, b) =>
        (settings.order === 'count' ? (counts.get(b) ?? 0) - (counts.get(a) ?? 0) : 0) || (a < b ? -1 : 1),
    )
  const others = [...counts.keys()].filter(few)
  const place = new Map(keys.map((key, i) => [key, i]))
  const of = Int32Array.from(texts, (text) => (text === null ? -1 : (place.get(target(text)) ?? keys.length)))
  const colours = unordered[settings.set]?.colours ?? unordered.market.colours
  const given =
    settings.assign === 'neighbours' && dataset.geometry.kind === 'areas'
      ? colourApart(touching(of, keys.length, neighbourPairs(dataset.geometry)), colours.length)
      : keys.map((_, i) => i % colours.length)
  const shapeFor = (i: number, own: PlainShape | null): PlainShape =>
    own ?? (settings.dot.varied ? toldApart[i % toldApart.length] : settings.dot.shape)
  const categories = keys.map((key, i): Category => ({
    key,
    label: settings.own[key]?.label ?? key,
    colour: settings.own[key]?.colour ?? colours[given[i]],
    hatchDeg: settings.own[key]?.hatchDeg ?? null,
    pattern: settings.own[key]?.pattern ?? 'lines',
    shape: shapeFor(i, settings.own[key]?.shape ?? null),
    count: counts.get(key) ?? 0,
    values: [...present.keys()].filter((text) => target(text) === key),
  }))
  if (others.length)
    categories.push({
      key: otherKey,
      label: settings.other.label,
      colour: settings.other.colour,
      hatchDeg: null,
      pattern: 'lines',
      shape: settings.dot.shape,
      count: others.reduce((sum, key) => sum + (counts.get(key) ?? 0), 0),
      values: others,
    })
  return { categories, of, missingCount: of.reduce((n, c) => n + (c < 0 ? 1 : 0), 0) }
}

/** Which categories touch which, over the borders of areas. */
function touching(
  of: Int32Array,
  count: number,
  { a, b }: { a: Uint32Array; b: Uint32Array },
): Set<number>[] {
  const sets = Array.from({ length: count }, () => new Set<number>())
  a.forEach((one, e) => {
    const [x, y] = [of[one], of[b[e]]]
    if (x < 0 || y < 0 || x === y || x >= count || y >= count) return
    sets[x].add(y)
    sets[y].add(x)
  })
  return sets
}
