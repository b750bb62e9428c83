import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { firstLayer } from './first-map'

const { datasets } = openDemo()
const prepared = (id: string) => {
  const dataset = datasets.get(id)
  if (!dataset) throw new Error(`The demo has no ${id}.`)
  return dataset
}
const kind = (id: string, plainly = false) => firstLayer(prepared(id), () => 'id', plainly).symbology.kind

describe('a new layer', () => {
  it('shows a dataset by the kind that suits what is in it', () => {
    expect([kind('districts'), kind('towns'), kind('routes'), kind('relief'), kind('between')]).toEqual([
      'choropleth',
      'symbols',
      'lines',
      'relief',
      'flows',
    ])
  })

  it('is plain where it is asked to be, or where there is nothing but names', () => {
    expect(kind('districts', true)).toBe('plain')
    const bare = {
      ...prepared('towns'),
      dataset: {
        ...prepared('towns').dataset,
        fields: prepared('towns').dataset.fields.filter(({ key }) => key === 'name'),
      },
    }
    expect(firstLayer(bare, () => 'id').symbology.kind).toBe('plain')
    const readers = prepared('readers')
    const many = { ...readers, dataset: { ...readers.dataset, fields: [] } }
    expect(firstLayer(many, () => 'id').symbology.kind).toBe('density')
    // A hundred thousand symbols would hide each other, whatever they are sized by.
    expect(readers.dataset.fields.some(({ column }) => column.kind === 'number')).toBe(true)
    expect(firstLayer(readers, () => 'id').symbology.kind).toBe('density')
  })
})
