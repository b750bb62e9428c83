import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { schemeColours } from '@/core/colour/schemes'
import type { KindData } from '../kind'
import { choropleth } from '.'

const dataset: Dataset = {
  rowCount: 6,
  geometry: {
    kind: 'areas',
    arcs: { coords: new Float64Array(0), starts: Uint32Array.of(0) },
    refs: new Int32Array(0),
    ringStarts: Uint32Array.of(0),
    polygonStarts: Uint32Array.of(0),
    featureStarts: new Uint32Array(7),
  },
  fields: [
    { key: 'code', column: textColumn(['a', 'b', 'c', 'd', 'e', 'f']) },
    { key: 'lib_loans', column: numberColumn([10, 40, 90, null, 500, 600]) },
    { key: 'population', column: numberColumn([10, 20, 30, 40, 0, 100]) },
  ],
}
const data: KindData = {
  dataset,
  name: 'Districts',
  fieldMeta: (key) => {
    const column = dataset.fields.find((f) => f.key === key)?.column
    return column ? proposeMeta(key, column) : { label: key, unit: '', role: 'total' }
  },
  datasetOf: (id) => (id === 'districts' ? dataset : null),
  datasetIds: [],
}
const settings = {
  ...choropleth.initial(data),
  field: 'lib_loans',
  per: 'population' as string | null,
  method: 'manual' as const,
  manualBreaks: [1.5, 2.5],
  rounded: false,
}
const plan = choropleth.plan(settings, data)
const cautionOf = (of: typeof settings, from: KindData) =>
  choropleth.caution(choropleth.plan(of, from), of, from)

describe('the plan', () => {
  it('gives each feature the class of its rate; missing values and zero denominators get none', () => {
    expect([...plan.values]).toEqual([1, 2, 3, NaN, NaN, 6])
    expect([...plan.classOf]).toEqual([0, 1, 2, -1, -1, 2])
    expect(plan.missingCount).toBe(2)
    expect(plan.colours).toEqual(schemeColours('meadow', 3))
  })

  it('counts for so many of the denominator', () => {
    expect(
      [...choropleth.plan({ ...settings, perCount: 1000, manualBreaks: [1500] }, data).values].slice(0, 3),
    ).toEqual([1000, 2000, 3000])
  })

  it('stands on its feet without a field', () => {
    const lost = choropleth.plan({ ...settings, field: 'gone' }, data)
    expect([...lost.classOf]).toEqual([-1, -1, -1, -1, -1, -1])
    expect(choropleth.legend(lost, settings, data, null).items.map((item) => item.key)).toEqual(['missing'])
  })
})

describe('the legend', () => {
  it('has a line for each class in the colours of the map, and one for what is missing', () => {
    const { heading, items } = choropleth.legend(plan, settings, data, null)
    expect(heading).toBe('Library loans per resident')
    expect(items.map((item) => item.label)).toEqual(['under 1.5', '1.5 to 2.5', '2.5 and over', 'no data'])
    expect(items.slice(0, 3).map((item) => item.swatch.fill)).toEqual(
      plan.colours.map((colour) => ({ type: 'solid', colour })),
    )
    expect(items[3].swatch.fill?.type).toBe('hatch')
  })

  it('names the unit of a field that is not divided', () => {
    expect(choropleth.legend(plan, { ...settings, field: 'population', per: null }, data, null).heading).toBe(
      'Population (persons)',
    )
  })
})

describe('the sentence', () => {
  it('reads aloud what the map shows', () => {
    expect(
      choropleth
        .sentence(settings, data)
        .map((part) => part.text)
        .join(''),
    ).toBe(
      'Shade districts by library loans per resident in three classes by breaks set by hand, coloured Meadow.',
    )
    expect(
      choropleth
        .sentence({ ...settings, per: null, method: 'quantile', classes: 5 }, data)
        .map((part) => part.text)
        .join(''),
    ).toBe('Shade districts by library loans as it is in five classes by quantiles, coloured Meadow.')
  })
})

describe('a map without classes', () => {
  it('gives each value a shade by its size, and a continuous bar with round values', () => {
    const smooth = { ...settings, per: null, unclassed: 'linear' as const }
    const own = choropleth.plan(smooth, data)
    const [least, , middle, missing, , most] = [...own.classOf]
    expect([least, missing, most]).toEqual([0, -1, own.colours.length - 1])
    expect(middle).toBe(Math.floor(((90 - 10) / 590) * own.colours.length))
    const { items } = choropleth.legend(own, smooth, data, null)
    expect(items.map(({ label }) => label)).toEqual(['100', '200', '300', '400', '500', 'no data'])
    expect(items[0].swatch).toMatchObject({ shape: 'ramp' })
    // One piece ends in the shade in which the next begins.
    expect(items[0].swatch.colours?.at(-1)).toBe(items[1].swatch.colours?.[0])
    expect(
      choropleth
        .sentence(smooth, data)
        .map(({ text }) => text)
        .join(''),
    ).toBe('Shade districts by library loans as it is without classes on a linear scale, coloured Meadow.')
    expect(choropleth.read(own, smooth, data, 5)?.detail).toBe('rank 1 of 5')
    expect(choropleth.classification(own, smooth, data, 0)).toMatchObject({
      labels: ['10 to 600'],
      result: { counts: [5] },
    })
  })
})

