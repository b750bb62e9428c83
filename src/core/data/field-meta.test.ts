import { describe, expect, it } from 'vitest'
import { numberColumn } from './column'
import { proposeMeta, readableName } from './field-meta'

const roleOf = (key: string, values: number[]) => proposeMeta(key, numberColumn(values)).role
const some = (count: number, of: (i: number) => number) => Array.from({ length: count }, (_, i) => of(i))

describe('names of fields', () => {
  it('in capitals become words, and short forms stay as they are', () => {
    expect(readableName('PCT_RENT')).toBe('Percent rent')
    expect(readableName('GDP')).toBe('GDP')
    expect(readableName('GDP_PER_CAPITA')).toBe('GDP per capita')
    expect(readableName('POP_DENS')).toBe('Population density')
    expect(readableName('TOTAL AREA')).toBe('Total area')
    expect(readableName('ISO_A3')).toBe('ISO A3')
    expect(readableName('lib_loans_2025')).toBe('Library loans 2025')
    expect(readableName('medianIncome')).toBe('Median income')
    expect(readableName('share of HH with TV')).toBe('Share of households with TV')
  })
})

describe('what numbers measure', () => {
  it('is nothing where they tell rows apart, say where or when these are, or count them', () => {
    expect(
      roleOf(
        'FIPS',
        some(50, (i) => 1001 + 2 * i),
      ),
    ).toBe('code')
    expect(
      roleOf(
        'region',
        some(60, (i) => 30_000 + 1000 * Math.floor(i / 20) + (i % 20)),
      ),
    ).toBe('code')
    expect(
      roleOf(
        'no.',
        some(30, (i) => i + 1),
      ),
    ).toBe('code')
    expect(
      roleOf(
        'latitude',
        some(30, (i) => 40 + i / 10),
      ),
    ).toBe('code')
    expect(
      roleOf(
        'LON',
        some(30, (i) => -100 + i),
      ),
    ).toBe('code')
    expect(
      roleOf(
        'x',
        some(30, (i) => 400_000 + 7 * i),
      ),
    ).toBe('code')
    expect(
      roleOf(
        'opened',
        some(30, (i) => 1880 + 3 * i),
      ),
    ).toBe('date')
    expect(
      roleOf(
        'year',
        some(30, () => 2024),
      ),
    ).toBe('date')
  })

  it('stays an amount where they are large, whole and different', () => {
    expect(
      roleOf(
        'population',
        some(60, (i) => 1000 + ((i * 7919) % 8999)),
      ),
    ).toBe('total')
    expect(
      roleOf(
        'visits',
        some(40, (i) => 10_000 + ((i * 104_729) % 89_999)),
      ),
    ).toBe('total')
    expect(roleOf('loans', [3, 1, 2, 5, 4, 6, 8, 7, 30])).toBe('total')
    expect(
      roleOf(
        'longest stay',
        some(20, (i) => i * 1.5),
      ),
    ).toBe('total')
  })
})
