import { describe, expect, it } from 'vitest'
import { geodesicMetres } from '@/core/projection/ground'
import { after, column, problemOf, tableOf } from './step-testing'

const point = (lon: number, lat: number): GeoJSON.Geometry => ({ type: 'Point', coordinates: [lon, lat] })
const own = tableOf({ id: [1, 2, 3] }, [point(10, 50), point(11, 50), null])
const at: [number, number][] = [
  [10.1, 50],
  [10.3, 50.1],
  [10.9, 50],
  [12, 51],
]
const others = tableOf(
  { people: [5, 7, 11, null] },
  at.map(([lon, lat]) => point(lon, lat)),
)
const reach = (change: object, more: Record<string, ReturnType<typeof tableOf>> = {}) =>
  after(own, [['within-reach', { datasetId: 'others', label: 'Near', ...change }]], { others, ...more })

describe('within reach', () => {
  it('adds up what lies within a distance on the ground, straight', () => {
    for (const limit of [6, 10, 30, 70]) {
      const wanted = [
        [10, 50],
        [11, 50],
      ].map((from) =>
        at.reduce(
          (sum, to, i) =>
            i < 3 && geodesicMetres(from as [number, number], to) <= limit * 1000 ? sum + [5, 7, 11][i] : sum,
          0,
        ),
      )
      expect(column(reach({ field: 'people', limit }), 'near')).toEqual([...wanted, null])
    }
  })

  it('counts places where no field is named', () => {
    expect(column(reach({ limit: 30 }), 'near')).toEqual([2, 1, null])
  })

  const lines = tableOf({ kmh: [60] }, [
    {
      type: 'LineString',
      coordinates: [
        [10, 50],
        [10, 50.3],
        [10.9, 50.3],
        [10.9, 50],
      ],
    },
  ])

  it('goes along lines where some are named, by distance or by time', () => {
    // Straight it is 64 km, along the line 131.
    expect(column(reach({ field: 'people', limit: 100 }), 'near')).toEqual([23, 23, null])
    const [first] = column(
      reach({ field: 'people', limit: 100, along: 'lines' }, { lines }),
      'near',
    ) as number[]
    expect(first).toBe(12)
    const [quick] = column(
      reach({ field: 'people', limit: 140, along: 'lines', speed: 'kmh' }, { lines }),
      'near',
    ) as number[]
    expect(quick).toBeGreaterThanOrEqual(11)
  })

  it('says what keeps it from being done', () => {
    const slow = tableOf({ kmh: [0] }, [
      {
        type: 'LineString',
        coordinates: [
          [10, 50],
          [11, 50],
        ],
      },
    ])
    expect(problemOf(reach({ along: 'slow', speed: 'kmh' }, { slow }))).toContain('none with a speed')
    expect(problemOf(reach({ field: 'gone' }))).toContain('no field gone')
  })
})
