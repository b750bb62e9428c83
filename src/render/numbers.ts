/** A number as short text with at most `digits` decimals: 1.500 becomes 1.5, −0.0001 becomes 0. */
export function short(n: number, digits = 3): string {
  const factor = 10 ** digits
  const rounded = Math.round(n * factor) / factor
  return Object.is(rounded, -0) ? '0' : String(rounded)
}
