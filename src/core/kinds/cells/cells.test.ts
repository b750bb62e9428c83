import { describe, expect, it } from 'vitest'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { groundAreas } from '@/core/geo/measure'
import {
  cellArea,
  cellAt,
  cellPolygons,
  cellShapes,
  middleOfCell,
  type CellId,
  type Tiling,
} from '@/core/grid/cells'
import { geometryFromShapes } from '@/core/geo/shapes'
import { placesIn } from '@/core/grid/grid'
import type { KindData } from '../kind'
import { cells } from '.'
import { gathered, gatherSteps } from './gather'
import type { CellSettings } from './spec'

let seed = 5
const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
const n = 3000
const coords = Float64Array.from({ length: 2 * n }, (_, i) => (i % 2 ? 45 + 2 * random() : 10 + 3 * random()))
const values = Array.from({ length: n }, (_, i) => (i % 50 === 0 ? null : Math.round(100 * random())))
const dataset: Dataset = {
  rowCount: n,
  geometry: { kind: 'points', coords, featureStarts: Uint32Array.from({ length: n + 1 }, (_, i) => i) },
  fields: [
    { key: 'name', column: textColumn(values.map((_, i) => `place ${i}`)) },
    { key: 'sort', column: textColumn(values.map((_, i) => (i % 3 ? 'branch' : 'central'))) },
    { key: 'visits', column: numberColumn(values) },
    { key: 'hours', column: numberColumn(values.map((_, i) => 1 + (i % 7))) },
  ],
}
const data: KindData = {
  dataset,
  name: 'Places',
  fieldMeta: (key) => {
    const column = dataset.fields.find((field) => field.key === key)?.column
    return column ? proposeMeta(key, column) : { label: key, unit: '', role: 'total' }
  },
  datasetOf: () => null,
  datasetIds: [],
}
const settings: CellSettings = { ...cells.initial(data), spacingKm: 20 }
const valuesIn = (own: CellSettings): number[] => [...cells.plan(own, data).values]

describe('cells', () => {
  for (const shape of cellShapes)
    it(`of ${shape} hold every point once, and each the same ground`, () => {
      const own = { ...settings, shape }
      const plan = cells.plan(own, data)
      expect(plan.points).toBe(n)
      expect(valuesIn(own).reduce((a, b) => a + b, 0)).toBe(n)
      const found = gathered(own, data)
      const areas = groundAreas(found!.dataset.geometry)
      const wanted = cellArea(found!.tiling)
      for (const area of areas) expect(Math.abs(area / wanted - 1)).toBeLessThan(2e-4)
    })

  it('have points on their edges and corners in one cell, whichever', () => {
    const plane = {
      id: 'lambert-azimuthal-equal-area' as const,
      centre: [0, 0] as [number, number],
      parallels: [0, 0] as [number, number],
    }
    for (const shape of cellShapes) {
      const tiling: Tiling = { plane, shape, spacing: 1000 }
      // Middles are in their own cell, places all around in the one whose middle is nearest or that holds them.
      for (const id of [
        [0, 0],
        [3, -2],
        [-5, 7],
      ] as CellId[])
        expect(cellAt(tiling, ...middleOfCell(tiling, id))).toEqual(id)
      const edge = cellAt(tiling, 500, 0)
      expect(edge.every(Number.isInteger)).toBe(true)
    }
  })

  it('share their corners to the last figure, so that borders are drawn once', () => {
    const tiling = gathered(settings, data)!.tiling
    const ids: CellId[] = []
    for (let c = -3; c < 3; c++) for (let r = -3; r < 3; r++) ids.push([c, r])
    for (const shape of cellShapes) {
      const geometry = geometryFromShapes(cellPolygons({ ...tiling, shape }, ids), true)
      if (geometry.kind !== 'areas') throw new Error('Cells are areas.')
      const uses = new Map<number, number>()
      for (const ref of geometry.refs)
        uses.set(ref < 0 ? ~ref : ref, (uses.get(ref < 0 ? ~ref : ref) ?? 0) + 1)
      expect([...uses.values()].filter((k) => k === 2).length).toBeGreaterThan(30)
      expect(Math.max(...uses.values())).toBe(2)
    }
  })
})

