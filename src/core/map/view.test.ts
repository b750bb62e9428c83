import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { geodesicMetres } from '@/core/projection/ground'
import { createProjection } from '@/core/projection/projection'
import { projectGeometry } from '@/core/geo/projected'
import { coordsOf } from '@/core/geo/geometry'
import { shownOf } from './shown'
import {
  fitLayer,
  fitMap,
  fitWhole,
  fitView,
  groundMetresPerMm,
  leadingGeometries,
  paperTransform,
  roundScale,
  unproject,
  viewProjection,
} from './view'

const { folio, datasets } = openDemo()
const [map] = folio.maps
const projection = createProjection(map.projection)
const window = { x: 12, y: 33, width: 273, height: 159 }

describe('scale', () => {
  it('is true on the ground at the centre: 100 mm of paper at 1 : 3,200,000 are 320 km of geodesic', () => {
    const view = { centre: [-27.4, 49.6] as [number, number], scaleDenominator: 3_200_000 }
    const to = paperTransform(projection, view, window)
    const [cx, cy] = [window.x + window.width / 2, window.y + window.height / 2]
    const a = unproject(projection, to, cx - 50, cy)
    const b = unproject(projection, to, cx + 50, cy)
    if (!a || !b) throw new Error('The places lie on the map.')
    expect(geodesicMetres(a, b) / 320_000).toBeCloseTo(1, 4)
    expect(groundMetresPerMm(projection, view) / 3200).toBeCloseTo(1, 5)
    expect(unproject(projection, to, cx, cy)?.map((n) => Number(n.toFixed(6)))).toEqual([-27.4, 49.6])
  })

  it('holds away from the projection’s own centre as well', () => {
    for (const centre of [
      [-32, 46],
      [-20, 55],
      [-28, 40],
    ] as [number, number][])
      expect(groundMetresPerMm(projection, { centre, scaleDenominator: 1_000_000 }) / 1000).toBeCloseTo(1, 4)
  })

  it('rounds up to two digits, the second one 0 or 5', () => {
    expect([2_463_700, 24_637, 999, 1_000_000, 3_020_000].map(roundScale)).toEqual([
      2_500_000, 25_000, 1000, 1_000_000, 3_050_000,
    ])
  })
})

describe('fitting', () => {
  it('is fitted to the main land, so that isles far from it do not make everything small', () => {
    const [main, whole] = [fitMap(map, datasets, window), fitWhole(map, datasets, window)]
    expect(main?.scaleDenominator).toBeLessThan((whole?.scaleDenominator ?? 0) * 0.9)
  })

  it('shows the thematic layer whole and touches the margin on one side', () => {
    const view = fitWhole(map, datasets, window, 0.05)
    if (!view) throw new Error('The map has an extent.')
    const to = paperTransform(projection, view, window)
    const box = [Infinity, Infinity, -Infinity, -Infinity]
    for (const geometry of leadingGeometries(map, datasets)) {
      const coords = coordsOf(projectGeometry(geometry, projection))
      for (let i = 0; i < coords.length; i += 2) {
        const [x, y] = [coords[i] * to.mmPerMetre + to.dx, coords[i + 1] * to.mmPerMetre + to.dy]
        box[0] = Math.min(box[0], x)
        box[1] = Math.min(box[1], y)
        box[2] = Math.max(box[2], x)
        box[3] = Math.max(box[3], y)
      }
    }
    const share = Math.max((box[2] - box[0]) / window.width, (box[3] - box[1]) / window.height)
    expect(share).toBeCloseTo(0.9, 3)
    expect(box[0]).toBeGreaterThan(window.x)
    expect(box[1]).toBeGreaterThan(window.y)
  })

  it('is led by the thematic layers, not by the sea around them', () => {
    expect(leadingGeometries(map, datasets)).toEqual([datasets.get('districts')?.dataset.geometry])
    const plain = {
      ...map,
      layers: map.layers.filter((layer) => layer.symbology.kind === 'plain' && layer.visible),
    }
    expect(leadingGeometries(plain, datasets)).toHaveLength(plain.layers.length)
  })

  it('has no view of nothing', () => expect(fitView(projection, [{ kind: 'none' }], window)).toBeNull())

  it('of a map of flows shows the places that they run between', () => {
    const flows = folio.maps.find(({ id }) => id === 'between')
    const shaded = folio.maps.find(({ id }) => id === 'loans')
    if (!flows || !shaded) throw new Error('The demo has both maps.')
    const window = { width: 200, height: 140 }
    const [a, b] = [flows, shaded].map((map) =>
      fitMap({ ...map, projection: shaded.projection }, datasets, window),
    )
    expect((a?.scaleDenominator ?? 0) / (b?.scaleDenominator ?? 1)).toBeCloseTo(1, 2)
  })
})

it('a layer is shown whole, the map turned as it is, and nothing where the layer is not there', () => {
  const window = { width: 120, height: 80 }
  for (const turnDeg of [undefined, 35])
    for (const { id } of map.layers.slice(0, 3)) {
      const view = fitLayer(map, id, { datasets, window, turnDeg })!
      expect(view.turnDeg).toBe(turnDeg)
      const projection = viewProjection(map, view)
      const to = paperTransform(projection, view, { x: 0, y: 0, ...window })
      // With the rows that the layer's filter leaves.
      const { geometry } = shownOf(
        map.layers.find((one) => one.id === id)!,
        datasets,
      )!.dataset
      const coords = coordsOf(projectGeometry(geometry, projection))
      for (let i = 0; i < coords.length; i += 2) {
        expect(Math.abs(coords[i] * to.mmPerMetre + to.dx - 60)).toBeLessThan(60)
        expect(Math.abs(coords[i + 1] * to.mmPerMetre + to.dy - 40)).toBeLessThan(40)
      }
    }
  const whole = fitLayer(map, 'towns', { datasets, window })!
  const one = fitLayer(map, 'towns', { datasets, window, feature: 3 })!
  expect(one.scaleDenominator).toBeLessThan(whole.scaleDenominator / 10)
  const { geometry } = shownOf(
    map.layers.find(({ id }) => id === 'towns')!,
    datasets,
  )!.dataset
  if (geometry.kind !== 'points') throw new Error('Towns are points.')
  expect(one.centre[0]).toBeCloseTo(geometry.coords[6], 6)
  expect(one.centre[1]).toBeCloseTo(geometry.coords[7], 6)
  expect(fitLayer(map, 'nothing', { datasets, window })).toBeNull()
})