describe('values that are not reliable', () => {
  const withError = {
    ...data,
    dataset: {
      ...dataset,
      fields: [
        ...dataset.fields,
        { key: 'moe', column: numberColumn([1, 30, 9, 5, 1, 200]) },
        { key: 'cv', column: numberColumn([2, 40, 2, 2, 2, 30]) },
      ],
    },
  }
  const own = {
    ...settings,
    per: null,
    manualBreaks: [45, 300],
    uncertainty: { field: 'moe', measure: 'margin' as const, over: 20, show: 'hatch' as const },
  }

  it('are those whose margin is too large a share of the value; missing ones are not among them', () => {
    const unsure = choropleth.plan(own, withError)
    expect([...(unsure.unreliable ?? [])]).toEqual([0, 1, 0, 0, 0, 1])
    expect([
      ...(choropleth.plan(
        { ...own, uncertainty: { ...own.uncertainty, measure: 'variation', field: 'cv' } },
        withError,
      ).unreliable ?? []),
    ]).toEqual([0, 1, 0, 0, 0, 1])
    expect(choropleth.plan({ ...own, uncertainty: null }, withError).unreliable).toBeNull()
  })

  it('are counted where they reach over a break, and have a line in the legend', () => {
    // 40 ± 30 reaches over 45; 90 ± 9 over none; 600 ± 200 over none, 500 ± 1 neither.
    const unsure = choropleth.plan(own, withError)
    expect(unsure.mayMove).toBe(1)
    expect(choropleth.legend(unsure, own, withError, null).items.map(({ label }) => label)).toContain(
      'error over 20 %',
    )
    expect(choropleth.showField?.(own, 'population').uncertainty).toBeNull()
  })
})

describe('two sides and values set aside', () => {
  it('take colours outwards from the middle of the scheme', () => {
    const change = {
      ...data,
      dataset: { ...dataset, fields: [{ key: 'change', column: numberColumn([-5, 1, 2, 3, 4, 5]) }] },
    }
    const two = choropleth.plan(
      {
        ...settings,
        field: 'change',
        per: null,
        method: 'quantile',
        classes: 4,
        midpoint: { at: 'zero', value: 0 },
        scheme: 'bark and reed',
      },
      change,
    )
    // One class below, as many as there are values for; two above.
    expect(two.classification?.middle?.below).toBe(1)
    expect(two.colours).toEqual(schemeColours('bark and reed', 4).slice(1))
  })

  it('have their own class, colour and line in the legend', () => {
    const apart = {
      ...settings,
      per: null,
      setAside: [{ id: 'x', from: 500, to: 700, colour: '#eeeeee', hatched: true, label: 'huge' }],
    }
    const own = choropleth.plan(apart, data)
    expect([...own.classOf].slice(4)).toEqual([-3, -3])
    expect(choropleth.legend(own, apart, data, null).items.at(-2)).toMatchObject({
      label: 'huge',
      swatch: { fill: { type: 'hatch', colour: '#eeeeee' } },
    })
    expect(choropleth.read(own, apart, data, 5)?.detail).toBe('set aside: huge')
  })
})

describe('what it warns of and tells', () => {
  it('warns of totals and of nothing else', () => {
    const caution = cautionOf({ ...settings, per: null }, data)
    expect(caution?.words).toContain('large areas will win')
    expect(caution?.remedies.map(({ label, settings: s }) => [label, s.per])).toEqual([
      ['per resident', 'population'],
    ])
    expect(cautionOf(settings, data)).toBeNull()
  })

  it('tells value, class and rank of a feature', () => {
    expect(choropleth.read(plan, settings, data, 2)).toEqual({
      value: '3.00 loans per resident',
      detail: 'class 3 of 3 · rank 2 of 4',
    })
    expect(choropleth.read(plan, settings, data, 3)).toEqual({ value: 'missing', detail: 'no value' })
  })

  it('first proposes a rate, share or index rather than a total', () => {
    const richer = {
      ...data,
      dataset: {
        ...dataset,
        fields: [...dataset.fields, { key: 'visits_per_head', column: numberColumn([1, 2, 3, 4, 5, 6]) }],
      },
      fieldMeta: (key: string) => proposeMeta(key, numberColumn([1, 2])),
    }
    expect(choropleth.initial(richer).field).toBe('visits_per_head')
  })
})
