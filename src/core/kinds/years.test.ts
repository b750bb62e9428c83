import { describe, expect, it } from 'vitest'
import { Colouring } from '@/core/colour/colouring'
import { numberColumn } from '@/core/data/column'
import { proposeMeta } from '@/core/data/field-meta'
import { openDemo } from '../../../demo/open'
import { tableOf, square } from '../data/steps/step-testing'
import { choropleth } from './choropleth'
import type { KindData } from './kind'
import { kindOf } from './registry'
import { symbols } from './symbols'
import { inYear } from './years'

const dataset = tableOf(
  {
    loans_2010: [1, 2, 3, 4],
    loans_2015: [5, 6, 7, null],
    loans_2020: [10, 20, 30, 40],
    people_2010: [1, 1, 1, 1],
    people_2020: [10, 10, 10, 10],
    income: [7, 8, 9, 9],
  },
  [square(0, 0), square(1, 0), square(2, 0), square(3, 0)],
)
const data: KindData = {
  dataset,
  name: 'Districts',
  fieldMeta: (key) => proposeMeta(key, dataset.fields.find((f) => f.key === key)?.column ?? numberColumn([])),
  datasetOf: () => dataset,
  datasetIds: [],
}
const settings = {
  ...choropleth.initial(data),
  field: 'loans_2020',
  method: 'equal-interval' as const,
  classes: 2,
  rounded: false,
}
const textOf = (parts: { text: string }[]) => parts.map(({ text }) => text).join('')

describe('a field that is one year of many', () => {
  it('has its year as a word of its own in the sentence', () => {
    expect(textOf(choropleth.sentence(settings, data))).toContain(
      'by loans in 2020 as it is in two classes by',
    )
    expect(choropleth.sentence(settings, data).find(({ control }) => control === 'year')?.text).toBe('2020')
    expect(textOf(choropleth.sentence({ ...settings, field: 'income' }, data))).toContain(
      'by income as it is',
    )
    expect(choropleth.years?.of({ ...settings, field: 'income' }, data)).toBeNull()
  })

  it('takes a denominator of the same year along, as far as there is one', () => {
    const shown = { field: 'loans_2020', per: 'people_2020', perCount: 1 }
    expect(inYear(shown, dataset, 2010)).toMatchObject({ field: 'loans_2010', per: 'people_2010' })
    expect(inYear(shown, dataset, 2015)).toMatchObject({ field: 'loans_2015', per: 'people_2020' })
    // From whichever year one comes, and back again.
    const there = inYear(inYear(shown, dataset, 2015), dataset, 2010)
    expect(there).toEqual(inYear(shown, dataset, 2010))
    expect(inYear(there, dataset, 2020)).toEqual(shown)
    expect(inYear({ ...shown, field: 'loans_2010' }, dataset, 2015).per).toBe('people_2020')
    // What cannot follow is said.
    const told = (field: string) =>
      choropleth.sentence({ ...settings, ...shown, field }, data).map(({ text }) => text)
    expect(told('loans_2015')).toContain('per resident of 2020')
    expect(told('loans_2020')).toContain('per resident')
    expect(inYear({ ...shown, per: 'income' }, dataset, 2010).per).toBe('income')
    expect(inYear(shown, dataset, 1999)).toBe(shown)
  })

  it('keeps its classes while one steps through the years, unless somebody wants those of each year', () => {
    const alone = choropleth.plan(settings, data)
    expect(alone.classification?.breaks).toEqual([10, 25, 40])
    const first = choropleth.years?.to(settings, data, 2010) ?? settings
    expect(first.overYears).toBe(true)
    const plan = choropleth.plan(first, data)
    expect(plan.classification?.breaks).toEqual([1, 20.5, 40])
    expect(plan.classification?.counts).toEqual([4, 0])
    const last = choropleth.years?.to(first, data, 2020) ?? settings
    expect(choropleth.plan(last, data).classification?.breaks).toEqual([1, 20.5, 40])
    expect(textOf(choropleth.sentence(last, data))).toContain('equal intervals over all years')
    const own = choropleth.years?.together(settings, false) ?? settings
    const each = choropleth.years?.to(own, data, 2010) ?? settings
    expect(choropleth.plan(each, data).classification?.breaks).toEqual([1, 2.5, 4])
    // So do those of rates, though one year has no denominator of its own.
    const rates = { ...settings, per: 'people_2020', overYears: true }
    const rated = [2010, 2015, 2020].map((year) => inYear(rates, dataset, year))
    const breaks = rated.map((one) => choropleth.plan(one, data).classification?.breaks)
    expect(breaks[1]).toEqual(breaks[0])
    expect(breaks[2]).toEqual(breaks[0])
    // What is tried out on the bench is tried on the same values.
    expect(choropleth.classification(plan, first, data, 0)?.pool?.values).toHaveLength(12)
    expect(choropleth.classification(plan, each, data, 0)?.pool).toBeNull()
  })

  it('keeps the sizes of symbols and their colours over the years', () => {
    const ends = { by: 'ends' as const, smallestMm: 1, largestMm: 9 }
    const sized = { ...symbols.initial(data), field: 'loans_2020', anchor: ends }
    const coloured = {
      ...sized,
      colour: {
        ...settings,
        by: 'value' as const,
        colouring: Colouring.parse({ scheme: 'reed', reversed: false }),
      },
    }
    const before = symbols.years?.to(coloured, data, 2010) ?? coloured
    expect(before.colour).toMatchObject({ field: 'loans_2010', overYears: true })
    const [small, large] = [before, symbols.years?.to(before, data, 2020) ?? before].map((one) =>
      symbols.plan(one, data),
    )
    expect(small.sizes[0]).toBeCloseTo(1, 9)
    expect(small.sizes[3]).toBeLessThan(large.sizes[0])
    expect(large.sizes[3]).toBeCloseTo(9, 9)
    expect(small.hues?.classification?.breaks).toEqual(large.hues?.classification?.breaks)
  })

  it('tells the values of a feature in all years, what is missing as such', () => {
    expect(choropleth.years?.valuesOf(settings, data, 3)).toEqual([
      { year: 2010, value: 4 },
      { year: 2015, value: NaN },
      { year: 2020, value: 40 },
    ])
  })
})

describe('the maps of the demo', () => {
  it('step through all years of library loans with one set of breaks', () => {
    const { folio, datasets } = openDemo()
    const layer = folio.maps[0].layers.find(({ symbology }) => symbology.kind === 'choropleth')
    const prepared = layer && datasets.get(layer.datasetId)
    if (!layer || !prepared) throw new Error('The demo begins with a choropleth.')
    const kind = kindOf('choropleth')
    const own: KindData = { ...prepared, name: prepared.entry.name }
    const computed = { ...(layer.symbology.settings as object), method: 'quantile' }
    const years = kind.years?.of(computed, own)?.years ?? []
    expect(years).toHaveLength(16)
    const breaks = years.map(({ year }) => {
      const next = kind.years?.to(computed, own, year)
      return JSON.stringify(choropleth.plan(next as typeof settings, own).classification?.breaks)
    })
    expect(new Set(breaks).size).toBe(1)
  })
})
