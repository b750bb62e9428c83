import { ImportError } from './import-error'
import { limits } from './limits'

/**
 * Cells of a table, column by column: `codes[row]` points into the column's different words, counted from 1;
 * 0 is an empty cell. So a word that stands a million times is held, looked at and understood once. Where nearly
 * all words differ, one may be listed several times.
 */
export type WordColumn = {
  readonly words: string[]
  readonly codes: Uint32Array
  /** Where its cells stand in the text of their file; words are made of them when they are asked for. */
  slices?: Slices
}
/** From where to where each cell stands in a text; an empty cell ends where it starts. */
export type Slices = { text: string; starts: Uint32Array; ends: Uint32Array }
export type Cells = { rows: number; columns: WordColumn[] }

/** `known` is null once most words of a column turned out to be different: looking them up would only cost time. */
type Growing = { words: string[]; known: Map<string, number> | null; codes: Uint32Array }

/** After so many rows it is seen whether words of a column come again. */
const seenAfter = 8192

function addWord(column: Growing, row: number, word: string): void {
  const { words, known } = column
  if (known === null) {
    column.codes[row] = words.push(word)
    return
  }
  let code = known.get(word)
  if (code === undefined) {
    code = words.push(word)
    known.set(word, code)
  }
  column.codes[row] = code
  if (row === seenAfter && words.length > 0.7 * row) column.known = null
}

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
        if (c === columns.length) columns.push({ words: [], known: new Map(), codes: new Uint32Array(room) })
        if (word === null || word === '') continue
        addWord(columns[c], rows, word)
      }
      rows++
    },
    done: () => ({
      rows,
      columns: columns.map(({ words, codes }) => ({ words, codes: codes.subarray(0, rows) })),
    }),
  }
}

/** A column of cells that stand in a text. */
export function slicedColumn(slices: Slices): WordColumn {
  let made: Omit<Growing, 'known'> | null = null
  const make = () => (made ??= wordsOf(slices))
  return {
    slices,
    get words() {
      return make().words
    },
    get codes() {
      return make().codes
    },
  }
}

function wordsOf({ text, starts, ends }: Slices): Omit<Growing, 'known'> {
  const column: Growing = { words: [], known: new Map(), codes: new Uint32Array(starts.length) }
  for (let row = 0; row < starts.length; row++)
    if (ends[row] > starts[row]) addWord(column, row, text.slice(starts[row], ends[row]))
  return column
}

export function wordAt(column: WordColumn, row: number): string | null {
  const { slices } = column
  if (slices) return slices.text.slice(slices.starts[row], slices.ends[row]) || null
  return column.codes[row] ? column.words[column.codes[row] - 1] : null
}

/** The rows below the first one, with no words but those that stand in them. */
export function withoutFirst({ rows, columns }: Cells): Cells {
  return {
    rows: rows - 1,
    columns: columns.map((column) => {
      if (column.slices) {
        const { text, starts, ends } = column.slices
        return slicedColumn({ text, starts: starts.subarray(1), ends: ends.subarray(1) })
      }
      const { words, codes } = column
      const below = codes.subarray(1)
      const first = codes[0]
      if (!first || below.includes(first)) return { words, codes: below }
      const codesBelow = new Uint32Array(below.length)
      for (let row = 0; row < below.length; row++)
        codesBelow[row] = below[row] > first ? below[row] - 1 : below[row]
      return { words: first === 1 ? words.slice(1) : words.toSpliced(first - 1, 1), codes: codesBelow }
    }),
  }
}
