import { ImportError } from '../import-error'
import { limits } from '../limits'
import { readXml } from '../xml/sax'
import { unzip } from '../zip/unzip'

/** A workbook (ECMA-376 part 1, SpreadsheetML) opened for reading: its sheets are read one at a time. */
export type Workbook = {
  /** `take` returns false where no more rows are wanted. */
  sheets: { name: string; read: (take: (row: SheetRow) => boolean) => void }[]
}

/** A row that holds something: its number, counted from 1, and its cells by column, counted from 1. */
export type SheetRow = { number: number; cells: Map<number, string> }

/** @throws ImportError */
export async function openWorkbook(bytes: Uint8Array, fileName: string): Promise<Workbook> {
  const files = await unzip(bytes, fileName, (name) => /\.(xml|rels)$/i.test(name), { withFolders: true })
  const file = (path: string) =>
    files.get(path) ?? [...files].find(([name]) => name.toLowerCase() === path.toLowerCase())?.[1]
  const book = file('xl/workbook.xml')
  if (!book) throw new ImportError(`${fileName} is no workbook: it holds no list of sheets.`)
  const { sheets, from1904 } = sheetsOf(book, `The list of sheets of ${fileName}`)
  const targets = targetsOf(file('xl/_rels/workbook.xml.rels'), `The list of parts of ${fileName}`)
  const words = wordsOf(file('xl/sharedStrings.xml'), `The words of ${fileName}`)
  const dated = datedStyles(file('xl/styles.xml'), `The styles of ${fileName}`)
  return {
    sheets: sheets.flatMap(({ name, part }, i) => {
      const path = targets.get(part) ?? `worksheets/sheet${i + 1}.xml`
      // Charts that fill a sheet of their own hold no cells.
      if (/chartsheets|dialogsheets|macrosheets/.test(path)) return []
      const where = `Sheet “${name}” of ${fileName}`
      const content = file(path.startsWith('/') ? path.slice(1) : `xl/${path}`)
      if (!content) throw new ImportError(`${where} is missing from the file.`)
      return [{ name, read: (take) => readSheet(content, where, { words, dated, from1904, take }) }]
    }),
  }
}

function sheetsOf(
  bytes: Uint8Array,
  where: string,
): { sheets: { name: string; part: string }[]; from1904: boolean } {
  const sheets: { name: string; part: string }[] = []
  let from1904 = false
  readXml(bytes, where, {
    open: (name, attributes) => {
      if (name === 'workbookPr') from1904 = /^(1|true)$/.test(attributes.date1904 ?? '')
      if (name !== 'sheet') return
      const part = Object.entries(attributes).find(([key]) => /(^|:)id$/.test(key))?.[1] ?? ''
      sheets.push({ name: attributes.name ?? `Sheet ${sheets.length + 1}`, part })
    },
  })
  return { sheets, from1904 }
}

function targetsOf(bytes: Uint8Array | undefined, where: string): Map<string, string> {
  const targets = new Map<string, string>()
  if (bytes)
    readXml(bytes, where, {
      open: (name, { Id, Target }) => {
        if (name === 'Relationship' && Id && Target) targets.set(Id, Target)
      },
    })
  return targets
}

/** The words that cells share; how they are pronounced stands beside them and is left out. */
function wordsOf(bytes: Uint8Array | undefined, where: string): string[] {
  const words: string[] = []
  let [word, inText, aside] = ['', false, 0]
  if (bytes)
    readXml(bytes, where, {
      open: (name) => {
        if (name === 'si') word = ''
        else if (name === 'rPh') aside++
        else if (name === 't') inText = aside === 0
      },
      close: (name) => {
        if (name === 'si') words.push(word)
        else if (name === 'rPh') aside--
        else if (name === 't') inText = false
      },
      text: (text) => {
        if (inText) word += text
      },
    })
  return words
}

/** Formats of dates and times that every workbook knows (clause 18.8.30). */
const isDateFormat = (id: number): boolean =>
  (id >= 14 && id <= 22) || (id >= 27 && id <= 36) || (id >= 45 && id <= 47) || (id >= 50 && id <= 58)

/** Whether cells of each style hold dates: numbers in a format that has days, months, years or hours. */
function datedStyles(bytes: Uint8Array | undefined, where: string): boolean[] {
  const own = new Map<number, boolean>()
  const styles: boolean[] = []
  let inCells = false
  if (bytes)
    readXml(bytes, where, {
      open: (name, attributes) => {
        if (name === 'numFmt') own.set(Number(attributes.numFmtId), hasDate(attributes.formatCode ?? ''))
        else if (name === 'cellXfs') inCells = true
        else if (name === 'xf' && inCells) {
          const id = Number(attributes.numFmtId ?? 0)
          styles.push(own.get(id) ?? isDateFormat(id))
        }
      },
      close: (name) => {
        if (name === 'cellXfs') inCells = false
      },
    })
  return styles
}

