import { describe, expect, it } from 'vitest'
import { numberColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { lab } from 'd3-color'
import type { KindData } from '../kind'
import { bivariate } from '.'
import { fadingColours, squareColours, squareIds, squares, suppressingColours } from './palettes'
import type { BivariateSettings } from './spec'

const dataset: Dataset = {
  rowCount: 9,
  geometry: {
    kind: 'areas',
    arcs: { coords: new Float64Array(0), starts: Uint32Array.of(0) },
    refs: new Int32Array(0),
    ringStarts: Uint32Array.of(0),
    polygonStarts: Uint32Array.of(0),
    featureStarts: new Uint32Array(10),
  },
  fields: [
    { key: 'loans', column: numberColumn([1, 2, 3, 4, 5, 6, 7, 8, null]) },
    { key: 'income', column: numberColumn([10, 80, 20, 70, 30, 60, 40, 50, 45]) },
  ],
}
const data: KindData = {
  dataset,
  name: 'Districts',
  fieldMeta: (key) => ({ label: key, unit: '', role: 'rate' }),
  datasetOf: () => null,
  datasetIds: [],
}
const initial = bivariate.initial(data)
const by = (change: Partial<BivariateSettings>): BivariateSettings => ({
  ...initial,
  across: { ...initial.across, field: 'loans', method: 'manual', manualBreaks: [3, 6] },
  up: { ...initial.up, field: 'income', method: 'manual', manualBreaks: [40] },
  ...change,
})
const cautionOf = (of: BivariateSettings, from: KindData) =>
  bivariate.caution(bivariate.plan(of, from), of, from)

describe('two fields together', () => {
  it('give each area the cell of both its classes, and none where one is missing', () => {
    const plan = bivariate.plan(by({}), data)
    // Three classes across, two up; cells are counted from the low row.
    expect(plan.cells.map((row) => row.length)).toEqual([3, 3])
    expect([...plan.cellOf]).toEqual([0, 3, 1, 4, 1, 5, 5, 5, -1])
    expect(plan.missingCount).toBe(1)
  })

  it('tell what lies outside breaks set by hand, and what is set aside of either', () => {
    const aside = { id: 'x', from: 80, to: 80, colour: '#000000', hatched: false, label: 'eighty' }
    const settings = by({})
    const plan = bivariate.plan({ ...settings, up: { ...settings.up, setAside: [aside] } }, data)
    expect(plan.cellOf[1]).toBe(-3)
    expect(
      bivariate
        .legend(plan, { ...settings, up: { ...settings.up, setAside: [aside] } }, data, null)
        .items.map(({ label }) => label),
    ).toEqual(['eighty', 'no data'])
  })

  it('are shown on the bench one after the other, with the colours of the sides', () => {
    const settings = by({})
    const plan = bivariate.plan(settings, data)
    const [across, up] = bivariate
      .classings(settings)
      .map((_, which) => bivariate.classification(plan, settings, data, which))
    expect(across).toMatchObject({ heading: 'loans', colours: plan.cells[0], result: { counts: [2, 3, 3] } })
    expect(up).toMatchObject({
      heading: 'income',
      colours: [plan.cells[0][0], plan.cells[1][0]],
      result: { counts: [3, 6] },
    })
  })

  it('read as a sentence that names both and what they do', () => {
    const words = (form: BivariateSettings['form']) =>
      bivariate
        .sentence(by({ form }), data)
        .map(({ text }) => text)
        .join('')
    expect(words('square')).toBe(
      'Shade districts by loans as it is and income as it is, three by two classes, coloured Moss and slate.',
    )
    expect(words('suppressing')).toContain('the vaguer the higher income')
  })

  it('warn where either is a total, and divide that one', () => {
    const totals: KindData = {
      ...data,
      fieldMeta: (key) => ({ label: key === 'loans' ? 'Population' : 'Loans', unit: '', role: 'total' }),
    }
    const settings = by({ across: { ...by({}).across, per: 'income' } })
    expect(cautionOf(settings, totals)?.remedies[0].settings).toMatchObject({
      across: { per: 'income' },
      up: { per: 'loans' },
    })
  })
})

describe('palettes of two variables', () => {
  it('are the published ones with three classes to a side', () => {
    for (const id of squareIds) expect(squareColours(id, 3, 3)).toEqual(squares[id].grid)
  })

  it('keep their corners with any number of classes, and have as many colours as cells', () => {
    for (const id of squareIds)
      for (const [columns, rows] of [
        [2, 2],
        [4, 4],
        [2, 4],
        [1, 3],
      ]) {
        const cells = squareColours(id, columns, rows)
        expect(cells[0][0]).toBe(squares[id].grid[0][0])
        if (columns > 1 && rows > 1) expect(cells[rows - 1][columns - 1]).toBe(squares[id].grid[2][2])
        expect(new Set(cells.flat()).size).toBe(columns * rows)
      }
  })

  it('fade into the ground where the second variable is low', () => {
    const cells = fadingColours(
      { scheme: 'inlet', ramp: null, reversed: false, trim: [0, 1] },
      '#ffffff',
      3,
      3,
    )
    for (const column of [0, 1, 2]) {
      const lightness = cells.map((row) => lab(row[column]).l)
      lightness.slice(1).forEach((l, i) => expect(l).toBeLessThan(lightness[i]))
    }
  })

  it('suppress uncertain values: half as many colours with every row, one in the last', () => {
    const cells = suppressingColours({ scheme: 'inlet', ramp: null, reversed: false, trim: [0, 1] }, 4)
    expect(cells.map((row) => row.length)).toEqual([8, 4, 2, 1])
    const chroma = cells.map((row) =>
      Math.max(...row.map((colour) => Math.hypot(lab(colour).a, lab(colour).b))),
    )
    chroma.slice(1).forEach((c, i) => expect(c).toBeLessThan(chroma[i]))
    // Two classes of a certain value become one of an uncertain one.
    const plan = bivariate.plan(
      by({ form: 'suppressing', across: { ...by({}).across, method: 'equal-interval', rounded: false } }),
      data,
    )
    expect(plan.cells.map((row) => row.length)).toEqual([2, 1])
    expect([...plan.cellOf.slice(0, 8)]).toEqual([0, 2, 0, 2, 1, 2, 2, 2])
  })
})
