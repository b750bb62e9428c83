import { ImportError } from './import-error'

/**
 * The text of a file in UTF-8 (or UTF-16 with a byte order mark); a file in an older encoding is read as
 * Windows-1252.
 */
export function decodeText(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes)
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

const wholeMark = '\u0001whole '
const wholeOf = (digits: string): number | bigint =>
  Number.isSafeInteger(Number(digits)) ? Number(digits) : BigInt(digits)

/** Sixteen figures or more that follow no point: a whole number that may be too long. */
const longWhole = /(?<![.\d])\d{16}/

/**
 * JSON as values; whole numbers that a number cannot hold become big ones.
 * @throws ImportError with the line where the JSON breaks off.
 */
export function parseJson(text: string, fileName: string): unknown {
  try {
    if (!longWhole.test(text)) return JSON.parse(text)
    // Whole numbers of so many figures would lose the last of them; they are read as such.
    const marked = text.replace(/"(?:[^"\\]|\\.)*"|(?<![\d.])-?\d{16,}(?=\s*[,}\]])/g, (part) =>
      part.startsWith('"') ? part : `"\\u0001whole ${part}"`,
    )
    return JSON.parse(marked, (_, value: unknown) =>
      typeof value === 'string' && value.startsWith(wholeMark)
        ? wholeOf(value.slice(wholeMark.length))
        : value,
    )
  } catch (error) {
    const position = Number(/position (\d+)/.exec((error as Error).message)?.[1] ?? text.length)
    const line = text.slice(0, position).split('\n').length
    throw new ImportError(
      `${fileName} is not complete JSON: it breaks at line ${line}. Save it again where it came from, or check whether the download was cut off.`,
    )
  }
}

/** `district-returns.csv` becomes `District returns`. */
export function nameFromFile(fileName: string): string {
  const stem = fileName
    .replace(/^.*[\\/]/, '')
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
  return stem ? stem.charAt(0).toUpperCase() + stem.slice(1) : 'Data'
}