/** Words in quotes, escapes, colours and conditions are no part of the date. */
const hasDate = (code: string): boolean => /[dmyhs]/i.test(code.replace(/"[^"]*"|\\.|\[[^\]]*\]|_./g, ''))

type CellContext = {
  words: string[]
  dated: boolean[]
  from1904: boolean
  take: (row: SheetRow) => boolean
}

/** Thrown through the parser where no more rows are wanted. */
class Enough extends Error {}

function readSheet(bytes: Uint8Array, where: string, context: CellContext): void {
  try {
    readRows(bytes, where, context)
  } catch (error) {
    if (!(error instanceof Enough)) throw error
  }
}

function readRows(bytes: Uint8Array, where: string, { words, dated, from1904, take }: CellContext): void {
  let row: SheetRow & { isNumbered: boolean } = { number: 0, cells: new Map(), isNumbered: false }
  let [column, cellCount] = [0, 0]
  let cell = { type: '', style: -1, text: '' }
  let [reading, aside] = [false, 0]
  const at = () => `${where}, cell ${lettersOf(column)}${row.number}`
  readXml(bytes, where, {
    open: (name, attributes) => {
      if (name === 'row') {
        const isNumbered = attributes.r !== undefined
        row = { number: numberOr(attributes.r, row.number + 1), cells: new Map(), isNumbered }
        column = 0
        if (row.number > limits.rows) throw new ImportError(`${where} has more than ${limits.rows} rows.`)
      } else if (name === 'c') {
        column = attributes.r ? columnOf(attributes.r) || column + 1 : column + 1
        const said = Number(/\d+$/.exec(attributes.r ?? '')?.[0] ?? row.number)
        if (row.isNumbered && said !== row.number)
          throw new ImportError(
            `${where} is damaged: a cell in row ${row.number} says that it lies in row ${said}.`,
          )
        if (column > limits.columns)
          throw new ImportError(`${where} has more than ${limits.columns} columns.`)
        cell = { type: attributes.t ?? 'n', style: numberOr(attributes.s, -1), text: '' }
      } else if (name === 'rPh') aside++
      else if (name === 'v' || name === 't') reading = aside === 0
    },
    text: (text) => {
      if (reading) cell.text += text
    },
    close: (name) => {
      if (name === 'v' || name === 't') reading = false
      else if (name === 'rPh') aside--
      else if (name === 'c') {
        const word = wordOf(cell, { words, isDate: dated[cell.style] ?? false, from1904, at })
        if (word === null || word === '') return
        if (++cellCount > limits.cells)
          throw new ImportError(`${where} has more than ${limits.cells} filled cells.`)
        row.cells.set(column, word)
      } else if (name === 'row' && row.cells.size && !take(row)) throw new Enough()
    },
  })
}

function wordOf(
  { type, text }: { type: string; text: string },
  context: { words: string[]; isDate: boolean; from1904: boolean; at: () => string },
): string | null {
  switch (type) {
    case 's': {
      const word = context.words[Number(text)]
      if (text !== '' && word === undefined)
        throw new ImportError(`${context.at()} refers to a word that the file does not hold.`)
      return word ?? null
    }
    case 'b':
      return text === '1' ? 'true' : 'false'
    case 'e':
      return null
    case 'n': {
      if (text.trim() === '') return null
      const value = Number(text)
      if (!Number.isFinite(value))
        throw new ImportError(`${context.at()} holds ‘${text.slice(0, 40)}’ as a number.`)
      return context.isDate ? dateOf(value, context.from1904) : String(value)
    }
    case 'd':
      return text.replace(/T00:00(:00(\.0+)?)?Z?$/, '')
    default:
      return text
  }
}

const dayMs = 86_400_000

/**
 * A day counted from 1900 or 1904 as ISO 8601, with the time where there is one. The calendar of 1900 has a
 * 29 February that never was (clause 18.17.4.1).
 */
function dateOf(days: number, from1904: boolean): string {
  const shifted = from1904 ? days + 1462 : days
  if (shifted >= 0 && shifted < 1) return new Date(Math.round(shifted * dayMs)).toISOString().slice(11, 19)
  const sinceEpoch = shifted - (shifted < 60 ? 25_568 : 25_569)
  const time = new Date(Math.round(sinceEpoch * 86_400) * 1000)
  if (Number.isNaN(time.getTime())) return String(days)
  const words = time.toISOString()
  return words.endsWith('T00:00:00.000Z') ? words.slice(0, 10) : words.slice(0, 19)
}

const numberOr = (text: string | undefined, otherwise: number): number => {
  const value = Number(text)
  return text !== undefined && Number.isInteger(value) && value >= 0 ? value : otherwise
}

/** The column of a cell such as `BC12`, counted from 1; 0 where there are no letters. */
function columnOf(reference: string): number {
  let column = 0
  for (const letter of reference.toUpperCase()) {
    const code = letter.charCodeAt(0) - 64
    if (code < 1 || code > 26) break
    column = 26 * column + code
  }
  return column
}

function lettersOf(column: number): string {
  let letters = ''
  for (let n = column; n > 0; n = Math.floor((n - 1) / 26))
    letters = String.fromCharCode(65 + ((n - 1) % 26)) + letters
  return letters
}
