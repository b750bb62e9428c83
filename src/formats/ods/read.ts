import { ImportError, type Extent, type Imported, type ReadOptions } from '../import-error'
import { limits } from '../limits'
import { readXml } from '../xml/sax'
import { sheetDatasets } from '../xlsx/read'
import type { SheetRow, Workbook } from '../xlsx/workbook'
import { unzip } from '../zip/unzip'

/**
 * Reads one sheet of an OpenDocument spreadsheet (ISO/IEC 26300, part 3), chosen as for other workbooks.
 * @throws ImportError
 */
export async function readOds(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
  extent: Extent = {},
): Promise<Imported[]> {
  const files = await unzip(bytes, fileName, (name) => /^content\.xml$/i.test(name), { withFolders: true })
  const content = [...files.values()][0]
  if (!content) throw new ImportError(`${fileName} is no OpenDocument spreadsheet: it holds no content.`)
  return sheetDatasets({ sheets: sheetsOf(content, fileName) }, { fileName, options, extent })
}

function sheetsOf(bytes: Uint8Array, fileName: string): Workbook['sheets'] {
  const sheets: { name: string; rows: SheetRow[] }[] = []
  let rows: SheetRow[] = []
  let [number, column, repeatRow, repeatCell, filled] = [0, 0, 1, 1, 0]
  let cells = new Map<number, string>()
  let cell: { said: string | null; text: string[]; open: boolean } | null = null
  let aside = 0
  const count = (text: string | undefined): number => Math.max(1, Math.trunc(Number(text ?? 1)) || 1)
  readXml(bytes, `The content of ${fileName}`, {
    open: (name, attributes) => {
      switch (name) {
        case 'table':
          rows = []
          number = 0
          sheets.push({ name: attributes['table:name'] ?? `Sheet ${sheets.length + 1}`, rows })
          break
        case 'table-row':
          cells = new Map()
          column = 0
          repeatRow = count(attributes['table:number-rows-repeated'])
          break
        case 'table-cell':
        case 'covered-table-cell':
          repeatCell = count(attributes['table:number-columns-repeated'])
          cell = { said: saidBy(attributes), text: [], open: false }
          break
        case 'annotation':
          aside++
          break
        case 'p':
          if (cell && !aside) {
            cell.text.push('')
            cell.open = true
          }
          break
        case 's':
          if (cell?.open)
            cell.text[cell.text.length - 1] += ' '.repeat(Math.min(100, count(attributes['text:c'])))
          break
      }
    },
    text: (text) => {
      if (cell?.open && !aside) cell.text[cell.text.length - 1] += text
    },
    close: (name) => {
      if (name === 'annotation') aside--
      else if (name === 'p' && cell) cell.open = false
      else if ((name === 'table-cell' || name === 'covered-table-cell') && cell) {
        const word = cell.said ?? cell.text.join(' ').trim()
        // Empty cells are repeated to the end of the sheet.
        if (word !== '')
          for (let i = 1; i <= Math.min(repeatCell, limits.columns); i++) {
            if (++filled > limits.cells)
              throw new ImportError(`${fileName} has more than ${limits.cells} filled cells.`)
            cells.set(column + i, word)
          }
        column += repeatCell
        cell = null
      } else if (name === 'table-row') {
        if (cells.size) {
          if (number + repeatRow > limits.rows)
            throw new ImportError(`${fileName} has more than ${limits.rows} rows.`)
          for (let i = 1; i <= repeatRow; i++) {
            filled += i > 1 ? cells.size : 0
            if (filled > limits.cells)
              throw new ImportError(`${fileName} has more than ${limits.cells} filled cells.`)
            rows.push({ number: number + i, cells })
          }
        }
        number += repeatRow
      }
    },
  })
  return sheets.map(({ name, rows: own }) => ({
    name,
    read: (take) => {
      for (const row of own) if (!take(row)) return
    },
  }))
}

/** What a cell holds by its type, in the words of other tables; null where its text is what it holds. */
function saidBy(attributes: Record<string, string | undefined>): string | null {
  const type = attributes['office:value-type'] ?? attributes['calcext:value-type']
  switch (type) {
    case 'float':
    case 'percentage':
    case 'currency':
      return attributes['office:value'] ?? null
    case 'date':
      return attributes['office:date-value']?.replace(/T00:00:00(\.0+)?$/, '') ?? null
    case 'time':
      return timeOf(attributes['office:time-value'] ?? '')
    case 'boolean':
      return attributes['office:boolean-value'] ?? null
    default:
      return null
  }
}

/** `PT08H30M00S` becomes `08:30:00`. */
function timeOf(duration: string): string {
  const match = /^PT(\d+)H(\d+)M(\d+)(?:[.,]\d+)?S$/.exec(duration)
  return match
    ? match
        .slice(1, 4)
        .map((part) => part.padStart(2, '0'))
        .join(':')
    : duration
}
