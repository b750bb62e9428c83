/**
 * The value of a sum such as `297/3 - 2*5` or `(210-24)/2`; a comma may stand for the decimal point.
 * Null where it is not one.
 */
export function parseArithmetic(text: string): number | null {
  const tokens =
    text.replace(/(\d),(\d)/g, '$1.$2').match(/\d+\.?\d*(?:e[+-]?\d+)?|\.\d+|[-+*/()]|\S/gi) ?? []
  let at = 0
  const factor = (): number => {
    const token = tokens[at++]
    if (token === '-') return -factor()
    if (token === '+') return factor()
    if (token === '(') {
      const inner = sum()
      return tokens[at++] === ')' ? inner : NaN
    }
    return token !== undefined && /^[\d.]/.test(token) ? Number(token) : NaN
  }
  const product = (): number => {
    let value = factor()
    while (tokens[at] === '*' || tokens[at] === '/')
      value = tokens[at++] === '*' ? value * factor() : value / factor()
    return value
  }
  const sum = (): number => {
    let value = product()
    while (tokens[at] === '+' || tokens[at] === '-')
      value = tokens[at++] === '+' ? value + product() : value - product()
    return value
  }
  const value = sum()
  return at === tokens.length && Number.isFinite(value) ? value : null
}
