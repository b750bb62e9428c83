import { numbersOf, textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import type { Tree } from './layout'

export const partOrders = { given: 'as given', size: 'by size', hand: 'by hand' } as const
export type PartOrder = keyof typeof partOrders
export const partOrderIds = Object.keys(partOrders) as [PartOrder, ...PartOrder[]]

/**
 * One level of a whole: the field whose values are its parts, and in which order they come; by hand those of `names`
 * first, in their order, then the others as they stand.
 */
export type Level = { field: string; order: PartOrder; names: readonly string[] }

/**
 * A part by its name and those of the parts that it belongs to, from the first level down to its own; `rows` are the
 * rows of the dataset that it is the sum of.
 */
export type NamedPart = { name: string; path: readonly string[]; rows: readonly number[] }

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
  const parts = (own: number[], above: readonly string[]): Tree<NamedPart>[] => {
    const depth = above.length
    if (depth >= levels.length) return []
    const column = columns[depth]
    const groups = new Map<string, number[]>()
    for (const row of own) {
      const name = (column && textAt(column, row)) || nameless
      const group = groups.get(name)
      if (group) group.push(row)
      else groups.set(name, [row])
    }
    const all = [...groups].map(([name, members]): Tree<NamedPart> => {
      const path = [...above, name]
      return {
        of: { name, path, rows: members },
        value: members.reduce((sum, row) => sum + values[row], 0),
        parts: parts(members, path),
      }
    })
    return inOrder(all, levels[depth])
  }
  return { whole: parts(rows, []), left: dataset.rowCount - rows.length }
}

function inOrder(parts: Tree<NamedPart>[], { order, names }: Level): Tree<NamedPart>[] {
  if (order === 'size') return parts.sort((a, b) => b.value - a.value)
  if (order === 'given') return parts
  const places = new Map(names.map((name, place) => [name, place]))
  const placeOf = ({ of }: Tree<NamedPart>) => places.get(of.name) ?? names.length
  return parts.sort((a, b) => placeOf(a) - placeOf(b))
}

/** The names of the parts of a level, each once, in the order in which they come. */
export function namesOfLevel(whole: readonly Tree<NamedPart>[], level: number): string[] {
  const at = (parts: readonly Tree<NamedPart>[], depth: number): string[] =>
    depth === 0 ? parts.map(({ of }) => of.name) : parts.flatMap((part) => at(part.parts, depth - 1))
  return [...new Set(at(whole, level))]
}

/** The smallest parts of a whole, in their order. */
export const leavesOf = (parts: readonly Tree<NamedPart>[]): Tree<NamedPart>[] =>
  parts.flatMap((part) => (part.parts.length ? leavesOf(part.parts) : [part]))

/** The part whose name and those above it are these; undefined where there is none. */
export function partAt(
  whole: readonly Tree<NamedPart>[],
  [name, ...below]: readonly string[],
): Tree<NamedPart> | undefined {
  const found = whole.find(({ of }) => of.name === name)
  return found && below.length ? partAt(found.parts, below) : found
}

/** All parts of a whole, each before those that it is the sum of. */
export const allParts = (parts: readonly Tree<NamedPart>[]): Tree<NamedPart>[] =>
  parts.flatMap((part) => [part, ...allParts(part.parts)])
