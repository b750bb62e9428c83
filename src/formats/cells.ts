import { ImportError } from './import-error'
import { limits } from './limits'

/**
 * Cells of a table, column by column: `codes[row]` points into the column's different words, counted from 1;
 * 0 is an empty cell. So a word that stands a million times is held, looked at and understood once. Where nearly
 * all words differ, one may be listed several times.
 */
export type WordColumn = { words: string[]; codes: Uint32Array }
export type Cells = { rows: number; columns: WordColumn[] }

/** `known` is null once most words of a column turned out to be different: looking them up would only cost time. */
type Growing = { words: string[]; known: Map<string, number> | null; codes: Uint32Array }

/** After so many rows it is seen whether words of a column come again. */
const seenAfter = 8192

/** Takes rows one by one; short rows leave cells empty, a longer one makes new columns. */
export function collectCells(): { add: (row: readonly (string | null)[]) => void; done: () => Cells } {
  const columns: Growing[] = []
  let rows = 0
  let room = 1024
  return {
    add(row) {
      if (rows === room) {
        room *= 2
        for (const column of columns) {
          const codes = new Uint32Array(room)
          codes.set(column.codes)
          column.codes = codes
        }
      }
      if (row.length > limits.columns)
        throw new ImportError(`Row ${rows + 1} has more than ${limits.columns} cells.`)
      if (rows >= limits.rows) throw new ImportError(`There are more than ${limits.rows} rows.`)
      for (let c = 0; c < row.length; c++) {
        const word = row[c]
        const column = (columns[c] ??= { words: [], known: new Map(), codes: new Uint32Array(room) })
        if (word === null || word === '') continue
        let code = column.known?.get(word)
        if (code === undefined) {
          code = column.words.push(word)
          column.known?.set(word, code)
        }
        column.codes[rows] = code
        if (rows === seenAfter && column.words.length > 0.7 * rows) column.known = null
      }
      rows++
    },
    done: () => ({
      rows,
      columns: columns.map(({ words, codes }) => ({ words, codes: codes.subarray(0, rows) })),
    }),
  }
}

export const wordAt = ({ words, codes }: WordColumn, row: number): string | null =>
  codes[row] ? words[codes[row] - 1] : null

/** The rows below the first one, with no words but those that stand in them. */
export function withoutFirst({ rows, columns }: Cells): Cells {
  return {
    rows: rows - 1,
    columns: columns.map(({ words, codes }) => {
      const below = codes.subarray(1)
      const first = codes[0]
      if (!first || below.includes(first)) return { words, codes: below }
      return {
        words: words.filter((_, i) => i !== first - 1),
        codes: below.map((code) => (code > first ? code - 1 : code)),
      }
    }),
  }
}
