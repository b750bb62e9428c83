import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { createProjection } from '@/core/projection/projection'
import { extentOfRows, extentProblem, vantageView } from './vantage'
import { paperTransform } from './view'

const { folio, datasets } = openDemo()
const preparedOf = (id: string) => {
  const dataset = datasets.get(id)
  if (!dataset) throw new Error(`There is no dataset ${id}.`)
  return dataset
}

describe('vantages', () => {
  const [map] = folio.maps
  const window = { width: 200, height: 100 }
  it('give their own view, or the one that shows an extent whole', () => {
    const view = { centre: [-28, 49] as [number, number], scaleDenominator: 1e6 }
    expect(vantageView({ id: 'v', name: 'V', of: { by: 'view', view } }, map, window)).toEqual(view)
    const fitted = vantageView(
      { id: 'v', name: 'V', of: { by: 'extent', extent: [-29, 48, -27, 50] } },
      map,
      window,
    )
    if (!fitted) throw new Error('The extent can be shown.')
    const projection = createProjection(map.projection)
    const to = paperTransform(projection, fitted, { x: 0, y: 0, ...window })
    for (const place of [
      [-29, 48],
      [-27, 48],
      [-27, 50],
      [-29, 50],
    ] as [number, number][]) {
      const [x, y] = projection.project(...place)
      expect(x * to.mmPerMetre + to.dx).toBeGreaterThan(0)
      expect(x * to.mmPerMetre + to.dx).toBeLessThan(200)
      expect(y * to.mmPerMetre + to.dy).toBeGreaterThan(0)
      expect(y * to.mmPerMetre + to.dy).toBeLessThan(100)
    }
  })
  it('come from rows, and from typed degrees that can be used', () => {
    const towns = preparedOf('towns')
    const one = extentOfRows(towns, Int32Array.of(3))
    const all = extentOfRows(towns, null)
    expect(one && all && one[0] >= all[0] && one[2] <= all[2]).toBe(true)
    expect(extentProblem([-29, 48, -27, 50])).toBeNull()
    expect(extentProblem([-27, 48, -29, 50])).toContain('east side')
    expect(extentProblem([-29, 50, -27, 48])).toContain('north side')
    expect(extentProblem([-29, 48, NaN, 50])).toContain('four sides')
    expect(extentProblem([170, -20, 190, 20])).toBeNull()
  })
})
