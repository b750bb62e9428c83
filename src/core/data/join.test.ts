import fc from 'fast-check'
import codes from 'i18n-iso-countries/codes.json'
import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from './column'
import { codeListOf } from './code-lists'
import { matchKeys, proposeKeys } from './join'

describe('matching keys', () => {
  it('says what matched, what did not on either side, and what nearly did', () => {
    const match = matchKeys(
      textColumn(['A1', 'A2', 'A03', 'É4', null, 'A7']),
      textColumn(['a2', 'A1', 'A3', 'E 4', 'A9']),
    )
    expect([...match.rows]).toEqual([1, -1, -1, -1, -1, -1])
    expect(match.matched).toBe(1)
    expect(match.unmatched).toEqual([1, 2, 3, 4, 5])
    expect(match.otherUnmatched).toEqual([0, 2, 3, 4])
    expect(match.nearMisses).toEqual([
      { row: 1, otherRow: 0, value: 'A2', otherValue: 'a2', reason: 'case', score: 0.99 },
      { row: 2, otherRow: 2, value: 'A03', otherValue: 'A3', reason: 'leading zeros', score: 0.99 },
      {
        row: 3,
        otherRow: 3,
        value: 'É4',
        otherValue: 'E 4',
        reason: 'several small differences',
        score: 0.99,
      },
    ])
  })

  it('matches by hand what was decided, and no longer proposes it', () => {
    const match = matchKeys(textColumn(['A1', 'A2']), textColumn(['A1', ' a2']), { A2: ' a2' })
    expect([...match.rows]).toEqual([0, 1])
    expect(match.nearMisses).toEqual([])
  })

  it('proposes nothing that could be meant in two ways', () => {
    expect(matchKeys(textColumn(['X1']), textColumn(['x1', 'x 1'])).nearMisses).toEqual([])
  })

  it('proposes names that differ in common words, abbreviations, accents or a few letters', () => {
    const own = ['Brenlow', 'St. Crayeshaw', 'Osféll', 'Wenlow', 'Thramimoss', 'Feneby', 'Marlisk', 'Marlist']
    const other = [
      'Republic of Brenlow',
      'Saint Crayeshaw',
      'Osfell',
      'Wenlow (Kingdom of)',
      'Thramimos',
      'Kelmere',
      'Marlis',
    ]
    const { nearMisses } = matchKeys(textColumn(own), textColumn(other))
    expect(Object.fromEntries(nearMisses.map(({ value, otherValue }) => [value, otherValue]))).toEqual({
      Brenlow: 'Republic of Brenlow',
      'St. Crayeshaw': 'Saint Crayeshaw',
      Osféll: 'Osfell',
      Wenlow: 'Wenlow (Kingdom of)',
      // One letter less; of the last two nobody knows which is meant.
      Thramimoss: 'Thramimos',
    })
    for (const { score } of nearMisses) expect(score).toBeGreaterThan(0.74)
    expect(matchKeys(textColumn(['Zone 12345']), textColumn(['Zone 12346'])).nearMisses).toEqual([])
  })

  it('knows codes of the lists that many tables use, in each of their forms', () => {
    // From the package of the standard, not from memory.
    const some = codes.slice(20, 40) as [string, string, string][]
    const [two, three, number] = [0, 1, 2].map((i) => textColumn(some.map((code) => code[i])))
    expect([two, three, number].map(codeListOf)).toEqual([
      'ISO 3166 alpha-2',
      'ISO 3166 alpha-3',
      'ISO 3166 numeric',
    ])
    const { nearMisses } = matchKeys(two, three)
    expect(nearMisses).toHaveLength(some.length)
    expect(new Set(nearMisses.map(({ reason }) => reason))).toEqual(new Set(['codes of one country']))
    for (const { row, otherRow } of nearMisses) expect(row).toBe(otherRow)
    // Without their leading zeros.
    const bare = textColumn(some.map((code) => String(Number(code[2]))))
    expect(matchKeys(three, bare).nearMisses).toHaveLength(some.length)
    expect(codeListOf(textColumn(['NAT', 'GRI', 'SKO', 'THR', 'OSF']))).toBeNull()
    expect(codeListOf(numberColumn([1, 2, 3, 4, 5]))).toBeNull()
    expect(codeListOf(textColumn(some.map(([code], i) => `${code}${i % 9}0`)))).toBe('NUTS')
  })

  it('takes the first of rows with the same key and says so', () => {
    const match = matchKeys(textColumn(['A']), textColumn(['A', 'A', 'B']))
    expect([...match.rows]).toEqual([0])
    expect(match.repeated).toEqual(['A'])
    expect(match.otherUnmatched).toEqual([2])
  })

  it('accounts for every row of both sides', () => {
    const keys = fc.array(fc.option(fc.constantFrom('a', 'b', 'A', 'c 1', 'c1', 'd', '07', '7')), {
      maxLength: 15,
    })
    fc.assert(
      fc.property(keys, keys, (left, right) => {
        const match = matchKeys(textColumn(left), textColumn(right))
        expect(match.matched + match.unmatched.length).toBe(left.length)
        match.rows.forEach((row, i) => row >= 0 && expect(right[row]).toBe(left[i]))
        const used = new Set([...match.rows].filter((row) => row >= 0).map((row) => right[row]))
        for (const row of match.otherUnmatched) expect(used.has(right[row])).toBe(false)
        for (const { row, otherRow } of match.nearMisses)
          expect([match.unmatched.includes(row), match.otherUnmatched.includes(otherRow)]).toEqual([
            true,
            true,
          ])
      }),
    )
  })
})

describe('proposing keys', () => {
  it('prefers codes in common over numbers that agree by chance', () => {
    const areas = [
      { key: 'year', column: numberColumn([2024, 2025, 2026]) },
      { key: 'code', column: textColumn(['A', 'B', 'C']) },
    ]
    const table = [
      { key: 'jahr', column: numberColumn([2024, 2025, 2026]) },
      { key: 'area', column: textColumn(['A', 'B', 'D']) },
    ]
    expect(proposeKeys(areas, table)).toEqual({ key: 'code', otherKey: 'area' })
  })

  it('proposes nothing where nothing agrees', () => {
    expect(
      proposeKeys([{ key: 'a', column: textColumn(['x']) }], [{ key: 'b', column: textColumn(['y']) }]),
    ).toBeNull()
  })
})
