import ExcelJS from 'exceljs'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { tableDatasets } from '../table'
import { nameFromFile } from '../text'
import { unzip } from '../zip/unzip'

/**
 * Reads one sheet of a workbook: the one chosen, else the one with the most cells. Formulas are never carried out;
 * their last results stand for them.
 * @throws ImportError
 */
export async function readXlsx(bytes: Uint8Array, fileName: string, options: ReadOptions): Promise<Imported[]> {
  // Checks the sizes before the workbook is opened.
  unzip(bytes, fileName, () => true)
  const workbook = new ExcelJS.Workbook()
  try {
    await workbook.xlsx.load(bytes.slice().buffer as never)
  } catch (error) {
    throw new ImportError(`${fileName} cannot be read as a workbook: ${(error as Error).message}.`)
  }
  const sheets = workbook.worksheets.filter((sheet) => sheet.actualRowCount > 0)
  const sheet = options.sheet === undefined ? [...sheets].sort((a, b) => b.actualRowCount * b.actualColumnCount - a.actualRowCount * a.actualColumnCount)[0] : sheets.find(({ name }) => name === options.sheet)
  if (!sheet) throw new ImportError(options.sheet === undefined ? `${fileName} has no filled sheet.` : `${fileName} has no sheet “${options.sheet}”. It has: ${sheets.map(({ name }) => name).join(', ')}.`)
  const rows: (string | null)[][] = []
  sheet.eachRow((row) => {
    const cells: (string | null)[] = []
    for (let c = 1; c <= sheet.columnCount; c++) cells.push(textOf(row.getCell(c).value))
    rows.push(cells)
  })
  return tableDatasets(rows, sheets.length > 1 ? `${nameFromFile(fileName)}, ${sheet.name}` : nameFromFile(fileName), fileName, options, { sheet: sheet.name, sheets: sheets.map(({ name }) => name) })
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
