import ExcelJS from 'exceljs'
import { collectCells } from '../cells'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { tableDatasets } from '../table'
import { nameFromFile } from '../text'
import { unzip } from '../zip/unzip'

/**
 * Reads one sheet of a workbook: the one chosen, else the one with the most cells. Formulas are never carried
 * out; their last results stand for them.
 * @throws ImportError
 */
export async function readXlsx(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
): Promise<Imported[]> {
  // Checks the sizes before the workbook is opened.
  unzip(bytes, fileName, () => true)
  const workbook = new ExcelJS.Workbook()
  try {
    await workbook.xlsx.load(bytes.slice().buffer as never)
  } catch (error) {
    throw new ImportError(`${fileName} cannot be read as a workbook: ${(error as Error).message}.`)
  }
  const sheets = workbook.worksheets.filter((sheet) => sheet.actualRowCount > 0)
  const sheet =
    options.sheet === undefined
      ? [...sheets].sort(
          (a, b) => b.actualRowCount * b.actualColumnCount - a.actualRowCount * a.actualColumnCount,
        )[0]
      : sheets.find(({ name }) => name === options.sheet)
  if (!sheet)
    throw new ImportError(
      options.sheet === undefined
        ? `${fileName} has no filled sheet.`
        : `${fileName} has no sheet “${options.sheet}”. It has: ${sheets.map(({ name }) => name).join(', ')}.`,
    )
  const { left, top, right, bottom } = options.range
    ? rangeOf(options.range)
    : { left: 1, top: 1, right: sheet.columnCount, bottom: Infinity }
  const collected = collectCells()
  let filled = 0
  sheet.eachRow((row, number) => {
    if (number < top || number > bottom) return
    const cells: (string | null)[] = []
    for (let c = left; c <= right; c++) cells.push(textOf(row.getCell(c).value))
    if (cells.every((cell) => cell === null)) return
    collected.add(cells)
    filled++
  })
  if (!filled) throw new ImportError(`The cells ${options.range ?? ''} of “${sheet.name}” are empty.`)
  return tableDatasets(
    collected.done(),
    sheets.length > 1 ? `${nameFromFile(fileName)}, ${sheet.name}` : nameFromFile(fileName),
    {
      fileName,
      options,
      guessed: { sheet: sheet.name, range: options.range, sheets: sheets.map(({ name }) => name) },
    },
  )
}

/** `B3:H60` as numbers of columns and rows, counted from 1. */
function rangeOf(range: string): { left: number; top: number; right: number; bottom: number } {
  const match = /^([A-Z]{1,3})(\d{1,7}):([A-Z]{1,3})(\d{1,7})$/.exec(range.trim().toUpperCase())
  if (!match) throw new ImportError(`‘${range}’ is not a range of cells. Write its corners, such as B3:H60.`)
  const column = (letters: string) =>
    [...letters].reduce((n, letter) => 26 * n + letter.charCodeAt(0) - 64, 0)
  const [left, right] = [column(match[1]), column(match[3])].sort((a, b) => a - b)
  const [top, bottom] = [Number(match[2]), Number(match[4])].sort((a, b) => a - b)
  return { left, top, right, bottom }
}

function textOf(value: ExcelJS.CellValue): string | null {
  if (value === null || value === undefined) return null
  if (value instanceof Date) return value.toISOString().slice(0, 10)
  if (typeof value === 'object') {
    if ('result' in value) return textOf((value.result ?? null) as ExcelJS.CellValue)
    if ('richText' in value) return value.richText.map(({ text }) => text).join('')
    if ('text' in value) return String(value.text)
    return null
  }
  return String(value)
}
