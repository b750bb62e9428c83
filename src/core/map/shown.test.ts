import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { formOf } from '@/core/data/dataset'
import { filterProblem, shown } from './shown'

const { datasets } = openDemo()
const preparedOf = (id: string) => {
  const dataset = datasets.get(id)
  if (!dataset) throw new Error(`There is no dataset ${id}.`)
  return dataset
}

describe('the filter of a layer', () => {
  const districts = preparedOf('districts')
  it('keeps the rows for which it is true, and their shapes', () => {
    const some = shown({ filter: 'population > 50000' }, districts)
    const values = some.dataset.fields.find(({ key }) => key === 'population')?.column
    expect(some.dataset.rowCount).toBeGreaterThan(0)
    expect(some.dataset.rowCount).toBeLessThan(164)
    expect(values?.kind === 'number' && values.values.every((n) => n > 50_000)).toBe(true)
    expect(formOf(some.dataset)).toBe('areas')
    expect(shown({ filter: 'population > 50000' }, districts)).toBe(some)
    expect(shown({ filter: ' ' }, districts)).toBe(districts)
  })
  it('keeps all rows and says why where it cannot be used', () => {
    expect(shown({ filter: 'people > 3' }, districts)).toBe(districts)
    expect(filterProblem({ filter: 'people > 3' }, districts)).toBe('There is no field “people”.')
    expect(filterProblem({ filter: '' }, districts)).toBeNull()
  })
})
