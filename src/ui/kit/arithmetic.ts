/** Units of length in millimetres. */
const lengths: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: 25.4,
  inch: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
}

/**
 * The value of a sum such as `297/3 - 2*5` or `(210-24)/2`; a comma may stand for the decimal point. In a field of
 * lengths numbers may have units, `2 in + 4 mm`; those without one are in the field's own `unit`. Null where it is
 * not a sum.
 */
export function parseArithmetic(text: string, unit = ''): number | null {
  const tokens =
    text.replace(/(\d),(\d)/g, '$1.$2').match(/\d+\.?\d*(?:e[+-]?\d+)?|\.\d+|[-+*/()]|[a-z]+|\S/gi) ?? []
  let at = 0
  const factor = (): number => {
    const token = tokens[at++]
    if (token === '-') return -factor()
    if (token === '+') return factor()
    if (token === '(') {
      const inner = sum()
      return tokens[at++] === ')' ? inner : NaN
    }
    const number = token !== undefined && /^[\d.]/.test(token) ? Number(token) : NaN
    const said = tokens[at]?.toLowerCase() ?? ''
    if (!(unit in lengths) || !(said in lengths)) return number
    at++
    return (number * lengths[said]) / lengths[unit]
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
