import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { schemeColours } from '@/core/colour/schemes'
import type { KindData } from '../kind'
import { choropleth } from '.'

const dataset: Dataset = {
  rowCount: 6,
  geometry: { kind: 'areas', arcs: { coords: new Float64Array(0), starts: Uint32Array.of(0) }, refs: new Int32Array(0), ringStarts: Uint32Array.of(0), polygonStarts: Uint32Array.of(0), featureStarts: new Uint32Array(7) },
  fields: [
    { key: 'code', column: textColumn(['a', 'b', 'c', 'd', 'e', 'f']) },
    { key: 'lib_loans', column: numberColumn([10, 40, 90, null, 500, 600]) },
    { key: 'population', column: numberColumn([10, 20, 30, 40, 0, 100]) },
  ],
}
const data: KindData = { dataset, name: 'Districts', fieldMeta: (key) => { const column = dataset.fields.find((f) => f.key === key)?.column; return column ? proposeMeta(key, column) : { label: key, unit: '', role: 'total' } } }
const settings = { ...choropleth.initial(data), field: 'lib_loans', per: 'population' as string | null, method: 'manual' as const, manualBreaks: [1.5, 2.5], rounded: false }
const plan = choropleth.plan(settings, data)

describe('the plan', () => {
  it('gives each feature the class of its rate; missing values and zero denominators get none', () => {
    expect([...plan.values]).toEqual([1, 2, 3, NaN, NaN, 6])
    expect([...plan.classOf]).toEqual([0, 1, 2, -1, -1, 2])
    expect(plan.missingCount).toBe(2)
    expect(plan.colours).toEqual(schemeColours('reed', 3))
  })

  it('counts for so many of the denominator', () => {
    expect([...choropleth.plan({ ...settings, perCount: 1000, manualBreaks: [1500] }, data).values].slice(0, 3)).toEqual([1000, 2000, 3000])
  })

  it('stands on its feet without a field', () => {
    const lost = choropleth.plan({ ...settings, field: 'gone' }, data)
    expect([...lost.classOf]).toEqual([-1, -1, -1, -1, -1, -1])
    expect(choropleth.legend(lost, settings, data).items.map((item) => item.key)).toEqual(['missing'])
  })
})

describe('the legend', () => {
  it('has a line for each class in the colours of the map, and one for what is missing', () => {
    const { heading, items } = choropleth.legend(plan, settings, data)
    expect(heading).toBe('Library loans per resident')
    expect(items.map((item) => item.label)).toEqual(['under 1.5', '1.5 to 2.5', '2.5 and over', 'no data'])
    expect(items.slice(0, 3).map((item) => item.swatch.fill)).toEqual(plan.colours.map((colour) => ({ type: 'solid', colour })))
    expect(items[3].swatch.fill?.type).toBe('hatch')
  })

  it('names the unit of a field that is not divided', () => {
    expect(choropleth.legend(plan, { ...settings, field: 'population', per: null }, data).heading).toBe('Population (persons)')
  })
})

describe('the sentence', () => {
  it('reads aloud what the map shows', () => {
    expect(choropleth.sentence(settings, data).map((part) => part.text).join('')).toBe('Shade districts by library loans per resident in three classes by breaks set by hand, coloured Reed.')
    expect(choropleth.sentence({ ...settings, per: null, method: 'quantile', classes: 5 }, data).map((part) => part.text).join('')).toBe('Shade districts by library loans as it is in five classes by quantiles, coloured Reed.')
  })
})

describe('what it warns of and tells', () => {
  it('warns of totals and of nothing else', () => {
    expect(choropleth.caution({ ...settings, per: null }, data)).toContain('large areas will win')
    expect(choropleth.caution(settings, data)).toBeNull()
  })

  it('tells value, class and rank of a feature', () => {
    expect(choropleth.read(plan, settings, data, 2)).toEqual({ value: '3.00 loans per resident', detail: 'class 3 of 3 · rank 2 of 4' })
    expect(choropleth.read(plan, settings, data, 3)).toEqual({ value: 'missing', detail: 'no value' })
  })

  it('first proposes a rate, share or index rather than a total', () => {
    const richer = { ...data, dataset: { ...dataset, fields: [...dataset.fields, { key: 'visits_per_head', column: numberColumn([1, 2, 3, 4, 5, 6]) }] }, fieldMeta: (key: string) => proposeMeta(key, numberColumn([1, 2])) }
    expect(choropleth.initial(richer).field).toBe('visits_per_head')
  })
})
