import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { fontBookOf } from '@/render/font-files'
import { featureAt } from '@/core/geo/feature-at'
import { featureCount, type Areas, type Points } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { kindOf } from '@/core/kinds/registry'
import { createProjection } from '@/core/projection/projection'
import { mapFonts } from '@/core/sheet/parts/panel'
import { composeLabelledMap } from './compose-map'
import { planOf, shapesOf, stretchedProjection, stretching } from './layer-plan'
import { fitMap } from './view'

const { folio, datasets } = openDemo()
const map = folio.maps.find(({ id }) => id === 'stretched')!
const straight = createProjection(map.projection)
const bent = stretchedProjection(map, straight, datasets)

describe('a map that is stretched', () => {
  it('takes towns along in the districts in which they lie', () => {
    const districts = datasets.get('districts')!.dataset.geometry as Areas
    const towns = datasets.get('towns')!.dataset.geometry as Points
    const layer = map.layers.find(({ id }) => id === map.stretchedBy)!
    const prepared = datasets.get('districts')!
    const shapes = shapesOf(layer, prepared, planOf(layer, prepared), map.projection)
    const stretched = kindOf('cartogram').shapes!.rows!(shapes)!.geometry
    let [inside, same, moved] = [0, 0, 0]
    for (let t = 0; t < featureCount(towns); t++) {
      const place: [number, number] = [towns.coords[2 * t], towns.coords[2 * t + 1]]
      const before = featureAt(districts, ...place)
      if (before < 0) continue
      inside++
      const at = bent.project(...place)
      const there = straight.invert(...at)!
      if (featureAt(stretched, ...there) === before) same++
      const [x, y] = straight.project(...place)
      if (Math.hypot(at[0] - x, at[1] - y) > 5000) moved++
    }
    expect(inside).toBeGreaterThan(50)
    // Borders are moved round by round, towns all at once: what lies close to a border may end on its other side.
    expect(same / inside).toBeGreaterThan(0.98)
    expect(moved / inside).toBeGreaterThan(0.5)
  })
  it('draws layers that follow otherwise than on the map as it was, and the cartogram alike', () => {
    const view = fitMap(map, datasets, { width: 180, height: 120 })!
    const composed = (of: typeof map) =>
      composeLabelledMap({
        map: of,
        view,
        window: { x: 0, y: 0, width: 180, height: 120 },
        datasets,
        fonts: fontBookOf(mapFonts(of)),
        toleranceMm: 0.1,
      })
    const layerOf = (name: string, of: typeof map) =>
      JSON.stringify(
        composed(of).group.children.find((node) => node.type === 'group' && node.name === name),
        (_, value: unknown) => (ArrayBuffer.isView(value) ? [...(value as Float64Array)] : value),
      )
    const still = { ...map, stretchedBy: null }
    expect(layerOf('Rivers', map)).not.toBe(layerOf('Rivers', still))
    expect(layerOf('Loans per resident, stretched', map)).toBe(
      layerOf('Loans per resident, stretched', still),
    )
  })
  it('is not stretched by a layer that is gone, or that stretches nothing', () => {
    expect(stretching({ ...map, stretchedBy: 'gone' }, datasets)).toBeNull()
    expect(stretchedProjection({ ...map, stretchedBy: 'stretched-rivers' }, straight, datasets)).toBe(
      straight,
    )
    // A hidden layer still does.
    const hidden = {
      ...map,
      layers: map.layers.map((layer) => ({ ...layer, visible: layer.id !== map.stretchedBy })),
    }
    expect(stretchedProjection(hidden, straight, datasets)).toBe(bent)
    const rivers = datasets.get('rivers')!.dataset.geometry
    expect(projectGeometry(rivers, bent)).not.toEqual(projectGeometry(rivers, straight))
  })
})
