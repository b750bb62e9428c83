import { describe, expect, it } from 'vitest'
import type { Dataset } from '@/core/data/dataset'
import { createProjection } from '@/core/projection/projection'
import { adviseEqualArea } from '@/core/projection/adviser'
import type { Raster as RasterNode } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import { paperTransform } from '@/core/map/view'
import { raster } from '.'

const [columns, rows] = [40, 20]
/** Heights that grow to the east, 0 to 390 m; the westernmost column is empty. */
const cells = Float32Array.from({ length: columns * rows }, (_, i) =>
  i % columns === 0 ? NaN : 10 * (i % columns),
)
const dataset: Dataset = {
  rowCount: 1,
  fields: [],
  geometry: { kind: 'none' },
  raster: {
    crs: '',
    columns,
    rows,
    bands: 1,
    transform: Float64Array.of(-30, 0.1, 0, 50, 0, -0.1),
    values: cells,
    edge: Float64Array.of(-30, 50, -26, 50, -26, 48, -30, 48),
    fileSize: Uint32Array.of(columns, rows),
  },
}
const data = {
  dataset,
  name: 'Relief',
  fieldMeta: () => ({ label: '', unit: '', role: 'total' as const }),
  datasetOf: () => null,
  datasetIds: [],
}
const projection = createProjection(adviseEqualArea([-30, 48, -26, 50]))
const window = { x: 0, y: 0, width: 100, height: 80 }
const to = paperTransform(projection, { centre: [-28, 49], scaleDenominator: 3_600_000 }, window)
const settings = { ...raster.initial(data), look: 'greys' as const }
const context = {
  dataset,
  projection,
  projected: dataset.geometry,
  to,
  window,
  fonts: createFontBook(),
  toleranceMm: 0.1,
  datasetOf: () => null,
  featureName: String,
}
const draw = (s = settings) => raster.draw(raster.plan(s, data), s, context, null) as RasterNode[]

/** Red of the cell over a place, null where it is clear. */
function redAt(node: RasterNode, lon: number, lat: number): number | null {
  const [x, y] = projection.project(lon, lat)
  const column = Math.floor(((x * to.mmPerMetre + to.dx - node.box.x) / node.box.width) * node.columns)
  const row = Math.floor(((y * to.mmPerMetre + to.dy - node.box.y) / node.box.height) * node.rows)
  const at = 4 * (row * node.columns + column)
  const rgba = node.rgba(0, node.rows)
  return rgba[at + 3] ? rgba[at] : null
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
    const away = paperTransform(projection, { centre: [10, 49], scaleDenominator: 3_600_000 }, window)
    expect(raster.draw(raster.plan(settings, data), settings, { ...context, to: away }, null)).toEqual([])
  })

  it('lists values along its ramp in the legend', () => {
    expect(
      raster.legend(raster.plan(settings, data), settings, data, null).items.map(({ label }) => label),
    ).toEqual(['10', '105', '200', '295', '390'])
  })
})