describe('the figure of a cell', () => {
  /** Rows by cell, by the same rounding, figures by themselves. */
  const members = (own: CellSettings): number[][] => {
    const found = gathered({ ...own, figure: 'count' }, data)!
    const all = gathered(own, data)!
    const rows = new Map<string, number[]>()
    const tiling = found.tiling
    const at = (row: number): string => {
      const found = cellAt(tiling, ...placeOf(row))
      return found.join(' ')
    }
    for (let row = 0; row < n; row++) rows.set(at(row), [...(rows.get(at(row)) ?? []), row])
    return all.cells.map((id) => rows.get(id.join(' ')) ?? [])
  }
  const placeOf = (row: number): [number, number] => {
    const { plane } = gathered(settings, data)!.tiling
    const [x, y] = placesIn(plane, [coords[2 * row], coords[2 * row + 1]])
    return [x, y]
  }
  const known = (rows: number[]) => rows.filter((row) => values[row] !== null)
  const visits = (rows: number[]) => known(rows).map((row) => values[row]!)

  it('is what is reckoned from its points alone; those without a value are counted', () => {
    const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length
    const expected: Record<string, (rows: number[]) => number> = {
      sum: (rows) => visits(rows).reduce((a, b) => a + b, 0),
      mean: (rows) => mean(visits(rows)),
      median: (rows) => {
        const sorted = visits(rows).sort((a, b) => a - b)
        const k = sorted.length
        return k % 2 ? sorted[(k - 1) / 2] : (sorted[k / 2 - 1] + sorted[k / 2]) / 2
      },
      'weighted mean': (rows) => {
        const own = known(rows)
        const weight = (row: number) => 1 + (row % 7)
        return (
          own.reduce((sum, row) => sum + weight(row) * values[row]!, 0) /
          own.reduce((sum, row) => sum + weight(row), 0)
        )
      },
    }
    for (const [figure, of] of Object.entries(expected)) {
      const own = { ...settings, figure: figure as CellSettings['figure'], field: 'visits', weight: 'hours' }
      const rows = members(own)
      valuesIn(own).forEach((value, c) => expect(value).toBeCloseTo(of(rows[c]), 8))
      expect(gathered(own, data)?.missing).toBe(60)
      expect(cells.shapes?.remark(gathered(own, data))).toBe('60 points without a value left out.')
    }
    const share = { ...settings, figure: 'share' as const, field: 'sort', shareOf: 'central' }
    const rows = members(share)
    valuesIn(share).forEach((value, c) =>
      expect(value).toBeCloseTo((100 * rows[c].filter((row) => row % 3 === 0).length) / rows[c].length, 8),
    )
  })

  it('lists the highest with what gives most to them', () => {
    const { top, largest } = cells.plan({ ...settings, figure: 'sum', field: 'visits' }, data)
    expect(top).toHaveLength(5)
    expect(top[0].value).toBe(largest)
    expect(values[top[0].members[0]]).toBeGreaterThanOrEqual(values[top[0].members[1]] ?? 0)
    expect(top[0].firstShare).toBeCloseTo(values[top[0].members[0]]! / largest, 12)
  })
})

describe('a map of cells', () => {
  it('reads aloud, names its figure, and has a legend with the size of a cell', () => {
    const text = cells
      .sentence(settings, data)
      .map((part) => part.text)
      .join('')
    expect(text).toBe('Count places in hexagons of 20 km, in five classes by natural breaks, coloured Reed.')
    const plan = cells.plan(settings, data)
    const legend = cells.legend(plan, settings, data, null)
    expect(legend.heading).toBe('Places in a cell')
    expect(legend.items.at(-1)?.label).toBe('one hexagon: 346 km²')
    const spikes = cells.legend(plan, { ...settings, form: 'spikes' }, data, null)
    expect(spikes.items.filter(({ key }) => key.startsWith('size-'))).toHaveLength(2)
  })

  it('warns of sums of ratios and of means without weights', () => {
    const ratio = { ...data, fieldMeta: () => ({ label: 'Share', unit: '%', role: 'share' as const }) }
    const plan = cells.plan(settings, data)
    expect(
      cells.caution(plan, { ...settings, figure: 'sum', field: 'visits' }, ratio)?.remedies[0].settings
        .figure,
    ).toBe('mean')
    expect(
      cells.caution(plan, { ...settings, figure: 'weighted mean', field: 'visits' }, data)?.words,
    ).toContain('weighs')
  })

  it('is gathered in pieces, and shows empty cells as zero within areas', () => {
    const square = geometryFromShapes([
      {
        type: 'Polygon',
        coordinates: [
          [
            [9, 44],
            [15, 44],
            [15, 48],
            [9, 48],
            [9, 44],
          ],
        ],
      },
    ])
    const ground: Dataset = { rowCount: 1, fields: [], geometry: square }
    const withGround = { ...data, datasetOf: () => ground }
    const own = { ...settings, empty: { datasetId: 'ground' } }
    const steps = gatherSteps(own, withGround)
    if (!steps) throw new Error('There is nothing to gather.')
    while (!steps.next().done);
    expect(gatherSteps(own, withGround)).toBeNull()
    const all = cells.plan(own, withGround)
    expect(all.cells).toBeGreaterThan(cells.plan(settings, data).cells + 20)
    expect([...all.values].filter((value) => value === 0).length).toBeGreaterThan(20)
    expect(all.points).toBe(n)
  })
})
