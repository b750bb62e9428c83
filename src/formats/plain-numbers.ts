import type { Slices, WordColumn } from './cells'

/** Powers of ten that a number holds exactly; up to them, a quotient of whole numbers is rounded once. */
const powers = Array.from({ length: 16 }, (_, i) => 10 ** i)
/** So many digits always make a whole number that is held exactly. */
const mostDigits = 15

/** Values of the rows, NaN where a cell is empty, and whether all of them are whole. */
export type PlainNumbers = { values: Float64Array; whole: boolean }

/**
 * The numbers of a column in which every word is plainly one: an optional minus, digits without leading zeros, perhaps
 * a point and more digits, fifteen in all at most. Such a column can be read in one way only; null for any other, which
 * then has to be understood word by word. Values are those of `Number`.
 */
export const plainNumbers = (column: WordColumn): PlainNumbers | null =>
  column.slices ? ofSlices(column.slices) : ofWords(column)

function ofSlices({ text, starts, ends }: Slices): PlainNumbers | null {
  const values = new Float64Array(starts.length)
  const found = { whole: true }
  let filled = false
  for (let row = 0; row < starts.length; row++) {
    values[row] = ends[row] > starts[row] ? numberIn(text, starts[row], ends[row], found) : NaN
    if (ends[row] > starts[row]) {
      if (Number.isNaN(values[row])) return null
      filled = true
    }
  }
  return filled ? { values, whole: found.whole } : null
}

function ofWords({ words, codes }: WordColumn): PlainNumbers | null {
  if (!words.length) return null
  const byCode = new Float64Array(words.length + 1).fill(NaN)
  const found = { whole: true }
  for (let i = 0; i < words.length; i++) {
    byCode[i + 1] = numberIn(words[i], 0, words[i].length, found)
    if (Number.isNaN(byCode[i + 1])) return null
  }
  const values = new Float64Array(codes.length)
  for (let row = 0; row < codes.length; row++) values[row] = byCode[codes[row]]
  return { values, whole: found.whole }
}

/** The number that stands in a text from `from` up to `to`; NaN where it is not plainly one. */
function numberIn(text: string, from: number, to: number, found: { whole: boolean }): number {
  const negative = text.charCodeAt(from) === minus
  const start = negative ? from + 1 : from
  let [amount, point] = [0, -1]
  for (let at = start; at < to; at++) {
    const digit = text.charCodeAt(at) - zero
    if (digit >= 0 && digit <= 9) amount = 10 * amount + digit
    else if (digit === pointFromZero && point < 0) point = at
    else return NaN
  }
  const places = point < 0 ? 0 : to - point - 1
  const digits = to - start - (point < 0 ? 0 : 1)
  const before = (point < 0 ? to : point) - start
  if (before < 1 || digits > mostDigits || (point >= 0 && places < 1)) return NaN
  if (before > 1 && text.charCodeAt(start) === zero) return NaN
  if (places) found.whole = false
  const size = places ? amount / powers[places] : amount
  return negative ? -size : size
}

const minus = 0x2d
const zero = 0x30
const pointFromZero = 0x2e - zero
