import { describe, expect, it } from 'vitest'
import { groundAreas } from '@/core/geo/measure'
import { seriesOf } from '../series'
import { fieldOf } from '../dataset'
import { numbersOf } from '../column'
import { after, square, tableOf } from './step-testing'
import { longForm } from './spread'

const states = ['Alb', 'Bren', 'Cal', 'Dor', 'Eld', 'Fen']
const rows = states.flatMap((state, s) =>
  [2023, 2024].flatMap((year, y) =>
    ['Loans', 'Readers'].map((indicator, i) => ({
      state,
      year,
      indicator,
      unit: i ? '% of adults' : 'persons',
      value: 100 * s + 10 * y + i,
    })),
  ),
)
const column = <K extends keyof (typeof rows)[number]>(key: K) => rows.map((row) => row[key])
const long = tableOf({
  state: column('state'),
  year: column('year'),
  indicator: column('indicator'),
  unit: column('unit'),
  value: column('value'),
})

describe('long to wide', () => {
  it('knows a table in long form: what it is of, what names the fields, and the values', () => {
    expect(longForm({ dataset: long, made: new Map() })).toEqual({
      keys: ['state'],
      names: ['indicator', 'year'],
      values: 'value',
    })
    const wide = tableOf({ state: states, a: [1, 2, 3, 4, 5, 6], b: [6, 5, 4, 3, 2, 1] })
    expect(longForm({ dataset: wide, made: new Map() })).toBeNull()
  })

  it('gives a row for each key and a field for each name, with its unit and role', () => {
    const { dataset, fieldMeta } = after(long, [['long-to-wide', {}]])
    expect(dataset.rowCount).toBe(6)
    expect(dataset.fields.map(({ key }) => key)).toEqual([
      'state',
      'Loans 2023',
      'Loans 2024',
      'Readers 2023',
      'Readers 2024',
    ])
    expect([...numbersOf(fieldOf(dataset, 'Readers 2024') as never)]).toEqual([11, 111, 211, 311, 411, 511])
    expect(fieldMeta('Readers 2024')).toMatchObject({ unit: '%', role: 'share', note: '% of adults' })
    expect(fieldMeta('Loans 2023')).toMatchObject({ unit: 'persons', role: 'total' })
  })

  it('says what stands twice, and keeps the first', () => {
    const twice = tableOf({ k: ['a', 'a', 'b'], n: ['x', 'x', 'x'], v: [1, 2, 3] })
    const { dataset, reports } = after(twice, [['long-to-wide', { keys: ['k'], names: ['n'], values: 'v' }]])
    expect([...numbersOf(fieldOf(dataset, 'x') as never)]).toEqual([1, 3])
    expect(JSON.stringify(reports)).toContain('1 value has the same key and name as one before')
  })

  it('goes back by wide to long, shapes going along', () => {
    const areas = tableOf({ name: ['A', 'B'], y1: [1, 2], y2: [3, null] }, [square(0, 0), square(1, 0)])
    const { dataset } = after(areas, [['wide-to-long', { fields: ['y1', 'y2'], name: 'year', value: 'n' }]])
    expect(dataset.rowCount).toBe(4)
    expect([...numbersOf(fieldOf(dataset, 'n') as never)]).toEqual([1, 3, 2, NaN])
    const sizes = groundAreas(dataset.geometry)
    expect(sizes[0]).toBe(sizes[1])
    const back = after(dataset, [['long-to-wide', { keys: ['name'], names: ['year'], values: 'n' }]])
    expect(back.dataset.fields.map(({ key }) => key)).toEqual(['name', 'y1', 'y2'])
    expect([...numbersOf(fieldOf(back.dataset, 'y2') as never)]).toEqual([3, NaN])
  })
})

describe('series', () => {
  const wide = tableOf({
    name: ['A', 'B'],
    loans_2023: [10, 20],
    loans_2024: [15, 10],
    loans_2026: [30, 40],
    other_2024: [1, 1],
  })

  it('are fields of numbers whose keys differ by the year alone', () => {
    expect(seriesOf(wide.fields, 'loans_2024')).toEqual({
      label: 'loans',
      years: [
        { year: 2023, key: 'loans_2023' },
        { year: 2024, key: 'loans_2024' },
        { year: 2026, key: 'loans_2026' },
      ],
    })
    expect(seriesOf(wide.fields, 'other_2024')).toBeNull()
    expect(seriesOf(wide.fields, 'name')).toBeNull()
  })

  it('have running figures: change, index, share, mean', () => {
    const figures = (change: object) => {
      const { dataset } = after(wide, [['running', { field: 'loans_2024', base: 2023, years: 2, ...change }]])
      return dataset.fields.slice(wide.fields.length).map(({ column: made }) => [...numbersOf(made)])
    }
    // 2026 has no year before it.
    expect(figures({ figure: 'change' })).toEqual([[5, -10]])
    expect(figures({ figure: 'change-percent' })).toEqual([[50, -50]])
    expect(figures({ figure: 'index' })).toEqual([
      [100, 100],
      [150, 50],
      [300, 200],
    ])
    expect(figures({ figure: 'share' })[1]).toEqual([60, 40])
    expect(figures({ figure: 'mean' })).toEqual([[12.5, 15]])
  })
})
