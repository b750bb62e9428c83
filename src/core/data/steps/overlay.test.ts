import { describe, expect, it } from 'vitest'
import { groundAreas } from '@/core/geo/measure'
import { after, column, demo, problemOf, square, tableOf } from './step-testing'

const sum = (values: Iterable<number | string | null> | null | undefined): number =>
  [...(values ?? [])].reduce<number>((all, v) => all + (typeof v === 'number' ? v : 0), 0)

const land = tableOf({ name: ['West', 'East'], people: [100, 40], rate: [7, 9] }, [
  square(0, 0, 2),
  square(2, 0, 2),
])
const zones = tableOf({ zone: ['low', 'high'], wells: [8, 6] }, [
  {
    type: 'Polygon',
    coordinates: [
      [
        [1, -1],
        [3, -1],
        [3, 3],
        [1, 3],
        [1, -1],
      ],
    ],
  },
  square(3, 0, 0.5),
])
const settings = { datasetId: 'zones', shared: ['people'], otherShared: ['wells'] }

describe('overlay', () => {
  it('splits areas, shares totals out by ground area and copies all else', () => {
    const prepared = after(land, [['overlay', settings]], { zones })
    expect(column(prepared, 'name')).toEqual(['West', 'West', 'East', 'East', 'East'])
    expect(column(prepared, 'zone')).toEqual(['low', null, 'low', 'high', null])
    expect(column(prepared, 'rate')).toEqual([7, 7, 9, 9, 9])
    const people = column(prepared, 'people') as number[]
    expect(people[0]).toBeCloseTo(50, 9)
    expect(people[2]).toBeCloseTo(20, 9)
    expect(sum(people)).toBeCloseTo(140, 9)
    const sizes = groundAreas(prepared.dataset.geometry)
    const whole = groundAreas(zones.geometry)
    expect((column(prepared, 'wells') as number[])[0]).toBeCloseTo((8 * sizes[0]) / whole[0], 9)
    expect((column(prepared, 'wells') as number[])[3]).toBeCloseTo(6, 9)
    expect(column(prepared, 'share_of_area')?.[0]).toBeCloseTo(50, 9)
  })

  it('says what is lost when the rest goes, what is dropped, and what counts twice', () => {
    const inside = after(land, [['overlay', { ...settings, rest: false }]], { zones })
    expect(column(inside, 'zone')).toEqual(['low', 'low', 'high'])
    expect(inside.reports[0].remark).toMatch(/^Outside, and so no longer counted: 4\d % of People\.$/)
    const large = after(land, [['overlay', { ...settings, leastKm2: 5000 }]], { zones })
    expect(large.reports[0].remark).toContain('1 small piece was dropped')
    const twice = tableOf({ zone: ['a', 'b'] }, [square(0, 0, 2), square(0, 0, 2)])
    const doubled = after(land, [['overlay', { datasetId: 'twice', shared: ['people'] }]], { twice })
    expect(doubled.reports[0].remark).toContain('overlap in 1 area: values there count more than once')
  })

  it('takes areas alone', () => {
    expect(
      problemOf(after(land, [['overlay', { datasetId: 'plain' }]], { plain: tableOf({ a: [1] }) })),
    ).toBe('It takes areas here and areas in the other dataset.')
  })

  it('keeps the ground and the sums of a country that is cut by squares, across the date line too', () => {
    const districts = demo.datasets.get('districts')
    if (!districts || districts.dataset.geometry.kind !== 'areas') throw new Error('The districts are there.')
    const { dataset } = districts
    const total = dataset.fields.find(({ key }) => districts.fieldMeta(key).role === 'total')?.key ?? ''
    const cells = after(dataset, [['grid', { shape: 'squares', sizeKm: 60, keep: 'all' }]]).dataset
    const split = after(dataset, [['overlay', { datasetId: 'cells', shared: [total], otherShared: [] }]], {
      cells,
    })
    const ground = (d: typeof dataset) => sum(groundAreas(d.geometry))
    // A border of one district crosses itself, and is untangled.
    expect(ground(split.dataset) / ground(dataset)).toBeCloseTo(1, 7)
    expect(sum(column(split, total)) / sum(column(after(dataset, []), total))).toBeCloseTo(1, 9)

    const across = tableOf({ people: [12] }, [
      {
        type: 'Polygon',
        coordinates: [
          [
            [178, 0],
            [-178, 0],
            [-178, 2],
            [178, 2],
            [178, 0],
          ],
        ],
      },
    ])
    const half = tableOf({ side: ['east'] }, [square(-180, -1, 9)])
    const cut = after(across, [['overlay', { datasetId: 'half', shared: ['people'] }]], { half })
    expect((column(cut, 'people') as number[]).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([6, 6])
    expect(column(cut, 'side')).toEqual(['east', null])
  })
})
