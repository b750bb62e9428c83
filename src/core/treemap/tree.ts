import { numbersOf, textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import type { Tree } from './layout'

export const partOrders = { given: 'as they stand', size: 'the largest first' } as const
export type PartOrder = keyof typeof partOrders
export const partOrderIds = Object.keys(partOrders) as [PartOrder, ...PartOrder[]]

/** One level of a whole: the field whose values are its parts, and in which order they come. */
export type Level = { field: string; order: PartOrder }

/** A part by its name; `top` is the number of the part of the first level that it belongs to, in that level's order. */
export type NamedPart = { name: string; top: number }

/** What rows without a name at a level are called. */
const nameless = 'not said'

/**
 * The rows of a dataset as parts of parts: rows with one value of the first field are a part, within it those with one
 * value of the second, and so on; each is worth the sum of its rows.
 * @returns also how many rows have no value above zero, and so no part
 */
export function treeOf(
  dataset: Dataset,
  levels: readonly Level[],
  value: string,
): { whole: Tree<NamedPart>[]; left: number } {
  const numbers = fieldOf(dataset, value)
  const values = numbers ? numbersOf(numbers) : new Float64Array(dataset.rowCount).fill(NaN)
  const rows = Array.from(values.keys()).filter((row) => values[row] > 0)
  const columns = levels.map(({ field }) => fieldOf(dataset, field))
  const parts = (own: number[], depth: number): Tree<NamedPart>[] => {
    if (depth >= levels.length) return []
    const column = columns[depth]
    const groups = new Map<string, number[]>()
    for (const row of own) {
      const name = (column && textAt(column, row)) || nameless
      const group = groups.get(name)
      if (group) group.push(row)
      else groups.set(name, [row])
    }
    const all = [...groups].map(([name, members]): Tree<NamedPart> => ({
      of: { name, top: 0 },
      value: members.reduce((sum, row) => sum + values[row], 0),
      parts: parts(members, depth + 1),
    }))
    return levels[depth].order === 'size' ? all.sort((a, b) => b.value - a.value) : all
  }
  const whole = parts(rows, 0).map((part, top) => belongingTo(part, top))
  return { whole, left: dataset.rowCount - rows.length }
}

const belongingTo = ({ of, value, parts }: Tree<NamedPart>, top: number): Tree<NamedPart> => ({
  of: { ...of, top },
  value,
  parts: parts.map((part) => belongingTo(part, top)),
})
