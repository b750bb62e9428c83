import { describe, expect, it } from 'vitest'
import { arcNeighbours, type Areas } from '@/core/geo/geometry'
import { groundAreas, groundLengths } from '@/core/geo/measure'
import { numberColumn, numbersOf } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import { type Prepared } from '../prepare'
import { demo, tableOf, after, column } from './step-testing'

describe('merge', () => {
  const districts = demo.contents.get(
    demo.folio.datasets.find((d) => d.id === 'districts')?.source.contentId ?? '',
  ) as Dataset
  const returns = demo.contents.get(
    demo.folio.datasets.find((d) => d.id === 'returns')?.source.contentId ?? '',
  ) as Dataset

  it('keeps the total area to 1e-9 and leaves only borders between groups', () => {
    const prepared = after(districts, [['merge', { by: ['province'], figures: [] }]])
    expect(prepared.dataset.rowCount).toBe(9)
    const total = (areas: Float64Array) => areas.reduce((a, b) => a + b, 0)
    expect(
      total(groundAreas(prepared.dataset.geometry)) / total(groundAreas(districts.geometry)),
    ).toBeCloseTo(1, 9)
    const before = arcNeighbours(districts.geometry as Areas)
    const merged = prepared.dataset.geometry as Areas
    const inner = arcNeighbours(merged)
    expect([...inner].filter((s, i) => i % 2 === 1 && s >= 0).length).toBeLessThan(
      [...before].filter((s, i) => i % 2 === 1 && s >= 0).length,
    )
  })

  it('gives every figure that was asked for', () => {
    const prepared = after(
      tableOf({ g: ['a', 'b', 'a'], n: [1, 5, 3], w: [1, 1, 3], word: ['x', 'y', 'z'] }),
      [
        [
          'summarise',
          {
            by: ['g'],
            figures: (['sum', 'mean', 'weighted mean', 'minimum', 'maximum', 'first', 'count'] as const).map(
              (op) => ({ field: 'n', op, weight: 'w' }),
            ),
          },
        ],
      ],
    )
    expect(prepared.dataset.fields.map((f) => [f.key, column(prepared, f.key)])).toEqual([
      ['g', ['a', 'b']],
      ['n', [4, 5]],
      ['n_mean', [2, 5]],
      ['n_weighted_mean', [2.5, 5]],
      ['n_minimum', [1, 5]],
      ['n_maximum', [3, 5]],
      ['n_first', [1, 5]],
      ['n_count', [2, 1]],
    ])
  })

  it('totals of groups add up to the total', () => {
    const prepared = after(returns, [
      [
        'summarise',
        { by: ['main_lending_format'], figures: [{ field: 'population', op: 'sum', weight: null }] },
      ],
    ])
    const total = (p: Prepared | Dataset) =>
      numbersOf(fieldOf('dataset' in p ? p.dataset : p, 'population') ?? numberColumn([])).reduce(
        (a, b) => a + (b || 0),
        0,
      )
    const grouped = after(returns, [
      [
        'filter',
        {
          match: 'all',
          conditions: [{ field: 'main_lending_format', test: 'is there', value: '', upTo: '' }],
        },
      ],
    ])
    expect(total(prepared)).toBe(total(grouped))
  })

  it('makes one line of segments that meet end to end', () => {
    const line = (...coordinates: number[][]): GeoJSON.Geometry => ({ type: 'LineString', coordinates })
    const prepared = after(
      tableOf({ route: ['A', 'A', 'B', 'A'] }, [
        line([0, 0], [1, 0]),
        line([1, 0], [2, 1]),
        line([5, 5], [6, 6]),
        line([2, 1], [3, 1]),
      ]),
      [['merge', { by: ['route'], figures: [] }]],
    )
    const { geometry } = prepared.dataset
    if (geometry.kind !== 'lines') throw new Error('Lines stay lines.')
    expect([...geometry.featureStarts]).toEqual([0, 1, 2])
    expect(groundLengths(geometry)[0]).toBeGreaterThan(0)
  })
})
