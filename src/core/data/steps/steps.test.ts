import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../demo/open'
import { arcNeighbours, featureCount, type Areas } from '@/core/geo/geometry'
import { featureAt } from '@/core/geo/feature-at'
import { groundAreas, groundLengths } from '@/core/geo/measure'
import { geometryFromShapes } from '@/core/geo/shapes'
import { workingProjection } from '@/core/geo/reshape'
import { numberColumn, cellOf, numbersOf, textColumn } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import { plainSource, type DatasetEntry } from '../entry'
import { carryOutSteps, createStageMemory, describeChains, prepareDatasets, type Prepared } from '../prepare'
import { telling } from './correct'
import { PrepStep, stepKindOf, stepTypes, type StepType } from './registry'
import { plainLayout } from '@/core/data/table-layout'

const demo = openDemo()
const square = (x: number, y: number, size = 1): GeoJSON.Geometry => ({
  type: 'Polygon',
  coordinates: [
    [
      [x, y],
      [x + size, y],
      [x + size, y + size],
      [x, y + size],
      [x, y],
    ],
  ],
})
const tableOf = (
  columns: Record<string, (number | null)[] | (string | null)[]>,
  shapes: (GeoJSON.Geometry | null)[] | null = null,
): Dataset => ({
  rowCount: Object.values(columns)[0].length,
  fields: Object.entries(columns).map(([key, values]) => ({
    key,
    column: values.some((v) => typeof v === 'string')
      ? textColumn(values as (string | null)[])
      : numberColumn(values as (number | null)[]),
  })),
  geometry: shapes ? geometryFromShapes(shapes) : { kind: 'none' },
})
const entryOf = (id: string, dataset: Dataset, steps: PrepStep[] = []): DatasetEntry => ({
  id,
  name: id,
  geometry: dataset.geometry.kind,
  source: plainSource(id, '', ''),
  steps,
  fields: {},
  table: plainLayout(),
  credit: '',
  licence: '',
  dated: '',
  link: '',
})

/** A dataset after some steps, the settings being the kind's own first ones with changes. */
function after(
  dataset: Dataset,
  steps: [StepType, object][],
  others: Record<string, Dataset> = {},
): Prepared {
  const contents: Record<string, Dataset> = { own: dataset, ...others }
  const otherEntries = Object.entries(others).map(([id, d]) => entryOf(id, d))
  const made: PrepStep[] = []
  for (const [type, change] of steps) {
    const all = prepareDatasets(
      [entryOf('own', dataset, made), ...otherEntries],
      (id) => contents[id] ?? null,
    )
    const so = all.get('own')
    if (!so) throw new Error('The dataset is there.')
    const initial = stepKindOf(type).initial(
      so,
      [...all.values()].filter((p) => p.entry.id !== 'own'),
    ) as object
    made.push(PrepStep.parse({ type, id: `s${made.length}`, on: true, settings: { ...initial, ...change } }))
  }
  const prepared = prepareDatasets(
    [entryOf('own', dataset, made), ...otherEntries],
    (id) => contents[id] ?? null,
  ).get('own')
  if (!prepared) throw new Error('The dataset is there.')
  return prepared
}
const column = (prepared: Prepared, key: string) => {
  const field = fieldOf(prepared.dataset, key)
  return field && Array.from({ length: prepared.dataset.rowCount }, (_, row) => cellOf(field, row))
}
const problemOf = (prepared: Prepared) => prepared.reports.at(-1)?.problem

const towns = tableOf({
  name: ['Marby', 'Ellashaw', 'Perran', null],
  kind: ['town', 'city', 'town', 'village'],
  people: [10, 40, null, 5],
  loans: [20, 20, 30, 0],
})

