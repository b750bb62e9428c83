import { describe, expect, it } from 'vitest'
import { paperTransform } from '@/core/map/view'
import type { Raster as RasterNode } from '@/core/scene/scene'
import { cellOver, gridData, paperOver, projection, window } from '../cells-on-paper/testing'
import { cellClasses } from '.'

const [columns, rows] = [40, 20]
/** Values 0 to 39 by column, from 30° W and 50° N in tenths of a degree; the westernmost column is empty. */
const data = gridData(columns, rows, (column) => (column ? column : NaN))
const { dataset } = data
const first = cellClasses.initial(data)
const settings = { ...first, method: 'manual' as const, manualBreaks: [10, 25.5], cells: 'flat' as const }
const to = paperTransform(projection, { centre: [-28, 49], scaleDenominator: 3_600_000 }, window)
const context = paperOver(dataset, to)

function colourAt(own: typeof settings, lon: number, lat: number): string | null {
  const [node] = cellClasses.draw(cellClasses.plan(own, data), own, context, true) as RasterNode[]
  const [r, g, b, a] = cellOver(node, context, [lon, lat])
  return a ? `#${[r, g, b].map((c) => c.toString(16).padStart(2, '0')).join('')}` : null
}

describe('cells in classes', () => {
  const plan = cellClasses.plan(settings, data)
  if (!plan) throw new Error('There is a plan.')

  it('counts every cell, and the ground of each class', () => {
    expect(plan.classification.breaks).toEqual([1, 10, 25.5, 39])
    expect(plan.counts).toEqual([9 * rows, 16 * rows, 14 * rows])
    expect(plan.classification.missing).toBe(rows)
    // Cells of one row have the same ground, so that it goes by the numbers of columns.
    expect(plan.km2[0] / plan.km2[1]).toBeCloseTo(9 / 16, 9)
    const whole = plan.km2.reduce((a, b) => a + b, 0)
    // 39 of 40 columns of a box from 48° to 50° north and 4° wide: half a part in a thousand off a sphere's.
    const sphere =
      6371.0072 ** 2 *
      ((3.9 * Math.PI) / 180) *
      (Math.sin((50 * Math.PI) / 180) - Math.sin((48 * Math.PI) / 180))
    expect(Math.abs(whole / sphere - 1)).toBeLessThan(0.004)
  })

  it('paints each cell in the colour of its class, and none where there is no value', () => {
    const [low, middle, high] = plan.colours
    expect(colourAt(settings, -29.45, 49)).toBe(low)
    expect(colourAt(settings, -28.45, 49)).toBe(middle)
    expect(colourAt(settings, -27.45, 49)).toBe(middle)
    expect(colourAt(settings, -27.35, 49)).toBe(high)
    expect(colourAt(settings, -29.95, 49)).toBeNull()
    expect(colourAt({ ...settings, missing: { colour: '#123456', label: 'none' } }, -29.95, 49)).toBe(
      '#123456',
    )
  })

  it('has a shade for each value without classes, and a bar in the legend', () => {
    const smooth = { ...settings, unclassed: 'linear' as const }
    const own = cellClasses.plan(smooth, data)
    expect(own?.colours.length).toBe(128)
    expect(colourAt(smooth, -29.85, 49)).toBe(own?.colours[0])
    expect(colourAt(smooth, -26.05, 49)).toBe(own?.colours[127])
    const { items } = cellClasses.legend(own, smooth, data, null)
    expect(items[0].swatch.shape).toBe('ramp')
    expect(items.map(({ label }) => label)).toEqual(['10', '20', '30'])
  })

  it('names its classes in the legend, and what is missing where that is shown', () => {
    const named = { ...settings, what: 'Rain', unit: 'mm', missing: { colour: '#cccccc', label: 'none' } }
    const { heading, items } = cellClasses.legend(cellClasses.plan(named, data), named, data, null)
    expect(heading).toBe('Rain (mm)')
    expect(items.map(({ label }) => label)).toEqual(['under 10.0', '10.0 to 25.5', '25.5 and over', 'none'])
  })

  it('tells what lies under the pointer', () => {
    const at = (lon: number, lat: number) =>
      cellClasses.shapes?.at?.(true, [lon, lat], { plan, settings: { ...settings, unit: 'mm' }, data })
    expect(at(-28, 49)?.reading).toEqual({ value: '19.50 mm', detail: 'class 2 of 3' })
    expect(at(-20, 49)).toBeNull()
  })

  it('has one scheme with another raster, over the values of both', () => {
    const other = gridData(columns, rows, (column) => 100 + column).dataset
    const both = { ...data, datasetOf: (id: string) => (id === 'a' ? dataset : other) }
    const share = {
      id: 's',
      over: 'all' as const,
      members: ['a', 'b'].map((datasetId) => ({ datasetId, made: { band: 0 } })),
    }
    const quantiles = { ...first, method: 'quantile' as const, classes: 4, rounded: false, share }
    const shared = cellClasses.plan(quantiles, both)
    expect(shared?.classification.breaks[4]).toBe(139)
    // Half of all values are those of the other raster.
    expect(shared?.counts[2]).toBe(0)
    expect(shared?.counts[0]).toBeGreaterThan(300)
  })
})
