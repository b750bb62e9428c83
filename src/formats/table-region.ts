import { wordAt, type Cells, type WordColumn } from './cells'

/** Where the table lies in a sheet: titles above, heads in several rows, notes below. */
export type Region = {
  cells: Cells
  /** Rows above the heads, in words. */
  titles: string[]
  /** Rows below the table, in words. */
  notes: string[]
  /** How many rows the heads took; they are joined into the first row of `cells`. */
  heads: number
}

const mostTitles = 12
const mostHeads = 5
const mostNotes = 40

const isYear = (word: string): boolean => /^(1[6-9]|20|21)\d\d$/.test(word)
const isNumber = (word: string): boolean => /^[+−-]?[\d.,\s\u00a0\u202f'’]*\d\s?%?$/.test(word)

/**
 * Finds the table among the rows of a sheet. Rows at the top with hardly a cell are titles, rows at the bottom with one
 * cell are notes. Where several rows of words stand above the first figures they are heads: a head that reaches over
 * several columns stands for each of them.
 */
export function regionOf(cells: Cells): Region {
  const plain: Region = { cells, titles: [], notes: [], heads: 1 }
  const width = cells.columns.length
  if (width < 2 || cells.rows < 3) return plain
  const filledIn = (row: number): number[] =>
    cells.columns.flatMap((column, c) => ((wordAt(column, row) ?? '').trim() ? [c] : []))
  const wide = Math.max(2, Math.ceil(0.5 * width))
  let top = 0
  while (top < Math.min(mostTitles, cells.rows - 2) && filledIn(top).length < wide && !lies(top, filledIn))
    top++
  if (top >= Math.min(mostTitles, cells.rows - 2)) return plain
  let bottom = cells.rows
  const usual = usualLength(cells)
  while (bottom > top + 2 && cells.rows - bottom < mostNotes) {
    const filled = filledIn(bottom - 1)
    if (filled.length > 1 || width < 3 || (filled.length === 1 && filled[0] > 1)) break
    // The last rows may be names whose figures are missing; a note is longer, or says what it is.
    if (filled.length === 1 && !isNote((wordAt(cells.columns[filled[0]], bottom - 1) ?? '').trim(), usual))
      break
    bottom--
  }
  const heads = headRows(cells, [top, bottom], filledIn)
  if (top === 0 && bottom === cells.rows && heads < 2) return plain
  const said = (from: number, to: number): string[] =>
    Array.from({ length: to - from }, (_, i) =>
      filledIn(from + i)
        .map((c) => wordAt(cells.columns[c], from + i))
        .join(' '),
    ).filter(Boolean)
  return {
    titles: said(0, top),
    notes: said(bottom, cells.rows),
    heads,
    cells: withHead(cells, { top, bottom, heads }),
  }
}

const isNote = (words: string, usual: number): boolean =>
  words.length > Math.max(30, 2.5 * usual) ||
  /^(sources?|notes?|remarks?|footnotes?|©|\*|†|\(?\d\)|\(?[a-z]\)|[¹²³])/i.test(words)

/** The middle of the lengths of the first words of a table's first column. */
function usualLength({ rows, columns }: Cells): number {
  const lengths = Array.from(
    { length: Math.min(rows, 2000) },
    (_, row) => (wordAt(columns[0], row) ?? '').length,
  )
    .filter(Boolean)
    .sort((a, b) => a - b)
  return lengths[Math.floor(lengths.length / 2)] ?? 0
}

/** Whether a narrow row is the first of heads: the next one begins where it ends. */
function lies(row: number, filledIn: (row: number) => number[]): boolean {
  const own = filledIn(row)
  // A head over several columns stands over the second column or later, and in more than one place.
  return own.length > 1 && own.every((c) => c > 0)
}

/** How many rows of words stand above the first row of figures. */
function headRows(
  cells: Cells,
  [top, bottom]: [number, number],
  filledIn: (row: number) => number[],
): number {
  const figures = (row: number): boolean =>
    filledIn(row).some((c) => c > 0 && isNumber((wordAt(cells.columns[c], row) ?? '').trim()))
  const years = (row: number): boolean =>
    filledIn(row).filter((c) => isYear((wordAt(cells.columns[c], row) ?? '').trim())).length >=
    Math.max(1, filledIn(row).length - 2)
  let heads = 0
  while (heads < mostHeads && top + heads < bottom - 1) {
    const row = top + heads
    if (figures(row) && !(years(row) && !years(row + 1))) break
    heads++
  }
  // A row of words below full heads is a row whose figures are missing.
  const open = (row: number) => filledIn(row).length < cells.columns.length
  const found = top + heads < bottom && figures(top + heads) && heads > 1
  return found && Array.from({ length: heads - 1 }, (_, h) => top + h).every(open) ? heads : 1
}

/** The rows of a table under one row of heads. */
function withHead(
  cells: Cells,
  { top, bottom, heads }: { top: number; bottom: number; heads: number },
): Cells {
  const columns = cells.columns.length
  const levels: string[][] = Array.from({ length: heads }, (_, h) => {
    const row = Array.from({ length: columns }, (_, c) => (wordAt(cells.columns[c], top + h) ?? '').trim())
    // The last row of heads stands for itself; one above reaches up to the next one beside it.
    if (h < heads - 1)
      for (let c = 1; c < columns; c++) if (!row[c] && row[c - 1] && !startsAnew(c)) row[c] = row[c - 1]
    return row
    /** Whether a row above has a head of its own here, so that the one to the left ends. */
    function startsAnew(c: number): boolean {
      for (let above = 0; above < h; above++)
        if ((wordAt(cells.columns[c], top + above) ?? '').trim()) return true
      return false
    }
  })
  const names = Array.from({ length: columns }, (_, c) =>
    [...new Set(levels.map((level) => level[c]).filter(Boolean))].join(' '),
  )
  const body = top + heads
  return {
    rows: bottom - body + 1,
    columns: cells.columns.map((column, c): WordColumn => {
      const words = [...column.words]
      const codes = new Uint32Array(bottom - body + 1)
      codes.set(column.codes.subarray(body, bottom), 1)
      if (names[c]) codes[0] = words.push(names[c])
      return onlyUsed({ words, codes })
    }),
  }
}

/** A column with no words but those that stand in it. */
function onlyUsed({ words, codes }: WordColumn): WordColumn {
  const used = new Uint32Array(words.length + 1)
  const kept: string[] = []
  const out = Uint32Array.from(codes, (code) => {
    if (!code) return 0
    if (!used[code]) used[code] = kept.push(words[code - 1])
    return used[code]
  })
  return { words: kept, codes: out }
}
