import fc from 'fast-check'
import codes from 'i18n-iso-countries/codes.json'
import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from './column'
import isoCodes from 'i18n-iso-countries/codes.json'
import { codeListOf } from './code-lists'
import de from 'i18n-iso-countries/langs/de.json'
import en from 'i18n-iso-countries/langs/en.json'
import { beginningOf, matchKeys, proposeKeys } from './join'

/** Countries of the standard's list, and their names from the package itself: none is written here. */
const iso = Object.keys(en.countries).slice(20, 40)
const first = (names: Record<string, string | string[]>) =>
  Object.fromEntries(Object.entries(names).map(([code, name]) => [code, [name].flat()[0]]))
const names = { en: first(en.countries), de: first(de.countries) }

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
      { kind: 'loose', row: 1, otherRow: 0, value: 'A2', otherValue: 'a2', reason: 'case', score: 0.99 },
      {
        kind: 'loose',
        row: 2,
        otherRow: 2,
        value: 'A03',
        otherValue: 'A3',
        reason: 'leading zeros',
        score: 0.99,
      },
      {
        kind: 'loose',
        row: 3,
        otherRow: 3,
        value: 'É4',
        otherValue: 'E 4',
        reason: 'several small differences',
        score: 0.99,
      },
    ])
  })

  it('takes ways in which keys differ as a whole, and counts them', () => {
    const counties = textColumn(['01001', '01003', '02013', '02016'])
    const lost = numberColumn([1001, 1003, 2013, 9999])
    expect(matchKeys(counties, lost).matched).toBe(0)
    const match = matchKeys(counties, lost, {}, ['loose'])
    expect([...match.rows]).toEqual([0, 1, 2, -1])
    expect(match).toMatchObject({ matched: 3, byKind: { loose: 3, codes: 0, words: 0 }, unmatched: [3] })
    expect(match.nearMisses).toEqual([])
  })

  it('sets aside what all keys of a table begin with', () => {
    const long = textColumn(['0500000US01001', '0500000US01003', '0500000US02013'])
    const short = textColumn(['01001', '01003', '02013'])
    expect(matchKeys(long, short, {}, ['loose']).matched).toBe(3)
    // A beginning that only one side has to itself keeps no key from being found as it stands.
    const odd = textColumn(['LM001', 'lm017', 'LM 044', 'LM83', 'ZZ001'])
    const even = textColumn(['LM001', 'LM017', 'LM044', 'LM083'])
    expect(matchKeys(even, odd, {}, ['loose'])).toMatchObject({ matched: 4, byKind: { loose: 3 } })
    // Figures that all share belong to the keys.
    expect(beginningOf(textColumn(['01001', '01003', '01005']))).toBe('')
    expect(beginningOf(textColumn(['District of Alb', 'District of Bren', 'District of Cal']))).toBe(
      'District of ',
    )
  })

  it('knows countries by two letters, three letters, three figures and names in many languages', () => {
    const three = textColumn(['ATA', 'CYM', 'ESH', 'GRL', 'UMI', 'VIR'])
    for (const others of [
      ['AQ', 'KY', 'EH', 'GL', 'UM', 'VI'],
      ['010', '136', '732', '304', '581', '850'],
    ])
      expect(matchKeys(textColumn(others), three, {}, ['codes']).matched).toBe(6)
    const named = (language: 'en' | 'de') => textColumn(iso.map((code) => names[language][code]))
    expect(matchKeys(named('de'), textColumn(iso), {}, ['codes']).matched).toBe(iso.length)
    expect(matchKeys(named('en'), named('de'), {}, ['codes']).matched).toBe(iso.length)
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
    expect(new Set(nearMisses.map(({ reason }) => reason))).toEqual(
      new Set(['codes or names of one country']),
    )
    for (const { row, otherRow } of nearMisses) expect(row).toBe(otherRow)
    // Without their leading zeros.
    const bare = textColumn(some.map((code) => String(Number(code[2]))))
    expect(matchKeys(three, bare).nearMisses).toHaveLength(some.length)
    expect(codeListOf(textColumn(['NAT', 'GRI', 'SKO', 'THR', 'OSF']))).toBeNull()
    expect(codeListOf(numberColumn([1, 2, 3, 4, 5]))).toBeNull()
    // Numbers below 500 are codes where many stand together, all of them codes, and never where they only count.
    const small = isoCodes.map(([, , digits]) => Number(digits)).filter((n) => n < 500)
    expect(codeListOf(numberColumn(small.slice(0, 25)))).toBe('ISO 3166 numeric')
    expect(codeListOf(numberColumn(small.slice(0, 12)))).toBeNull()
    expect(codeListOf(numberColumn(Array.from({ length: 60 }, (_, i) => i + 1)))).toBeNull()
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
