import Papa from 'papaparse'
import { columnFromCells } from '@/core/data/column'
import { ImportError, type Imported } from '../import-error'
import { decodeText, nameFromFile } from '../text'

/**
 * Reads a table with a header row; the delimiter is detected. Blank header cells get a number; equal ones too.
 * @throws ImportError
 */
export function readCsv(bytes: Uint8Array, fileName: string): Imported[] {
  const text = decodeText(bytes)
  if (text.includes('\u0000')) throw new ImportError(`${fileName} is not a text file.`)
  const { data, errors, meta } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy', delimitersToGuess: [',', ';', '\t', '|'] })
  const quotes = errors.find((error) => error.type === 'Quotes')
  if (quotes) throw new ImportError(`${fileName}, row ${(quotes.row ?? 0) + 1}: a quotation mark is opened and never closed.`)
  const [header, ...rows] = data
  if (!header || !rows.length) throw new ImportError(`${fileName} has no rows under its header.`)
  const long = rows.findIndex((row) => row.length > header.length && row.slice(header.length).some((cell) => cell.trim()))
  if (long >= 0) throw new ImportError(`${fileName}, row ${long + 2}: ${rows[long].length} cells, but the header has ${header.length}. Is ‘${meta.delimiter === '\t' ? 'tab' : meta.delimiter}’ the right delimiter?`)
  const keys = uniqueKeys(header)
  const fields = keys.map((key, c) => ({ key, column: columnFromCells(rows.map((row) => row[c] ?? null)) }))
  return [{ name: nameFromFile(fileName), dataset: { rowCount: rows.length, fields, geometry: { kind: 'none' } } }]
}

function uniqueKeys(header: string[]): string[] {
  const keys: string[] = []
  header.forEach((cell, i) => {
    const stem = cell.replace(/^\uFEFF/, '').trim() || `column ${i + 1}`
    let key = stem
    for (let n = 2; keys.includes(key); n++) key = `${stem} ${n}`
    keys.push(key)
  })
  return keys
}
