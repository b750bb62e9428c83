import { ImportError } from '../import-error'
import { parseJson } from '../text'

/** A file of features: what stands beside the features, and these one by one, each made when it is asked for. */
export type Members = { head: unknown; count: number; each: () => Iterable<unknown> }

/**
 * The parts of a GeoJSON file. Features of a collection are parsed one by one, so that a large file never stands in
 * memory as a whole: a list of two numbers for each of a million places costs far more than the numbers.
 * @param lines one feature a line (RFC 8142)
 * @throws ImportError with the line where the JSON breaks off; by `each` too
 */
export function membersOf(text: string, fileName: string, lines: boolean): Members {
  if (lines) {
    const texts = text.split(/[\n\u001e]+/).filter((line) => line.trim())
    return {
      head: { type: 'FeatureCollection' },
      count: texts.length,
      *each() {
        for (const line of texts) yield parseJson(line, fileName)
      },
    }
  }
  const found = featuresIn(text)
  const head = found && parsed(`${text.slice(0, found.from)}${text.slice(found.to)}`)
  if (!found || !isCollection(head)) return wholeMembers(parseJson(text, fileName), fileName)
  const { spans } = found
  return {
    head,
    count: spans.length / 2,
    *each() {
      for (let i = 0; i < spans.length; i += 2)
        try {
          yield parseJson(text.slice(spans[i], spans[i + 1]), fileName)
        } catch (error) {
          // The whole file is parsed again for the line in which it breaks off.
          parseJson(text, fileName)
          throw error
        }
    },
  }
}

const parsed = (text: string): unknown => {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}

const isCollection = (value: unknown): value is { type: string; features: [] } =>
  typeof value === 'object' &&
  value !== null &&
  (value as { type?: unknown }).type === 'FeatureCollection' &&
  Array.isArray((value as { features?: unknown }).features)

/** Members of what was parsed in one go. */
function wholeMembers(head: unknown, fileName: string): Members {
  if (typeof head === 'object' && head !== null && 'type' in head) {
    const of = (list: unknown[]): Members => ({ head, count: list.length, each: () => list })
    if (head.type === 'FeatureCollection' && 'features' in head && Array.isArray(head.features))
      return of(head.features)
    if (head.type === 'Feature') return of([head])
    if (typeof head.type === 'string' && head.type in shapes)
      return of([{ type: 'Feature', properties: {}, geometry: head }])
  }
  throw new ImportError(`${fileName} is JSON, but not GeoJSON: it has no features.`)
}

/** How deep the positions of each shape lie, and how many must stand together at the innermost level. */
export const shapes = {
  Point: { depth: 0, least: 0 },
  MultiPoint: { depth: 1, least: 0 },
  LineString: { depth: 1, least: 2 },
  MultiLineString: { depth: 2, least: 2 },
  Polygon: { depth: 2, least: 3 },
  MultiPolygon: { depth: 3, least: 3 },
} as const

/** Where the items of the list “features” begin and end by turns, from `from` up to `to` in the text. */
type Found = { spans: number[]; from: number; to: number }

const [quote, backslash, comma, colon] = [0x22, 0x5c, 0x2c, 0x3a]
const [openList, closeList, openObject, closeObject] = [0x5b, 0x5d, 0x7b, 0x7d]

/**
 * Looks for the list “features” of the outermost object, without parsing anything. Null where there is none, where
 * there are two, or where the text does not have the form of JSON; what stands inside of values is not looked at.
 */
function featuresIn(text: string): Found | null {
  let at = afterSpace(text, 0)
  if (text.charCodeAt(at) !== openObject) return null
  at = afterSpace(text, at + 1)
  let found: Found | null = null
  while (text.charCodeAt(at) === quote) {
    const end = afterString(text, at)
    const key = text.slice(at, end)
    at = afterSpace(text, end)
    if (text.charCodeAt(at) !== colon) return null
    at = afterSpace(text, at + 1)
    if (key === '"features"') {
      if (found || text.charCodeAt(at) !== openList) return null
      found = itemsOf(text, at)
      if (!found) return null
      at = found.to + 1
    } else at = afterValue(text, at)
    at = afterSpace(text, at)
    if (text.charCodeAt(at) !== comma) break
    at = afterSpace(text, at + 1)
  }
  return text.charCodeAt(at) === closeObject ? found : null
}

/** The items of the list that opens at `open`. */
function itemsOf(text: string, open: number): Found | null {
  const spans: number[] = []
  let at = afterSpace(text, open + 1)
  if (text.charCodeAt(at) === closeList) return { spans, from: open + 1, to: at }
  for (;;) {
    const end = afterValue(text, at)
    if (end === at) return null
    spans.push(at, end)
    at = afterSpace(text, end)
    const next = text.charCodeAt(at)
    if (next === closeList) return { spans, from: open + 1, to: at }
    if (next !== comma) return null
    at = afterSpace(text, at + 1)
  }
}

function afterSpace(text: string, from: number): number {
  let at = from
  for (;;) {
    const code = text.charCodeAt(at)
    if (code !== 0x20 && code !== 0x0a && code !== 0x0d && code !== 0x09) return at
    at++
  }
}

/** After the string that opens at `open`; the end of the text where it is not closed. */
function afterString(text: string, open: number): number {
  let at = open
  for (;;) {
    at = text.indexOf('"', at + 1)
    if (at < 0) return text.length
    let escapes = 0
    while (text.charCodeAt(at - 1 - escapes) === backslash) escapes++
    if (escapes % 2 === 0) return at + 1
  }
}

/** After the value at `from`, by its brackets; up to the next sign of the outer value where it has none. */
function afterValue(text: string, from: number): number {
  let depth = 0
  let at = from
  while (at < text.length) {
    let code = text.charCodeAt(at)
    // Most of a file are figures and commas.
    if (depth > 0) while (code > quote && code < openList) code = text.charCodeAt(++at)
    if (code === quote) {
      at = afterString(text, at)
      if (depth === 0) return at
      continue
    }
    if (code === openList || code === openObject) depth++
    else if (code === closeList || code === closeObject) {
      if (depth === 0) return at
      depth--
      if (depth === 0) return at + 1
    } else if (depth === 0 && code === comma) return at
    at++
  }
  return at
}
