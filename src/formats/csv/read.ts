import { analyse } from 'chardet'
import Papa, { type ParseConfig, type ParseResult } from 'papaparse'
import { collectCells, type Cells } from '../cells'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { limits } from '../limits'
import { tableDatasets } from '../table'
import { decodeText, nameFromFile } from '../text'
import { isPlain, splitPlain, type RowCheck } from './split'

/**
 * Reads a table; delimiter, encoding, decimal mark, header and coordinate columns are found out unless they
 * are said.
 * @throws ImportError
 */
export function readCsv(bytes: Uint8Array, fileName: string, options: ReadOptions): Imported[] {
  const { encoding, other } = options.encoding
    ? { encoding: options.encoding, other: null }
    : guessEncoding(bytes)
  const text = encoding === null ? decodeText(bytes) : decodeAs(bytes, encoding)
  if (text.includes('\u0000')) throw new ImportError(`${fileName} is not a text file.`)
  const body = text.charCodeAt(0) === 0xfeff ? text.slice(1) : text
  const { cells, said } = parsed(body, fileName, options)
  if (cells.rows < 2) throw new ImportError(`${fileName} has no rows under its header.`)
  const delimiter = ([',', ';', '\t', '|'] as const).find((mark) => mark === said)
  const doubts = other ? [doubtOf(bytes, encoding ?? 'utf-8', other)] : []
  return tableDatasets(cells, nameFromFile(fileName), {
    remarks: doubts,
    fileName,
    options,
    guessed: {
      delimiter,
      encoding: encoding ?? 'utf-8',
    },
  })
}

const guess = { skipEmptyLines: 'greedy' as const, delimitersToGuess: [',', ';', '\t', '|'] }
/** So much of a text tells which delimiter it has. */
const startOf = 100_000

/** The cells of a text, and the delimiter that keeps them apart. */
function parsed(text: string, fileName: string, options: ReadOptions): { cells: Cells; said: string } {
  if (isPlain(text)) {
    const said =
      options.delimiter ??
      Papa.parse(text.slice(0, startOf), { ...guess, delimiter: '', preview: 200 }).meta.delimiter
    return {
      cells: splitPlain(
        text,
        said,
        rowCheck(fileName, () => said),
      ),
      said,
    }
  }
  let [said, before] = ['', 0]
  const cells = collectCells()
  const check = rowCheck(fileName, () => said)
  Papa.parse<string[]>(text, {
    ...guess,
    delimiter: options.delimiter ?? '',
    // A part at a time, so that the rows of a large file are never all there at once.
    chunkSize,
    chunk({ data, errors, meta }: ParseResult<string[]>) {
      said = meta.delimiter
      const quotes = errors.find((error) => error.type === 'Quotes')
      if (quotes)
        throw new ImportError(
          `${fileName}, row ${before + (quotes.row ?? 0) + 1}: a quotation mark is opened and never closed.`,
        )
      for (const row of data) {
        const width = check(row.length, (i) => row[i])
        if (width !== null) cells.add(row.length > width ? row.slice(0, width) : row)
      }
      before += data.length
    },
  } as ParseConfig<string[]>)
  return { cells: cells.done(), said }
}

function anyFilled(from: number, to: number, cellAt: (i: number) => string): boolean {
  for (let i = from; i < to; i++) if (cellAt(i).trim()) return true
  return false
}

