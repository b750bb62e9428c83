import { describe, expect, it } from 'vitest'
import { numberColumn, numbersOf, textColumn } from './column'
import type { Dataset } from './dataset'
import { makeEntry, plainSource, type DatasetEntry } from './entry'
import { prepareDatasets } from './prepare'
import { rowName } from './row-names'

const areas: Dataset = {
  rowCount: 3,
  geometry: { kind: 'none' },
  fields: [
    { key: 'code', column: textColumn(['A', 'B', 'C']) },
    { key: 'pop', column: numberColumn([1, 2, 3]) },
  ],
}
const table: Dataset = {
  rowCount: 2,
  geometry: { kind: 'none' },
  fields: [
    { key: 'id', column: textColumn(['B', 'A']) },
    { key: 'pop', column: numberColumn([20, 10]) },
    { key: 'loans', column: numberColumn([7, 8]) },
  ],
}
const contents = (id: string): Dataset | null => ({ areas, table })[id] ?? null

const entry = (id: string, steps: DatasetEntry['steps'] = []): DatasetEntry =>
  makeEntry({
    id,
    name: id,
    geometry: 'none',
    source: plainSource(id, '', ''),
    steps,
  })
const join = (
  datasetId: string,
  more: { on?: boolean; settings?: object } = {},
): DatasetEntry['steps'][number] => ({
  type: 'join',
  id: 'j',
  on: true,
  ...more,
  settings: {
    datasetId,
    keys: [{ key: 'code', otherKey: 'id' }],
    mended: {},
    accepts: [],
    several: 'first',
    figures: [],
    ...more.settings,
  },
})

describe('preparing datasets', () => {
  it('joins the rows of a table; a field whose name is taken gets a number', () => {
    const prepared = prepareDatasets([entry('areas', [join('table')]), entry('table')], contents).get('areas')
    expect(prepared?.dataset.fields.map((f) => f.key)).toEqual(['code', 'pop', 'pop_2', 'loans'])
    expect([...numbersOf(prepared?.dataset.fields[3].column ?? numberColumn([]))]).toEqual([8, 7, NaN])
    expect(areas.fields).toHaveLength(2)
  })

  it('takes the name and unit of a joined field from where it comes from', () => {
    const named = {
      ...entry('table'),
      fields: { loans: { label: 'Books lent', unit: 'loans', role: 'total' as const } },
    }
    const prepared = prepareDatasets([entry('areas', [join('table')]), named], contents).get('areas')
    expect(prepared?.fieldMeta('loans').label).toBe('Books lent')
    expect(prepared?.fieldMeta('pop_2').label).toBe('Population 2')
  })

  it('leaves out a step that is off, and one whose table is gone', () => {
    const keys = (steps: DatasetEntry['steps']) =>
      prepareDatasets([entry('areas', steps), entry('table')], contents)
        .get('areas')
        ?.dataset.fields.map((f) => f.key)
    expect(keys([join('table', { on: false })])).toEqual(['code', 'pop'])
    expect(keys([join('lost')])).toEqual(['code', 'pop'])
  })

  it('does not run in circles', () => {
    const prepared = prepareDatasets(
      [
        entry('areas', [join('table')]),
        entry('table', [join('areas', { settings: { keys: [{ key: 'id', otherKey: 'code' }] } })]),
      ],
      contents,
    )
    expect(prepared.get('areas')?.dataset.rowCount).toBe(3)
    expect(prepared.get('table')?.dataset.rowCount).toBe(2)
  })

  it('names rows by their name, else their code, else their number', () => {
    const prepared = prepareDatasets([entry('areas')], contents).get('areas')
    expect(prepared && rowName(prepared, 1)).toBe('B')
    const plain = prepareDatasets([entry('x')], () => ({
      rowCount: 2,
      geometry: { kind: 'none' },
      fields: [{ key: 'n', column: numberColumn([4, 5]) }],
    })).get('x')
    expect(plain && rowName(plain, 1)).toBe('2')
  })
})
