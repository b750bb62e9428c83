import { describe, expect, it } from 'vitest'
import { paperTransform } from '@/core/map/view'
import type { Raster as RasterNode } from '@/core/scene/scene'
import { cellOver, gridData, paperOver, projection, window } from '../cells-on-paper/testing'
import { raster } from '.'

/** Heights that grow to the east, 0 to 390 m; the westernmost column is empty. */
const data = gridData(40, 20, (column) => (column ? 10 * column : NaN))
const to = paperTransform(projection, { centre: [-28, 49], scaleDenominator: 3_600_000 }, window)
const context = paperOver(data.dataset, to)
const settings = { ...raster.initial(data), look: 'greys' as const }
const draw = (s = settings) => raster.draw(raster.plan(s, data), s, context, null) as RasterNode[]

/** Red of the cell over a place, null where it is clear. */
function redAt(node: RasterNode, lon: number, lat: number): number | null {
  const [red, , , opacity] = cellOver(node, context, [lon, lat])
  return opacity ? red : null
}

describe('a raster on a map', () => {
  it('shows each value where it lies on the ground, in the shade of its height', () => {
    const [node] = draw()
    const shade = (value: number) => 24 + ((248 - 24) * (value - 10)) / 380
    for (const [lon, lat] of [
      [-29.5, 49.2],
      [-28, 48.3],
      [-26.4, 49.8],
    ])
      expect(redAt(node, lon, lat)).toBeCloseTo(shade(10 * ((lon + 30) / 0.1 - 0.5)), -1)
    expect(redAt(node, -29.95, 49)).toBeNull()
    expect(redAt(node, -26.02, 49)).toBeGreaterThan(240)
  })

  it('can be turned round and held between two values', () => {
    const [node] = draw({ ...settings, reversed: true, low: 100, high: 200 })
    expect(redAt(node, -29.5, 49)).toBe(248)
    expect(redAt(node, -26.5, 49)).toBe(24)
  })

  it('is drawn no larger than its window, and not at all beside it', () => {
    const [node] = draw()
    expect(
      node.box.x >= 0 &&
        node.box.y >= 0 &&
        node.box.x + node.box.width < 100.3 &&
        node.box.y + node.box.height < 80.3,
    ).toBe(true)
    const away = paperOver(
      data.dataset,
      paperTransform(projection, { centre: [10, 49], scaleDenominator: 3_600_000 }, window),
    )
    expect(raster.draw(raster.plan(settings, data), settings, away, null)).toEqual([])
  })

  it('lists values along its ramp in the legend', () => {
    expect(
      raster.legend(raster.plan(settings, data), settings, data, null).items.map(({ label }) => label),
    ).toEqual(['10', '105', '200', '295', '390'])
  })
})