/** Finds out how wide a table is, passes over blank lines and refuses rows that are wider than the table. */
function rowCheck(fileName: string, delimiter: () => string): RowCheck {
  let [read, width, narrow] = [0, 0, true]
  return (count, cellAt) => {
    // Lines with nothing but blanks and delimiters are no rows.
    if (!anyFilled(0, count, cellAt)) return null
    // Titles above a table are narrower than it is.
    if (!read || (count > width && read < 12 && narrow)) width = count
    // A title has one cell, and no other mark that could keep cells apart.
    if (narrow) {
      const words = Array.from({ length: count }, (_, i) => cellAt(i))
      narrow = words.filter((cell) => cell.trim()).length < 2 && !/[;\t|]/.test(words.join(''))
    }
    if (count > width && anyFilled(width, count, cellAt)) {
      const mark = delimiter() === '\t' ? 'tab' : delimiter()
      throw new ImportError(
        `${fileName}, row ${read + 1}: ${count} cells, but the header has ${width}. Is ‘${mark}’ the right delimiter?`,
      )
    }
    if (count > limits.columns)
      throw new ImportError(`Row ${read + 1} has more than ${limits.columns} cells.`)
    read++
    return Math.min(count, width)
  }
}

/** Both ways to read the first words that differ, so that the person can tell which is right. */
function doubtOf(bytes: Uint8Array, encoding: string, other: string): string {
  const start = bytes.subarray(0, 200_000)
  const words = [encoding, other].map((one) => new TextDecoder(one).decode(start).split(/[\s,;|]+/))
  const at = words[0].findIndex((word, i) => word !== words[1][i])
  const shown = words.map((list) => `‘${(list[Math.max(0, at)] ?? '').slice(0, 30)}’`)
  return `The letters may be of another set: ${shown[0]} was read as ${encoding}; as ${other} it would be ${shown[1]}. Change the encoding below where that is right.`
}

const chunkSize = 1_000_000

/** Encodings that a detector may name and that are decoded here. */
const decodable = /^(windows-125\d|ISO-8859-\d+|KOI8-R|Shift_JIS|EUC-JP|EUC-KR|GB18030|Big5)$/i
const east = /^(Shift_JIS|EUC|GB|Big5)/i
/** Detectors tell sets of letters apart by how often each stands; under this many letters they guess. */
const enoughLetters = 400

/**
 * The likeliest encoding: null for UTF-8 and files with a byte order mark. `other` is the next one, where the two are
 * hardly to be told apart.
 */
function guessEncoding(bytes: Uint8Array): { encoding: string | null; other: string | null } {
  const plain = { encoding: null, other: null }
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff)) return plain
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    return plain
  } catch {
    const start = bytes.subarray(0, 200_000)
    const letters = start.reduce((count, byte) => count + (byte > 127 ? 1 : 0), 0)
    const named = analyse(Buffer.from(start))
      // A few bytes make a letter of the East as easily as two of the West.
      .filter(({ name }) => decodable.test(name) && (letters >= 8 || !east.test(name)))
      // Western text looks much the same to a detector; the wider set of the two is taken.
      .map(({ name, confidence }) => ({
        name: /8859-1$|windows-1252/i.test(name) ? 'windows-1252' : name.toLowerCase(),
        score: confidence - 100 * strange(start, name),
      }))
      .sort((a, b) => b.score - a.score)
    const [first, ...rest] = named
    const second = rest.find(({ name }) => name !== first.name)
    const unsure = second && (first.score - second.score < 15 || letters < enoughLetters / 10)
    return { encoding: first?.name ?? 'windows-1252', other: unsure ? second.name : null }
  }
}

/** The share of letters that an encoding makes nonsense of: no letters at all, or capitals within words. */
function strange(bytes: Uint8Array, encoding: string): number {
  let text: string
  try {
    text = new TextDecoder(encoding).decode(bytes)
  } catch {
    return 1
  }
  const foreign = text.match(/[^\u0000-\u007f]/g)?.length ?? 0
  if (!foreign) return 0
  const bad =
    text.match(/[\ufffd\u0080-\u009f]|(?<=\p{Ll})\p{Lu}|(?<=\p{L})[\p{S}\p{P}](?=\p{L})/gu)?.length ?? 0
  return Math.min(1, bad / foreign)
}

function decodeAs(bytes: Uint8Array, encoding: string): string {
  try {
    return new TextDecoder(encoding).decode(bytes)
  } catch {
    throw new ImportError(`“${encoding}” is not an encoding that is known here.`)
  }
}
