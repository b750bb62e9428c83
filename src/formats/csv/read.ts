import { analyse } from 'chardet'
import Papa, { type ParseConfig, type ParseResult } from 'papaparse'
import { collectCells } from '../cells'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { tableDatasets } from '../table'
import { decodeText, nameFromFile } from '../text'

/**
 * Reads a table; delimiter, encoding, decimal mark, header and coordinate columns are found out unless they
 * are said.
 * @throws ImportError
 */
export function readCsv(bytes: Uint8Array, fileName: string, options: ReadOptions): Imported[] {
  const encoding = options.encoding || guessEncoding(bytes)
  const text = encoding === null ? decodeText(bytes) : decodeAs(bytes, encoding)
  if (text.includes('\u0000')) throw new ImportError(`${fileName} is not a text file.`)
  const cells = collectCells()
  let [read, width, said, narrow] = [0, 0, '', true]
  Papa.parse<string[]>(text.charCodeAt(0) === 0xfeff ? text.slice(1) : text, {
    skipEmptyLines: 'greedy',
    delimiter: options.delimiter ?? '',
    delimitersToGuess: [',', ';', '\t', '|'],
    // A part at a time, so that the rows of a large file are never all there at once.
    chunkSize,
    chunk({ data, errors, meta }: ParseResult<string[]>) {
      said = meta.delimiter
      const quotes = errors.find((error) => error.type === 'Quotes')
      if (quotes)
        throw new ImportError(
          `${fileName}, row ${read + (quotes.row ?? 0) + 1}: a quotation mark is opened and never closed.`,
        )
      for (const row of data) {
        // Titles above a table are narrower than it is.
        if (!read || (row.length > width && read < 12 && narrow)) width = row.length
        narrow &&= row.filter((cell) => cell.trim()).length < 2
        if (row.length > width && row.slice(width).some((cell) => cell.trim()))
          throw new ImportError(
            `${fileName}, row ${read + 1}: ${row.length} cells, but the header has ${width}. Is ‘${said === '\t' ? 'tab' : said}’ the right delimiter?`,
          )
        cells.add(row.length > width ? row.slice(0, width) : row)
        read++
      }
    },
  } as ParseConfig<string[]>)
  if (read < 2) throw new ImportError(`${fileName} has no rows under its header.`)
  const delimiter = ([',', ';', '\t', '|'] as const).find((mark) => mark === said)
  return tableDatasets(cells.done(), nameFromFile(fileName), {
    fileName,
    options,
    guessed: {
      delimiter,
      encoding: encoding ?? 'utf-8',
    },
  })
}

const chunkSize = 4_000_000

/**
 * Null for UTF-8 and files with a byte order mark; else the likeliest of the encodings of one byte a letter.
 */
function guessEncoding(bytes: Uint8Array): string | null {
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff)) return null
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    return null
  } catch {
    const likely = analyse(Buffer.from(bytes.subarray(0, 200_000))).find(({ name }) =>
      /^(windows-125\d|ISO-8859-\d+|KOI8-R)$/i.test(name),
    )
    // Western text looks much the same to a detector; the wider set of the two is taken.
    return !likely || /8859-1$|windows-1252/i.test(likely.name) ? 'windows-1252' : likely.name.toLowerCase()
  }
}

function decodeAs(bytes: Uint8Array, encoding: string): string {
  try {
    return new TextDecoder(encoding).decode(bytes)
  } catch {
    throw new ImportError(`“${encoding}” is not an encoding that is known here.`)
  }
}