describe('filter', () => {
  const names = (settings: object) => column(after(towns, [['filter', settings]]), 'name')
  const is = (field: string, test: string, value = '', upTo = '') => ({ field, test, value, upTo })
  it('keeps rows by all, any or none of its conditions', () => {
    expect(names({ conditions: [is('kind', 'is', 'Town')] })).toEqual(['Marby', 'Perran'])
    expect(names({ conditions: [is('kind', 'is', 'town'), is('people', 'is at least', '10')] })).toEqual([
      'Marby',
    ])
    expect(
      names({
        match: 'any',
        conditions: [is('people', 'lies between', '30', '50'), is('name', 'is missing')],
      }),
    ).toEqual(['Ellashaw', null])
    expect(names({ match: 'none', conditions: [is('kind', 'is one of', 'town, city')] })).toEqual([null])
    expect(names({ conditions: [is('name', 'contains', 'rr')] })).toEqual(['Perran'])
    expect(names({ conditions: [] })).toHaveLength(4)
  })

  it('keeps rows by a formula, and by the areas they lie in', () => {
    expect(names({ by: 'formula', formula: 'loans / people >= 1' })).toEqual(['Marby'])
    const points = tableOf(
      { n: [1, 2, 3] },
      [
        [0.5, 0.5],
        [5, 5],
        [2.5, 0.5],
      ].map((coordinates) => ({ type: 'Point', coordinates })),
    )
    expect(
      column(
        after(points, [['filter', { by: 'areas', datasetId: 'areas' }]], {
          areas: tableOf({ a: [1, 2] }, [square(0, 0), square(2, 0)]),
        }),
        'n',
      ),
    ).toEqual([1, 3])
  })

  it('takes the shapes of the rows along', () => {
    const prepared = after(tableOf({ n: [1, 2, 3] }, [square(0, 0), square(1, 0), square(5, 5)]), [
      ['filter', { conditions: [is('n', 'is', '3')] }],
    ])
    expect(featureAt(prepared.dataset.geometry, 5.5, 5.5)).toBe(0)
    expect(featureAt(prepared.dataset.geometry, 0.5, 0.5)).toBe(-1)
  })

  it('says what keeps it from being carried out and leaves the rows as they were', () => {
    const lost = after(towns, [['filter', { conditions: [is('gone', 'is', '1')] }]])
    expect([problemOf(lost), lost.dataset.rowCount]).toEqual([
      'The field “gone” is gone. Choose another one.',
      4,
    ])
    expect(problemOf(after(towns, [['filter', { conditions: [is('people', 'is', 'many')] }]]))).toBe(
      '‘many’ is not a number.',
    )
    expect(problemOf(after(towns, [['filter', { by: 'formula', formula: 'people >' }]]))).toContain(
      'Unexpected end of expression',
    )
  })
})

describe('derive', () => {
  const made = (settings: object, dataset = towns) =>
    column(after(dataset, [['derive', { label: 'New', ...settings }]]), 'new')
  it('computes the ready-made fields', () => {
    expect(made({ recipe: 'rate', field: 'loans', other: 'people', perCount: 100 })).toEqual([
      200,
      50,
      null,
      0,
    ])
    expect(made({ recipe: 'share', field: 'people' })?.map((v) => v && Number(Number(v).toFixed(4)))).toEqual(
      [18.1818, 72.7273, null, 9.0909],
    )
    expect(made({ recipe: 'change', field: 'loans', other: 'people' })).toEqual([10, -20, null, -5])
    expect(made({ recipe: 'percent change', field: 'loans', other: 'people' })).toEqual([
      100,
      -50,
      null,
      -100,
    ])
    expect(made({ recipe: 'rank', field: 'loans' })).toEqual([2, 2, 1, 4])
    expect(made({ recipe: 'index', field: 'loans' })?.map((v) => v && Math.round(Number(v)))).toEqual([
      114, 114, 171, 0,
    ])
    expect(
      made({
        recipe: 'ranges',
        field: 'people',
        ranges: [
          { under: 10, name: 'small' },
          { under: 30, name: 'middling' },
          { under: null, name: 'large' },
        ],
      }),
    ).toEqual(['middling', 'large', null, 'small'])
  })

  it('gives z-scores of mean 0 and deviation 1, and location quotients of 1 where shares are equal', () => {
    const z = made({ recipe: 'z-score', field: 'loans' })?.map(Number) ?? []
    expect(z.reduce((a, b) => a + b, 0)).toBeCloseTo(0, 12)
    expect(z.reduce((a, b) => a + b * b, 0) / z.length).toBeCloseTo(1, 12)
    expect(
      made({ recipe: 'location quotient', field: 'a', other: 'b' }, tableOf({ a: [2, 4], b: [10, 20] })),
    ).toEqual([1, 1])
  })

  it('measures the ground: densities of one degree square differ by latitude as the ellipsoid does', () => {
    const cells = tableOf({ n: [100, 100] }, [square(0, 0), square(0, 59)])
    const km2 = made({ recipe: 'area' }, cells)?.map(Number) ?? []
    expect(km2[0]).toBeCloseTo(12308.8, 0)
    expect(made({ recipe: 'density', field: 'n' }, cells)?.map(Number)[1]).toBeCloseTo(100 / km2[1], 12)
    expect(problemOf(after(towns, [['derive', { recipe: 'density', field: 'people' }]]))).toBe(
      'Only areas have a density.',
    )
  })

  it('takes formulas of fields and refuses everything else', () => {
    expect(made({ recipe: 'formula', formula: 'round(loans / people * 10) / 10 + 1' })).toEqual([
      3,
      1.5,
      null,
      1,
    ])
    expect(made({ recipe: 'formula', formula: 'people > 20 ? 1 : 0' })).toEqual([0, 1, null, 0])
    const says = (formula: string) => problemOf(after(towns, [['derive', { recipe: 'formula', formula }]]))
    expect(says('loanz * 2')).toBe('There is no field “loanz”.')
    expect(says('import("x")')).toContain('There is no function “import”')
    expect(says('a = 5')).toContain('cannot stand in a formula')
    expect(says('f(x) = x')).toContain('cannot stand in a formula')
    expect(says('people.constructor')).toContain('cannot stand in a formula')
  })

  it('names, measures and places its field', () => {
    const prepared = after(towns, [
      [
        'derive',
        {
          recipe: 'rate',
          label: 'Loans per head',
          unit: 'loans per person',
          field: 'loans',
          other: 'people',
        },
      ],
    ])
    expect(prepared.fieldMeta('loans_per_head')).toEqual({
      label: 'Loans per head',
      unit: 'loans per person',
      role: 'rate',
    })
  })
})

