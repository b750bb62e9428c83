import { slicedColumn, type Cells, type Slices } from '../cells'
import { ImportError } from '../import-error'
import { limits } from '../limits'

/**
 * What a row of a table is taken for: so many of its cells, or null for one that is no row. It may refuse a row.
 * @throws ImportError
 */
export type RowCheck = (count: number, cellAt: (i: number) => string) => number | null

/** Longer texts are parsed part by part, so that not all of their cells are listed at once. */
const longest = 40_000_000

/** Whether a text can be split at its delimiters as it stands: nothing in it is quoted. */
export const isPlain = (text: string): boolean => text.length <= longest && !text.includes('"')

/**
 * Splits a text without quotation marks into its cells, which stay places in the text until they are asked for: numbers
 * are read from there, and no word is made of them.
 */
export function splitPlain(text: string, delimiter: string, check: RowCheck): Cells {
  const mark = delimiter.charCodeAt(0)
  // Lines end with a line feed, a carriage return before it, or on old machines with that alone.
  const lineEnd = text.includes('\n') ? lineFeed : carriageReturn
  // Where each cell ends; of each row where it starts, the number of its first cell, and how many count.
  let ends = new Uint32Array(4096 + Math.ceil(text.length / usualCell))
  const rowStarts: number[] = []
  const rowFirsts: number[] = []
  const rowCounts: number[] = []
  let [cells, first, from, columns] = [0, 0, 0, 0]
  const cellAt = (i: number) => text.slice(i === 0 ? from : ends[first + i - 1] + 1, ends[first + i])
  for (let at = 0; at <= text.length; at++) {
    const code = at === text.length ? lineEnd : text.charCodeAt(at)
    if (code !== mark && code !== lineEnd) continue
    if (cells === ends.length) {
      const more = new Uint32Array(2 * ends.length)
      more.set(ends)
      ends = more
    }
    if (code === mark) {
      ends[cells++] = at
      continue
    }
    if (at === text.length && from === at) break
    ends[cells++] = at > from && text.charCodeAt(at - 1) === carriageReturn ? at - 1 : at
    const count = check(cells - first, cellAt)
    if (count === null) cells = first
    else {
      if (rowStarts.length >= limits.rows) throw new ImportError(`There are more than ${limits.rows} rows.`)
      columns = Math.max(columns, count)
      rowStarts.push(from)
      rowFirsts.push(first)
      rowCounts.push(count)
    }
    first = cells
    from = at + 1
  }
  const rows = rowStarts.length
  return {
    rows,
    columns: Array.from({ length: columns }, (_, c) => {
      const slices: Slices = { text, starts: new Uint32Array(rows), ends: new Uint32Array(rows) }
      for (let r = 0; r < rows; r++) {
        if (c >= rowCounts[r]) continue
        const cell = rowFirsts[r] + c
        slices.starts[r] = c === 0 ? rowStarts[r] : ends[cell - 1] + 1
        slices.ends[r] = ends[cell]
      }
      return slicedColumn(slices)
    }),
  }
}

/** Characters of a cell, as a first guess at how many cells there are. */
const usualCell = 6
const lineFeed = 10
const carriageReturn = 13
