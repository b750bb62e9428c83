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

  it('is right to the metre, near the limit as well', () => {
    let seed = 7
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
    const away = (): [number, number] => [360 * random() - 180, 178 * random() - 89]
    const places = Array.from({ length: 60 }, away)
    const here = tableOf(
      { id: places.map((_, i) => i) },
      places.map(([lon, lat]) => point(lon, lat)),
    )
    const apart = places.flatMap((a) => places.map((b) => geodesicMetres(a, b))).filter((m) => m > 0)
    // Just below and just above some of the distances that there are, near ones and far ones.
    for (const metres of [1, 100, 1500, 3000].map((i) => apart.sort((a, b) => a - b)[i]))
      for (const limit of [(metres - 0.01) / 1000, (metres + 0.01) / 1000]) {
        const prepared = after(here, [['within-reach', { datasetId: 'others', label: 'Near', limit }]], {
          others: here,
        })
        const wanted = places.map((a) => places.filter((b) => geodesicMetres(a, b) <= limit * 1000).length)
        expect(column(prepared, 'near')).toEqual(wanted)
      }
  })

  it('finds what lies near over the date line and round a pole, however far apart the data are', () => {
    const places: [number, number][] = [
      [179.9, 10],
      [-179.8, 10.1],
      [180, -5],
      [-180, -5.2],
      [20, 89.6],
      [-160, 89.7],
      [95, -89.9],
      [0, 0],
      [0.2, -0.1],
    ]
    const here = tableOf(
      { id: places.map((_, i) => i) },
      places.map(([lon, lat]) => point(lon, lat)),
    )
    for (const limit of [12, 40, 120, 9000]) {
      const prepared = after(here, [['within-reach', { datasetId: 'others', label: 'Near', limit }]], {
        others: here,
      })
      const plain = places.map((a) => places.filter((b) => geodesicMetres(a, b) <= limit * 1000).length)
      expect(column(prepared, 'near')).toEqual(plain)
    }
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

  it('measures lines on the ground, and says that ways beside them are not, for data far apart', () => {
    const [a, b] = [
      [-60, 55],
      [60, 55],
    ] as [number, number][]
    const ends = tableOf({ id: [1, 2] }, [point(...a), point(...b)])
    const steps = Array.from({ length: 121 }, (_, i): [number, number] => [-60 + i, 55])
    const road = tableOf({ id: [1] }, [{ type: 'LineString', coordinates: steps }])
    const long = steps.slice(1).reduce((sum, to, i) => sum + geodesicMetres(steps[i], to), 0) / 1000
    const near = (limit: number) =>
      after(ends, [['within-reach', { datasetId: 'others', label: 'Near', along: 'lines', limit }]], {
        others: ends,
        lines: road,
      })
    expect(column(near(long * 0.999), 'near')).toEqual([1, 1])
    expect(column(near(long * 1.001), 'near')).toEqual([2, 2])
    expect(near(100).reports[0].remark).toMatch(/wrong by up to \d+ % .* Those along the lines are measured/)
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