describe('join by several keys and with figures', () => {
  const years = tableOf({ town: ['Marby', 'Marby', 'Perran'], year: [2024, 2025, 2025], lent: [1, 2, 4] })
  it('needs every key to be equal', () => {
    const own = tableOf({ name: ['Marby', 'Perran'], year: [2025, 2024] })
    const prepared = after(
      own,
      [
        [
          'join',
          {
            datasetId: 'years',
            keys: [
              { key: 'name', otherKey: 'town' },
              { key: 'year', otherKey: 'year' },
            ],
          },
        ],
      ],
      { years },
    )
    expect(column(prepared, 'lent')).toEqual([2, null])
  })

  it('sums many rows into one', () => {
    const prepared = after(
      towns,
      [
        [
          'join',
          {
            datasetId: 'years',
            keys: [{ key: 'name', otherKey: 'town' }],
            several: 'figures',
            figures: [
              { field: 'lent', op: 'sum', weight: null },
              { field: 'year', op: 'count', weight: null },
            ],
          },
        ],
      ],
      { years },
    )
    expect(column(prepared, 'lent')).toEqual([3, null, 4, null])
    expect(column(prepared, 'year_count')).toEqual([2, 0, 1, 0])
  })
})

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

describe('count points', () => {
  it('counts as a plain loop over all areas does, every point at most once', () => {
    const areas = tableOf({ n: [1, 2, 3] }, [square(0, 0, 2), square(2, 0, 2), square(0, 2, 3)])
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: -1, max: 6, noNaN: true }), fc.double({ min: -1, max: 6, noNaN: true })),
          { minLength: 1, maxLength: 40 },
        ),
        (places) => {
          const points = tableOf(
            { books: places.map((_, i) => i) },
            places.map((coordinates) => ({ type: 'Point', coordinates })),
          )
          const prepared = after(
            areas,
            [
              [
                'count-points',
                {
                  datasetId: 'points',
                  label: 'Readers',
                  figures: [{ field: 'books', op: 'sum', weight: null }],
                },
              ],
            ],
            { points },
          )
          const inside = places.filter(([x, y]) =>
            [
              [0, 0, 2],
              [2, 0, 2],
              [0, 2, 3],
            ].some(([a, b, s]) => x > a && y > b && x < a + s && y < b + s),
          ).length
          const counted = (column(prepared, 'readers') as number[]).reduce((a, b) => a + b, 0)
          expect(counted).toBeGreaterThanOrEqual(inside)
          expect(counted).toBeLessThanOrEqual(places.length)
          if (counted === places.length)
            expect(
              (column(prepared, 'books_sum') as (number | null)[]).reduce((a: number, b) => a + (b ?? 0), 0),
            ).toBe((places.length * (places.length - 1)) / 2)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('an area drawn by hand', () => {
  it('keeps the points and areas that lie in it; nothing is drawn yet: all', () => {
    const ring = [
      [-0.5, -0.5],
      [1.5, -0.5],
      [1.5, 1.5],
      [-0.5, 1.5],
    ]
    const points = tableOf(
      { n: [1, 2, 3] },
      [
        [0, 0],
        [5, 5],
        [1, 1],
      ].map((coordinates) => ({ type: 'Point', coordinates })),
    )
    expect(column(after(points, [['filter', { by: 'drawn', ring }]]), 'n')).toEqual([1, 3])
    expect(column(after(points, [['filter', { by: 'drawn' }]]), 'n')).toEqual([1, 2, 3])
    expect(
      column(
        after(tableOf({ n: [1, 2] }, [square(0, 0), square(4, 4)]), [['filter', { by: 'drawn', ring }]]),
        'n',
      ),
    ).toEqual([1])
  })
})

describe('corrections by hand', () => {
  const libraries = tableOf({ code: ['A', 'B', 'C'], visits: [1, 2, 3], kind: ['small', null, 'large'] })
  const edit = (row: string, field: string, value: string | null) => ({ row, field, value })

  it('set single cells by the code of their row, and leave everything else as it was', () => {
    const prepared = after(libraries, [
      [
        'correct',
        {
          key: 'code',
          edits: [edit('B', 'visits', '7.5'), edit('C', 'visits', null), edit('B', 'kind', 'branch')],
        },
      ],
    ])
    expect([column(prepared, 'visits'), column(prepared, 'kind')]).toEqual([
      [1, 7.5, null],
      ['small', 'branch', 'large'],
    ])
    expect(column(after(libraries, []), 'visits')).toEqual([1, 2, 3])
    expect(prepared.dataset.fields[0]).toBe(libraries.fields[0])
  })

  it('find their rows after the source was sorted otherwise, and say which they no longer find', () => {
    const newer = tableOf({ code: ['C', 'A'], visits: [30, 10] })
    const prepared = after(newer, [
      [
        'correct',
        { key: 'code', edits: [edit('A', 'visits', '11'), edit('B', 'visits', '7'), edit('A', 'gone', 'x')] },
      ],
    ])
    expect(column(prepared, 'visits')).toEqual([30, 11])
    expect(prepared.reports[0]).toMatchObject({
      problem: null,
      remark: '2 of 3 no longer fit: visits of B, gone of A',
    })
  })

  it('go by row number where no field tells the rows apart; words turn numbers into text', () => {
    expect(
      after(tableOf({ n: [1, 1] }), [['correct', { edits: [edit('2', 'n', 'many')] }]]).dataset.fields[0]
        .column,
    ).toEqual(textColumn(['1', 'many']))
    expect(
      telling(libraries, (key) => ({ label: key, unit: '', role: key === 'code' ? 'code' : 'total' })),
    ).toBe('code')
    expect(telling(tableOf({ code: ['A', 'A'] }), () => ({ label: '', unit: '', role: 'code' }))).toBe('')
  })
})

describe('long steps', () => {
  it('tell how far they are', () => {
    const heard: number[] = []
    const kind = stepKindOf('clip')
    const own = {
      datasetId: 'own',
      dataset: tableOf({ n: [1, 2, 3, 4] }, [square(0, 0), square(1, 0), square(2, 0), square(3, 0)]),
      origins: new Map(),
      made: new Map(),
    }
    kind.apply({ datasetId: 'other' }, own, () => own, {
      tell: (share) => heard.push(share),
      remark: () => undefined,
    })
    expect(heard).toEqual([0, 0.25, 0.5, 0.75])
  })
})

describe('stack', () => {
  it('takes fields that were matched by hand, and keeps apart what was said to be', () => {
    const more = tableOf({ n: [2], inhabitants: [9], b: ['y'] }, [square(1, 0)])
    const prepared = after(
      tableOf({ n: [1], people: [8], b: ['x'] }, [square(0, 0)]),
      [['stack', { datasetId: 'more', fields: { people: 'inhabitants', b: '' } }]],
      { more },
    )
    expect(prepared.dataset.fields.map((f) => [f.key, column(prepared, f.key)])).toEqual([
      ['n', [1, 2]],
      ['people', [8, 9]],
      ['b', ['x', null]],
      ['b_2', [null, 'y']],
    ])
  })

  it('puts rows below rows, matching fields by name, and refuses another sort of shapes', () => {
    const prepared = after(
      tableOf({ n: [1], a: ['x'] }, [square(0, 0)]),
      [['stack', { datasetId: 'more' }]],
      { more: tableOf({ n: [2], b: ['y'] }, [square(1, 0)]) },
    )
    expect([column(prepared, 'n'), column(prepared, 'a'), column(prepared, 'b')]).toEqual([
      [1, 2],
      ['x', null],
      [null, 'y'],
    ])
    expect(
      [...arcNeighbours(prepared.dataset.geometry as Areas)].filter((s, i) => i % 2 && s >= 0),
    ).toHaveLength(1)
    expect(
      problemOf(
        after(towns, [['stack', { datasetId: 'more' }]], { more: tableOf({ n: [2] }, [square(1, 0)]) }),
      ),
    ).toContain('Only datasets of one sort')
  })
})

describe('shapes', () => {
  const land = tableOf({ name: ['West', 'East'] }, [square(-30, 48, 2), square(-28, 48, 2)])

  it('grids have cells of one size on the ground, sharing their edges', () => {
    for (const shape of ['hexagons', 'squares', 'triangles']) {
      const prepared = after(land, [['grid', { shape, sizeKm: 40, keep: 'all' }]])
      const sizes = groundAreas(prepared.dataset.geometry)
      const expected = {
        hexagons: (Math.sqrt(3) / 2) * 1600,
        squares: 1600,
        triangles: (Math.sqrt(3) / 4) * 1600,
      }[shape] as number
      for (const size of sizes) expect(size / 1e6 / expected).toBeCloseTo(1, 3)
      expect(
        [...arcNeighbours(prepared.dataset.geometry as Areas)].filter((s, i) => i % 2 && s >= 0).length,
      ).toBeGreaterThan(prepared.dataset.rowCount / 2)
    }
  })

  it('grids cut to the areas cover just them; too small cells are refused', () => {
    const prepared = after(land, [['grid', { shape: 'squares', sizeKm: 60, keep: 'clipped' }]])
    const total = (areas: Float64Array) => areas.reduce((a, b) => a + b, 0)
    expect(total(groundAreas(prepared.dataset.geometry)) / total(groundAreas(land.geometry))).toBeCloseTo(
      1,
      3,
    )
    expect(problemOf(after(land, [['grid', { sizeKm: 0.05 }]]))).toContain('choose larger ones')
  })

  it('points of areas lie inside them, even in a bent one', () => {
    const bent: GeoJSON.Geometry = {
      type: 'Polygon',
      coordinates: [
        [
          [0, 0],
          [10, 0],
          [10, 10],
          [8, 10],
          [8, 2],
          [2, 2],
          [2, 10],
          [0, 10],
          [0, 0],
        ],
      ],
    }
    const areas = tableOf({ n: [1, 2] }, [bent, square(20, 0)])
    const { geometry } = after(areas, [['areas-to-points', {}]]).dataset
    if (geometry.kind !== 'points') throw new Error('These are points.')
    for (const f of [0, 1])
      expect(featureAt(areas.geometry, geometry.coords[2 * f], geometry.coords[2 * f + 1])).toBe(f)
  })

  it('borders are lines with the names of both sides', () => {
    const prepared = after(land, [['areas-to-borders', { coasts: false }]])
    expect([column(prepared, 'left'), column(prepared, 'right')].flat().sort()).toEqual(['East', 'West'])
    expect(after(land, [['areas-to-borders', { coasts: true }]]).dataset.rowCount).toBe(3)
  })

  it('simplified districts still share their borders', () => {
    const districts = demo.contents.get(
      demo.folio.datasets.find((d) => d.id === 'districts')?.source.contentId ?? '',
    ) as Dataset
    const prepared = after(districts, [['simplify', { percent: 10 }]])
    const [was, is] = [districts.geometry as Areas, prepared.dataset.geometry as Areas]
    expect(is.arcs.coords.length).toBeLessThan(was.arcs.coords.length * 0.2)
    expect(is.refs).toEqual(was.refs)
    const total = (areas: Areas) => groundAreas(areas).reduce((a, b) => a + b, 0)
    expect(total(is) / total(was)).toBeCloseTo(1, 2)
  })

  it('clipping keeps what lies inside', () => {
    const prepared = after(land, [['clip', { datasetId: 'mask' }]], {
      mask: tableOf({ m: [1] }, [square(-29, 48, 1.5)]),
    })
    expect(prepared.dataset.rowCount).toBe(2)
    const projection = workingProjection([land.geometry])
    expect(projection.spec.id).toBeTruthy()
    expect(
      groundAreas(prepared.dataset.geometry).reduce((a, b) => a + b, 0) /
        groundAreas(geometryFromShapes([square(-29, 48, 1.5)]))[0],
    ).toBeCloseTo(1, 4)
  })

  it('a buffer of a point is a circle of its size on the ground', () => {
    const prepared = after(tableOf({ n: [1] }, [{ type: 'Point', coordinates: [-28, 49] }]), [
      ['buffer', { km: 25 }],
    ])
    const area = groundAreas(prepared.dataset.geometry)[0] / 1e6
    expect(area / (Math.PI * 625)).toBeGreaterThan(0.985)
    expect(area / (Math.PI * 625)).toBeLessThan(1.005)
  })

  it('parts are split off, small ones dropped', () => {
    const two: GeoJSON.Geometry = {
      type: 'MultiPolygon',
      coordinates: [
        [
          [
            [0, 0],
            [1, 0],
            [1, 1],
            [0, 1],
            [0, 0],
          ],
        ],
        [
          [
            [5, 5],
            [5.1, 5],
            [5.1, 5.1],
            [5, 5.1],
            [5, 5],
          ],
        ],
      ],
    }
    expect(column(after(tableOf({ n: [7] }, [two]), [['split-off', { leastKm2: 0 }]]), 'n')).toEqual([7, 7])
    expect(after(tableOf({ n: [7] }, [two]), [['split-off', { leastKm2: 1000 }]]).dataset.rowCount).toBe(1)
  })
})

describe('every kind of step', () => {
  it('is carried out with its first settings or says why not, and leaves its source alone', () => {
    const own = tableOf({ code: ['A', 'B'], n: [1, 2] }, [square(0, 0), square(1, 0)])
    const frozen = JSON.stringify(own.fields.map((f) => [f.key, f.column]))
    const others = {
      table: tableOf({ code: ['A', 'B'], m: [5, 6] }),
      points: tableOf({ n: [1] }, [{ type: 'Point', coordinates: [0.5, 0.5] }]),
    }
    for (const type of stepTypes) {
      const prepared = after(own, [[type, {}]], others)
      expect(prepared.reports).toHaveLength(1)
      if (problemOf(prepared)) expect(problemOf(prepared), type).toMatch(/^[A-Z].*\.$/)
      expect(
        featureCount(prepared.dataset.geometry) === prepared.dataset.rowCount ||
          prepared.dataset.geometry.kind === 'none',
        type,
      ).toBe(true)
    }
    expect(JSON.stringify(own.fields.map((f) => [f.key, f.column]))).toBe(frozen)
  })

  it('is carried out again when something before it changes, and only then', () => {
    const contents: Record<string, Dataset> = { own: towns, t: tableOf({ name: ['Marby'], x: [1] }) }
    const step = PrepStep.parse({
      type: 'join',
      id: 'j',
      on: true,
      settings: {
        datasetId: 't',
        keys: [{ key: 'name', otherKey: 'name' }],
        mended: {},
        several: 'first',
        figures: [],
      },
    })
    const memory = createStageMemory(2 ** 24)
    const run = (steps: PrepStep[], kept = memory) => {
      const entries = [entryOf('own', towns, [step]), entryOf('t', contents.t, steps)]
      return describeChains(
        entries,
        carryOutSteps(entries, (id) => contents[id] ?? null, { memory: kept }),
      ).get('own')
    }
    const first = run([])
    expect(run([])?.dataset).toBe(first?.dataset)
    // Too small for two stages, it makes them anew, and they are the same.
    const tiny = createStageMemory(1)
    const again = run([], tiny)?.dataset
    expect(run([], tiny)?.dataset).not.toBe(again)
    expect(again).toEqual(first?.dataset)
    const changed = run([
      PrepStep.parse({
        type: 'derive',
        id: 'd',
        on: true,
        settings: {
          recipe: 'formula',
          label: 'Double',
          unit: '',
          formula: 'x * 2',
          field: '',
          other: '',
          perCount: 1,
          ranges: [],
        },
      }),
    ])
    expect(changed && column(changed, 'double')).toEqual([2, null, null, null])
  })
})
