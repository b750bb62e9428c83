import { describe, expect, it } from 'vitest'
import { classIndex, classify, computedIds } from '@/core/classify/classify'
import { fieldOf } from '../dataset'
import { numbersOf } from '../column'
import { after, column, demo, problemOf, tableOf, towns } from './step-testing'

const districts = demo.datasets.get('districts')

describe('classify into a field', () => {
  const values = tableOf({ share: [1, 2, 3, 10, 11, 12, null, 50] })

  it('writes ranges in words or numbers from the lowest, and leaves missing ones out', () => {
    const settings = { field: 'share', method: 'quantile', classes: 2, rounded: false }
    const words = after(values, [['classify', settings]])
    expect(new Set(column(words, 'class'))).toEqual(new Set(['under 10.5', '10.5 and over', null]))
    expect(words.reports[0]).toMatchObject({ note: 'Breaks at 10.5.', remark: '1 missing, in no class.' })
    expect(words.fieldMeta('class').role).toBe('category')
    const numbers = after(values, [['classify', { ...settings, written: 'numbers', label: 'Group' }]])
    expect(column(numbers, 'group')).toEqual([1, 1, 1, 1, 2, 2, null, 2])
  })

  it('puts every district in the class that the bench does, by every method that needs no areas', () => {
    if (!districts) throw new Error('The districts are there.')
    const { dataset } = districts
    const field = dataset.fields.find(({ column: c }) => c.kind === 'number' && c.values.some((v) => v % 1))
    if (!field) throw new Error('There is a field of fractions.')
    const numbers = numbersOf(field.column)
    for (const method of computedIds.filter((id) => id !== 'equal-area' && id !== 'boundary-error')) {
      const prepared = after(dataset, [
        ['classify', { field: field.key, method, classes: 4, rounded: true, written: 'numbers' }],
      ])
      const expected = classify(numbers, { method, classes: 4, rounded: true })
      const own = fieldOf(prepared.dataset, 'class')
      expect(own && Array.from(numbersOf(own))).toEqual(
        Array.from(numbers, (v) => {
          const i = classIndex(expected?.breaks ?? [], v)
          return i < 0 ? NaN : i + 1
        }),
      )
    }
  })

  it('says what it cannot do', () => {
    const areas = { field: 'people', method: 'equal-area' }
    expect(problemOf(after(towns, [['classify', areas]]))).toContain('Only areas')
    const equal = after(tableOf({ v: [2, 2, 2] }), [['classify', { field: 'v' }]])
    expect(equal.reports[0].remark).toContain('All values are equal')
    const empty = tableOf({ v: [null, null], w: [1, 2] })
    expect(problemOf(after(empty, [['classify', { field: 'v' }]]))).toContain('no numbers')
  })
})
