import { plainFormat, writeNumber, type NumberFormat } from './number-format'

/**
 * A number as people read it, with a fixed number of decimals and thousands set apart by commas; a true minus
 * sign.
 */
export const formatNumber = (value: number, decimals: number): string =>
  writeNumber(value, plainFormat(), decimals)

/**
 * The fewest decimals (0–6) with which all breaks can be told apart and each is shown to within a hundredth
 * of the narrowest class beside it.
 */
export function decimalsFor(breaks: number[]): number {
  const gaps = breaks
    .slice(1)
    .map((b, i) => b - breaks[i])
    .filter((gap) => gap > 0)
  const tolerance = (gaps.length ? Math.min(...gaps) : Math.abs(breaks[0]) || 1) / 100
  const inner = breaks.length > 2 ? breaks.slice(1, -1) : breaks
  for (let d = 0; d < 6; d++)
    if (inner.every((b) => Math.abs(Number(b.toFixed(d)) - b) <= tolerance)) return d
  return 6
}

/**
 * - `to`: “under 2.0”, “2.0 to 3.5”, “3.5 and over”
 * - `dash`: “0.4–2.0”, “2.0–3.5”, “3.5–7.1”
 * - `under`: “under 2.0”, “under 3.5”, “3.5 and over”
 * - `over`: “under 2.0”, “2.0 and over”, “3.5 and over”
 */
export type LabelPattern = 'to' | 'dash' | 'under' | 'over'

/**
 * Plain words for each class; with one class, its range. `decimals` are those of the numbers as they are
 * written.
 */
export function classLabels(
  breaks: number[],
  decimals = decimalsFor(breaks),
  pattern: LabelPattern = 'to',
  format: NumberFormat = plainFormat(),
): string[] {
  const last = breaks.length - 2
  const f = (v: number) => writeNumber(v, format, decimals)
  if (last <= 0) return [`${f(breaks[0])} to ${f(breaks[breaks.length - 1])}`]
  return Array.from({ length: last + 1 }, (_, i) => {
    const [low, high] = [f(breaks[i]), f(breaks[i + 1])]
    if (pattern === 'dash') return `${low}–${high}`
    if (i === last) return `${low} and over`
    if (i === 0 || pattern === 'under') return `under ${high}`
    return pattern === 'over' ? `${low} and over` : `${low} to ${high}`
  })
}

/**
 * Words that were written by hand in place of the labels of their classes; they stay when a class changes.
 */
export const inOwnWords = (labels: string[], words: Record<string, { text: string }>): string[] =>
  labels.map((label, i) => words[String(i)]?.text ?? label)

const numberWords = [
  'no',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
]
export const numberWord = (n: number): string => numberWords[n] ?? String(n)
