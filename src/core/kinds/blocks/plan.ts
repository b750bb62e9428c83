import { allotted } from '@/core/cartogram/blocks/allot'
import { grouped, type Body } from '@/core/cartogram/blocks/grouped'
import { asideOf, classIndex } from '@/core/classify/classify'
import { numbersOf, textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { rowKeys } from '@/core/data/row-names'
import { groundAreas } from '@/core/geo/measure'
import { neighbourPairs } from '@/core/geo/neighbours'
import { planChoropleth, shareOn, type ChoroplethPlan } from '../choropleth/plan'
import type { KindData } from '../kind'
import type { BlocksSettings } from './spec'

/** A body with its blocks; `row` is the row whose shape it has, that of its largest member. */
export type BlockBody = Body & { row: number; blocks: number }

export type BlocksPlan = ChoroplethPlan & {
  /** What each area is worth; NaN where that is missing. */
  amounts: Float64Array
  total: number
  bodies: BlockBody[]
  /** The body of each row; −1 for none. */
  bodyOf: Int32Array
  /** Blocks in all, which is what the total is worth. */
  blocks: number
  /** Rows with ground that nothing above zero is known of. */
  without: number
  /** Groups by hand that name areas that are not there. */
  unknown: string[]
  /** For each body how many of its blocks each part has; null without parts. */
  partBlocks: Int32Array[] | null
  /** What the parts are together, as a share of the total. */
  partsShare: number
}

export function planBlocks(settings: BlocksSettings, data: KindData): BlocksPlan {
  const { dataset } = data
  const amounts = numbers(dataset, settings.size)
  const ground = groundAreas(dataset.geometry)
  const worth = amounts.map((value, row) => (ground[row] > 0 ? value : NaN))
  const names = rowKeys(data)
  const rowOf = new Map(names.map((name, row) => [name, row]))
  const rowsOf = (keys: readonly string[]) => keys.flatMap((key) => rowOf.get(key) ?? [])
  const region = settings.region === null ? null : fieldOf(dataset, settings.region)
  const bodies = grouped(
    {
      amounts: worth,
      names,
      regions: region && names.map((_, row) => textAt(region, row)),
      neighbours: neighbourPairs(dataset.geometry),
    },
    {
      value: settings.value,
      byRule: settings.byRule,
      byHand: settings.groups.map(({ name, members }) => ({ name, rows: rowsOf(members) })),
      alone: new Set(rowsOf(settings.alone)),
    },
  )
  const total = bodies.reduce((sum, { amount }) => Math.min(Number.MAX_VALUE, sum + amount), 0)
  const blocks = Math.min(mostBlocks, Math.round(total / settings.value))
  const shares = allotted(
    bodies.map(({ amount }) => amount),
    blocks,
  )
  const bodyOf = new Int32Array(dataset.rowCount).fill(-1)
  bodies.forEach(({ rows }, body) => rows.forEach((row) => (bodyOf[row] = body)))
  const made = bodies.map((body, i): BlockBody => ({
    ...body,
    row: body.rows.reduce((best, row) => ((worth[row] || 0) > (worth[best] || 0) ? row : best)),
    blocks: shares[i],
  }))
  const shaded = planChoropleth(settings, data)
  return {
    ...shaded,
    ...groupsShaded(shaded, settings, data, made),
    amounts,
    total,
    bodies: made,
    bodyOf,
    blocks,
    without: worth.reduce(
      (n, value, row) => n + Number(ground[row] > 0 && !(value > 0) && bodyOf[row] < 0),
      0,
    ),
    unknown: settings.groups.flatMap(({ members }) => members.filter((key) => !rowOf.has(key))),
    ...partsOf(settings, dataset, made, total),
  }
}

/** No layout is made of more blocks than this. */
export const mostBlocks = 30_000

function numbers(dataset: Dataset, key: string): Float64Array {
  const column = fieldOf(dataset, key)
  return column?.kind === 'number' ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(NaN)
}

/**
 * What a group shows: the sum of its members where amounts are shown, the sum of the field over that of the
 * denominator where it is divided, and else the mean by what members are sized by.
 */
function groupsShaded(
  plan: ChoroplethPlan,
  settings: BlocksSettings,
  { dataset, fieldMeta }: KindData,
  bodies: BlockBody[],
): Pick<ChoroplethPlan, 'values' | 'classOf'> {
  const groups = bodies.filter(({ rows }) => rows.length > 1)
  if (!groups.length) return plan
  const [values, classOf] = [plan.values.slice(), plan.classOf.slice()]
  const [field, per, sizes] = [settings.field, settings.per, settings.size].map((key) =>
    key === null ? null : numbers(dataset, key),
  )
  const breaks = plan.classification?.breaks ?? []
  const share = plan.scale && shareOn(plan.scale)
  const summed = !per && fieldMeta(settings.field).role === 'total'
  for (const { rows, row } of groups) {
    const weights = per ?? sizes
    let [top, bottom] = [0, 0]
    for (const member of rows) {
      const [value, weight] = [field?.[member] ?? NaN, weights?.[member] ?? NaN]
      if (!Number.isFinite(value) || (!summed && !Number.isFinite(weight))) continue
      top += per || summed ? value : value * weight
      bottom += summed ? 1 : weight
    }
    const value = bottom ? (top / (summed ? 1 : bottom)) * (per ? settings.perCount : 1) : NaN
    values[row] = value
    const apart = asideOf(value, settings.setAside)
    const index = classIndex(breaks, value, settings.inclusive)
    if (!Number.isFinite(value)) classOf[row] = -1
    else if (apart >= 0) classOf[row] = -3 - apart
    else if (share)
      classOf[row] = Math.min(plan.colours.length - 1, Math.floor(share(value) * plan.colours.length))
    else classOf[row] = index < 0 ? -2 : index
  }
  return { values, classOf }
}

/** The blocks of each body shared out among fields, by largest remainders. */
function partsOf(
  { parts }: BlocksSettings,
  dataset: Dataset,
  bodies: BlockBody[],
  total: number,
): Pick<BlocksPlan, 'partBlocks' | 'partsShare'> {
  if (!parts.length) return { partBlocks: null, partsShare: 1 }
  const columns = parts.map(({ field }) => numbers(dataset, field))
  let all = 0
  const partBlocks = bodies.map(({ rows, blocks }) => {
    const sums = columns.map((column) =>
      rows.reduce((sum, row) => sum + (column[row] > 0 ? column[row] : 0), 0),
    )
    all += sums.reduce((sum, value) => sum + value, 0)
    return allotted(sums, blocks)
  })
  return { partBlocks, partsShare: total > 0 ? all / total : 1 }
}
