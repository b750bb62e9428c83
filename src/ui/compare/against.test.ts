import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { panelsOf } from '@/core/sheet/panel-view'
import { againstWords, choices, farMap, farSheet } from './against'

const { folio, datasets } = openDemo()
const map = folio.maps.find(({ id }) => id === 'orientation')
if (!map) throw new Error('The demo has a map for orientation.')

describe('what a map is compared with', () => {
  it('is itself without each layer that is drawn, and every other map', () => {
    const list = choices(map, folio.maps, datasets)
    expect(list.find(({ label }) => label === 'Without Relief')).toBeDefined()
    expect(list.filter(({ against }) => against.by === 'map').length).toBe(folio.maps.length - 1)
  })

  it('lacks that layer alone, or has the near map\u2019s projection', () => {
    const without = farMap({ by: 'layer', layerId: 'relief' }, map, folio.maps)
    expect(without?.layers.length).toBe(map.layers.length - 1)
    expect(without?.layers.some(({ id }) => id === 'relief')).toBe(false)
    const [other] = folio.maps
    const far = farMap({ by: 'map', mapId: other.id }, map, folio.maps)
    expect(far?.layers).toBe(other.layers)
    expect(far?.projection).toBe(map.projection)
    expect(farMap({ by: 'layer', layerId: 'gone' }, map, folio.maps)).toBeNull()
    expect(againstWords({ by: 'map', mapId: 'gone' }, map, folio.maps)).toBeNull()
  })

  it('changes one panel of a sheet and nothing else', () => {
    const sheet = folio.sheets.find(({ id }) => id === 'ground-a4')
    if (!sheet) throw new Error('The demo has that sheet.')
    const [panel, second] = panelsOf(sheet)
    const far = farSheet({ by: 'map', mapId: 'orientation' }, sheet, { panel, maps: folio.maps })
    const after = far ? panelsOf(far) : []
    expect(after.map(({ settings }) => settings.mapId)).toEqual(['orientation', second.settings.mapId])
    expect(after[0].settings.view).toEqual(panel.settings.view)
    const layerId = 'height-classes'
    const without = farSheet({ by: 'layer', layerId }, sheet, { panel, maps: folio.maps })
    expect(without && panelsOf(without)[0].settings.hiddenLayers).toEqual([layerId])
    expect(farSheet({ by: 'layer', layerId: 'gone' }, sheet, { panel, maps: folio.maps })).toBeNull()
  })
})
