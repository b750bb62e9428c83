import { collectCells, type Cells } from '../cells'
import { ImportError, type Extent, type Imported, type ReadOptions } from '../import-error'
import { tableDatasets } from '../table'
import { nameFromFile } from '../text'
import { openWorkbook, type Workbook } from './workbook'

type Range = { left: number; top: number; right: number; bottom: number }
type Sheet = Workbook['sheets'][number]
const everything: Range = { left: 1, top: 1, right: Infinity, bottom: Infinity }

/**
 * Reads one sheet of a workbook: the one chosen, else the one with the most cells. Formulas are never carried
 * out; their last results stand for them.
 * @throws ImportError
 */
export async function readXlsx(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
  extent: Extent = {},
): Promise<Imported[]> {
  return sheetDatasets(await openWorkbook(bytes, fileName), { fileName, options, extent })
}

/** The datasets of one sheet of a workbook, whatever it came from. */
export function sheetDatasets(
  { sheets }: Workbook,
  { fileName, options, extent }: { fileName: string; options: ReadOptions; extent: Extent },
): Imported[] {
  const { mostRows = Infinity } = extent
  const range = options.range ? rangeOf(options.range) : everything
  const chosen = sheets.find(({ name }) => name === options.sheet)
  if (options.sheet !== undefined && !chosen)
    throw new ImportError(
      `${fileName} has no sheet “${options.sheet}”. It has: ${sheets.map(({ name }) => name).join(', ')}.`,
    )
  const { sheet, ...whole } = chosen
    ? { sheet: chosen, ...cellsOf(chosen, range, mostRows) }
    : fullest(sheets, mostRows)
  if (!sheet) throw new ImportError(`${fileName} has no filled sheet.`)
  const { cells, filled } = chosen || !options.range ? whole : cellsOf(sheet, range, mostRows)
  if (!filled) throw new ImportError(`The cells ${options.range ?? ''} of “${sheet.name}” are empty.`)
  return tableDatasets(
    cells,
    sheets.length > 1 ? `${nameFromFile(fileName)}, ${sheet.name}` : nameFromFile(fileName),
    {
      fileName,
      options,
      guessed: { sheet: sheet.name, range: options.range, sheets: sheets.map(({ name }) => name) },
    },
  )
}

type Read = { cells: Cells; filled: number }

/** The cells of a sheet within a range; `filled` counts those that are not empty. */
function cellsOf(sheet: Sheet, { left, top, right, bottom }: Range, mostRows: number): Read {
  const collected = collectCells()
  let [filled, taken] = [0, 0]
  sheet.read(({ number, cells }) => {
    if (number > bottom) return false
    if (number < top) return true
    const row: (string | null)[] = []
    for (const [column, word] of cells) {
      if (column < left || column > right) continue
      while (row.length < column - left) row.push(null)
      row[column - left] = word
      filled++
    }
    if (row.length) collected.add(row)
    return ++taken < mostRows
  })
  return { cells: collected.done(), filled }
}

/** The sheet with the most filled cells. */
function fullest(sheets: Sheet[], mostRows: number): Read & { sheet: Sheet | null } {
  let best: Read & { sheet: Sheet | null } = { sheet: null, cells: { rows: 0, columns: [] }, filled: 0 }
  for (const sheet of sheets) {
    const read = cellsOf(sheet, everything, mostRows)
    if (read.filled > best.filled) best = { ...read, sheet }
  }
  return best
}

/** `B3:H60` as numbers of columns and rows, counted from 1. */
function rangeOf(range: string): Range {
  const match = /^([A-Z]{1,3})(\d{1,7}):([A-Z]{1,3})(\d{1,7})$/.exec(range.trim().toUpperCase())
  if (!match) throw new ImportError(`‘${range}’ is not a range of cells. Write its corners, such as B3:H60.`)
  const column = (letters: string) =>
    [...letters].reduce((n, letter) => 26 * n + letter.charCodeAt(0) - 64, 0)
  const [left, right] = [column(match[1]), column(match[3])].sort((a, b) => a - b)
  const [top, bottom] = [Number(match[2]), Number(match[4])].sort((a, b) => a - b)
  return { left, top, right, bottom }
}
