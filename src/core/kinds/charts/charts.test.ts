import { describe, expect, it } from 'vitest'
import { numberColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { outlineBox, trace, type Outline } from '@/core/scene/outline'
import type { KindData } from '../kind'
import { charts } from '.'
import { chartParts } from './draw'
import { slice } from './shapes'
import type { ChartSettings } from './spec'

const dataset: Dataset = {
  rowCount: 3,
  geometry: {
    kind: 'points',
    coords: Float64Array.from([10, 50, 11, 50, 12, 50]),
    featureStarts: Uint32Array.from([0, 1, 2, 3]),
  },
  fields: [
    { key: 'print', column: numberColumn([100, 0, 300]) },
    { key: 'audio', column: numberColumn([100, null, 100]) },
    { key: 'digital', column: numberColumn([200, -5, 0]) },
  ],
}
const data: KindData = {
  dataset,
  name: 'Libraries',
  fieldMeta: (label) => ({ label, unit: 'loans', role: 'total' }),
  datasetOf: () => null,
  datasetIds: [],
}
const by = (change: Partial<ChartSettings> = {}): ChartSettings => ({
  ...charts.initial(data),
  anchor: { value: 400, sizeMm: 10 },
  leastMm: 0,
  ...change,
})
const plan = (change: Partial<ChartSettings> = {}) => charts.plan(by(change), data)

/** The area of an outline, by many short chords. */
function areaOf(outline: Outline): number {
  let [sum, x0, y0, sx, sy] = [0, 0, 0, 0, 0]
  const to = (x: number, y: number) => {
    sum += (x0 * y - x * y0) / 2
    ;[x0, y0] = [x, y]
  }
  trace(outline, {
    moveTo: (x, y) => void ([x0, y0, sx, sy] = [x, y, x, y]),
    lineTo: to,
    bezierCurveTo: (...[x1, y1, x2, y2, x, y]) => {
      const [a, b] = [x0, y0]
      for (let i = 1; i <= 200; i++) {
        const t = i / 200
        const u = 1 - t
        to(
          u ** 3 * a + 3 * u * u * t * x1 + 3 * u * t * t * x2 + t ** 3 * x,
          u ** 3 * b + 3 * u * u * t * y1 + 3 * u * t * t * y2 + t ** 3 * y,
        )
      }
    },
    closePath: () => to(sx, sy),
  })
  return Math.abs(sum)
}
const cautionOf = (of: ChartSettings, from: KindData) => charts.caution(charts.plan(of, from), of, from)

describe('pies and rings', () => {
  it('have the area that tells their total; what is missing or under zero has no part', () => {
    const made = plan()
    expect([...made.totals]).toEqual([400, 0, 400])
    expect(made.negative).toBe(1)
    expect([...made.sizes]).toEqual([10, 0, 10])
    expect(plan({ anchor: { value: 100, sizeMm: 10 } }).sizes[0]).toBeCloseTo(20, 9)
    expect([...plan({ sized: false }).sizes]).toEqual([10, 0, 10])
  })

  it('have slices with the areas of their parts', () => {
    for (const form of ['pie', 'ring'] as const) {
      const parts = chartParts(plan({ form }), by({ form, hole: 0.5 }), 0, { x: 50, y: 50 })
      const areas = parts.map(({ outline }) => areaOf(outline))
      const whole = Math.PI * 25 * (form === 'ring' ? 0.75 : 1)
      expect(areas[0] / whole).toBeCloseTo(0.25, 3)
      expect(areas[2] / whole).toBeCloseTo(0.5, 3)
    }
  })

  it('that are one part only are whole circles, or whole rings', () => {
    expect(outlineBox(slice(0, 0, { radius: 5, from: 0, to: 1 }))?.width).toBeCloseTo(10, 2)
    expect(areaOf(slice(0, 0, { radius: 5, from: 0, to: 1 }))).toBeCloseTo(Math.PI * 25, 1)
    expect(areaOf(slice(0, 0, { radius: 5, from: 0, to: 1, hole: 0.4 }))).toBeCloseTo(
      Math.PI * 25 * (1 - 0.16),
      1,
    )
  })

  it('begin at the top and go clockwise', () => {
    const box = outlineBox(slice(0, 0, { radius: 5, from: 0, to: 0.25 }))
    expect(box?.x).toBeCloseTo(0, 6)
    expect(box?.y).toBeCloseTo(-5, 6)
  })
})

describe('bars', () => {
  it('stand beside each other, as high as their values', () => {
    const parts = chartParts(plan({ form: 'bars' }), by({ form: 'bars', barWidthMm: 2 }), 0, {
      x: 50,
      y: 50,
    }).map(({ outline }) => outlineBox(outline))
    expect(parts.map((box) => box?.height)).toEqual([2.5, 2.5, 5])
    expect(parts.map((box) => box?.x)).toEqual([47, 49, 51])
    expect(parts.every((box) => box && Math.abs(box.y + box.height - 50) < 1e-9)).toBe(true)
  })

  it('stand on each other where they are stacked, as high as their total', () => {
    const parts = chartParts(plan({ form: 'stack' }), by({ form: 'stack' }), 0, { x: 50, y: 50 }).map(
      ({ outline }) => outlineBox(outline),
    )
    expect(parts.map((box) => box?.y)).toEqual([47.5, 45, 40])
    expect(plan({ form: 'stack' }).sizes[0]).toBe(10)
  })
})

describe('their legend', () => {
  it('has sizes of the map’s own scale, and the parts', () => {
    const made = plan()
    const { sizes, items } = charts.legend(made, by(), data, null)
    expect(items.map(({ label }) => label)).toEqual(['print', 'audio', 'digital'])
    expect(sizes?.marks.map(({ sizeMm }) => sizeMm)).toEqual(
      made.marks.map(({ value }) => 10 * Math.sqrt(value / 400)),
    )
    expect(charts.legend(plan({ sized: false }), by({ sized: false }), data, null).sizes).toBeUndefined()
  })

  it('takes the values that are typed, and the form that is chosen', () => {
    const settings = by({ legend: { form: 'concentric', values: [100, 400] } })
    const { sizes } = charts.legend(charts.plan(settings, data), settings, data, null)
    expect(sizes?.form).toBe('concentric')
    expect(sizes?.marks.map(({ label, sizeMm }) => [label, sizeMm])).toEqual([
      ['400', 10],
      ['100', 5],
    ])
  })

  it('comes with a caution where rates are made slices', () => {
    const rates: KindData = { ...data, fieldMeta: (label) => ({ label, unit: '%', role: 'rate' }) }
    const caution = cautionOf(by(), rates)
    expect(caution?.remedies[0].settings).toMatchObject({ form: 'bars' })
    expect(cautionOf(by({ form: 'bars' }), rates)).toBeNull()
  })
})
