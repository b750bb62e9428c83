/** A number as people read it, with a fixed number of decimals and thousands set apart by commas; a true minus sign. */
export function formatNumber(value: number, decimals: number): string {
  if (!Number.isFinite(value)) return '–'
  const text = Math.abs(value).toLocaleString('en-GB', { minimumFractionDigits: decimals, maximumFractionDigits: decimals })
  return value < 0 && Number(Math.abs(value).toFixed(decimals)) !== 0 ? `−${text}` : text
}

/**
 * The fewest decimals (0–6) with which all breaks can be told apart and each is shown to within a hundredth of the
 * narrowest class beside it.
 */
export function decimalsFor(breaks: number[]): number {
  const gaps = breaks.slice(1).map((b, i) => b - breaks[i]).filter((gap) => gap > 0)
  const tolerance = (gaps.length ? Math.min(...gaps) : Math.abs(breaks[0]) || 1) / 100
  const inner = breaks.length > 2 ? breaks.slice(1, -1) : breaks
  for (let d = 0; d < 6; d++) if (inner.every((b) => Math.abs(Number(b.toFixed(d)) - b) <= tolerance)) return d
  return 6
}

/** Plain words for each class: “under 2.0”, “2.0 to 3.5”, “3.5 and over”; with one class, its range. */
export function classLabels(breaks: number[], decimals = decimalsFor(breaks)): string[] {
  const last = breaks.length - 2
  const f = (v: number) => formatNumber(v, decimals)
  if (last <= 0) return [`${f(breaks[0])} to ${f(breaks[breaks.length - 1])}`]
  return Array.from({ length: last + 1 }, (_, i) => (i === 0 ? `under ${f(breaks[1])}` : i === last ? `${f(breaks[i])} and over` : `${f(breaks[i])} to ${f(breaks[i + 1])}`))
}

const numberWords = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve']
export const numberWord = (n: number): string => numberWords[n] ?? String(n)
