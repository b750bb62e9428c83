import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseArithmetic } from './arithmetic'

describe('arithmetic in number fields', () => {
  it('knows precedence, brackets, signs and the decimal comma', () => {
    const cases: [string, number][] = [
      ['297/3 - 2*5', 89],
      ['(210-24)/2', 93],
      ['-4', -4],
      ['2--3', 5],
      ['12,5', 12.5],
      ['1e3', 1000],
      ['.5*4', 2],
      [' 7 ', 7],
    ]
    for (const [text, value] of cases) expect(parseArithmetic(text), text).toBeCloseTo(value, 12)
  })

  it('takes units of length in fields of lengths, and only there', () => {
    const cases: [string, string, number][] = [
      ['2 in', 'mm', 50.8],
      ['1in + 4', 'mm', 29.4],
      ['12pt', 'mm', (12 * 25.4) / 72],
      ['1 cm', 'pt', 720 / 25.4],
      ['(2cm + 4 mm) / 2', 'mm', 12],
      ['2 inch', 'mm', 50.8],
    ]
    for (const [text, unit, value] of cases) expect(parseArithmetic(text, unit), text).toBeCloseTo(value, 9)
    for (const text of ['2 in', '3 mm']) expect(parseArithmetic(text, '%')).toBeNull()
    for (const text of ['2 ft', 'mm', '2 mm mm', '2 in 4'])
      expect(parseArithmetic(text, 'mm'), text).toBeNull()
  })

  it('gives nothing for what is not a sum', () => {
    for (const text of ['', 'wide', '3 +', '(2', '2)', '1/0', '4 5', '2**3', '3mm'])
      expect(parseArithmetic(text), text).toBeNull()
  })

  it('reads back any number as it is written', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), (n) => {
        expect(parseArithmetic(String(n))).toBeCloseTo(n, 6)
      }),
    )
  })
})
