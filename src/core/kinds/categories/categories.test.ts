import { describe, expect, it } from 'vitest'
import { topology } from 'topojson-server'
import type { FeatureCollection } from 'geojson'
import type { GeometryObject } from 'topojson-specification'
import { textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { geometryFromTopology } from '@/core/geo/from-topology'
import { neighbourPairs } from '@/core/geo/neighbours'
import type { KindData } from '../kind'
import { categories } from '.'
import { colourApart } from './assign'
import type { CategorySettings } from './spec'

/** A board of squares, each with a text. */
function board(rows: (string | null)[][]): KindData {
  const features = rows.flatMap((row, y) =>
    row.map((_, x) => ({
      type: 'Feature',
      properties: {},
      geometry: {
        type: 'Polygon',
        coordinates: [
          [
            [x, y],
            [x + 1, y],
            [x + 1, y + 1],
            [x, y + 1],
            [x, y],
          ],
        ],
      },
    })),
  )
  const built = topology({ all: { type: 'FeatureCollection', features } as FeatureCollection })
  const dataset: Dataset = {
    rowCount: features.length,
    geometry: geometryFromTopology(built, built.objects.all as GeometryObject),
    fields: [{ key: 'kind', column: textColumn(rows.flat()) }],
  }
  return {
    dataset,
    name: 'Fields',
    fieldMeta: () => ({ label: 'Kind of use', unit: '', role: 'category' }),
    datasetOf: () => null,
    datasetIds: [],
  }
}
const data = board([
  ['wood', 'wood', 'field'],
  ['wood', 'field', 'town'],
  ['lake', 'bog', null],
])
const by = (change: Partial<CategorySettings> = {}, of = data): CategorySettings => ({
  ...categories.initial(of),
  field: 'kind',
  ...change,
})
const keys = (change: Partial<CategorySettings>) =>
  categories.plan(by(change), data).categories.map(({ label, count }) => `${label} ${count}`)
const own = (change: object) => ({
  colour: null,
  hatchDeg: null,
  pattern: 'lines' as const,
  with: null,
  label: null,
  shape: null,
  ...change,
})
const cautionOf = (of: CategorySettings, from: KindData) =>
  categories.caution(categories.plan(of, from), of, from)

describe('categories', () => {
  it('stand in order of how common they are, or of the alphabet; empty cells are missing', () => {
    expect(keys({})).toEqual(['wood 3', 'field 2', 'bog 1', 'lake 1', 'town 1'])
    expect(keys({ order: 'alphabet' })).toEqual(['bog 1', 'field 2', 'lake 1', 'town 1', 'wood 3'])
    expect(categories.plan(by(), data).missingCount).toBe(1)
  })

  it('are grouped where they are rare, and merged by hand', () => {
    expect(keys({ fewest: 2 })).toEqual(['wood 3', 'field 2', 'other 3'])
    expect(keys({ own: { bog: own({ with: 'lake' }), lake: own({ label: 'water' }) } })).toEqual([
      'wood 3',
      'field 2',
      'water 2',
      'town 1',
    ])
    // Two that are each to be shown with the other stay by themselves.
    expect(keys({ own: { bog: own({ with: 'lake' }), lake: own({ with: 'bog' }) } })).toHaveLength(5)
  })

  it('have a shape of their own as points where that is wished, in the legend as on the map', () => {
    const points: KindData = {
      ...data,
      dataset: {
        ...data.dataset,
        geometry: {
          kind: 'points',
          coords: new Float64Array(18),
          featureStarts: Uint32Array.from({ length: 10 }, (_, i) => i),
        },
      },
    }
    const settings = by({
      dot: { shape: 'circle', sizeMm: 2, varied: true },
      own: { field: own({ shape: 'drop' }) },
    })
    const plan = categories.plan(settings, points)
    expect(plan.categories.map(({ shape }) => shape)).toEqual([
      'circle',
      'drop',
      'triangle',
      'diamond',
      'drop',
    ])
    expect(
      categories
        .legend(plan, settings, points, null)
        .items.slice(0, 3)
        .map(({ swatch }) => swatch.symbol),
    ).toEqual(['circle', 'drop', 'triangle'])
    expect(categories.plan(by(), points).categories.every(({ shape }) => shape === 'circle')).toBe(true)
  })

  it('keep colours and lines chosen by hand, and show them in the legend', () => {
    const settings = by({ own: { wood: own({ colour: '#123456', hatchDeg: 45 }) } })
    const { items, heading } = categories.legend(categories.plan(settings, data), settings, data, null)
    expect(heading).toBe('Kind of use')
    expect(items[0]).toMatchObject({ label: 'wood', swatch: { fill: { type: 'hatch', colour: '#123456' } } })
    expect(items.at(-1)).toMatchObject({ key: 'missing', apart: true })
    const dotted = by({ own: { wood: own({ hatchDeg: 0, pattern: 'dots' }) } })
    expect(
      categories.legend(categories.plan(dotted, data), dotted, data, null).items[0].swatch.fill,
    ).toMatchObject({ type: 'hatch', form: 'dots' })
  })

  it('warn when there are more than can be told apart, and group the rare ones', () => {
    const many = board([Array.from({ length: 30 }, (_, i) => `k${i < 20 ? i % 8 : i}`)])
    const caution = cautionOf(by({}, many), many)
    expect(caution?.words).toContain('18 colours')
    const left = categories.plan(caution?.remedies[0].settings as CategorySettings, many)
    expect(left.categories.length).toBeLessThanOrEqual(13)
    expect(cautionOf(by(), data)).toBeNull()
  })
})

describe('colours so that neighbours differ', () => {
  it('leave no two that touch alike, with many categories and few colours', () => {
    let seed = 11
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
    const many = board(
      Array.from({ length: 14 }, (_, y) =>
        Array.from(
          { length: 14 },
          (_, x) => `k${Math.floor(y / 2) * 7 + Math.floor(x / 2 + random() * 0.9)}`,
        ),
      ),
    )
    const plan = categories.plan(by({ assign: 'neighbours', set: 'harbour' }, many), many)
    expect(plan.categories.length).toBeGreaterThan(30)
    const { a, b } = neighbourPairs(many.dataset.geometry)
    let touching = 0
    a.forEach((one, e) => {
      const [x, y] = [plan.of[one], plan.of[b[e]]]
      if (x === y) return
      touching++
      expect(plan.categories[x].colour).not.toBe(plan.categories[y].colour)
    })
    expect(touching).toBeGreaterThan(100)
  })

  it('colour what can be coloured with two, and use all colours alike', () => {
    const ring = Array.from({ length: 12 }, (_, i) => new Set([(i + 1) % 12, (i + 11) % 12]))
    const given = colourApart(ring, 2)
    given.forEach((colour, i) => expect(colour).not.toBe(given[(i + 1) % 12]))
    const alone = colourApart(
      Array.from({ length: 9 }, () => new Set<number>()),
      3,
    )
    expect([0, 1, 2].map((colour) => alone.filter((c) => c === colour).length)).toEqual([3, 3, 3])
  })
})
