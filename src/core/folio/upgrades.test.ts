import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { createHash } from 'node:crypto'
import { z } from 'zod'
import { Folio, FolioError, folioVersion, readFolio } from './schema'
import { schemaPrints } from './schema-print'
import type { Layer } from '@/core/map/spec'

const { folio } = openDemo()
const layerOf = (mapId: string, id: string): Layer => {
  const layer = folio.maps.find((map) => map.id === mapId)?.layers.find((one) => one.id === id)
  if (!layer) throw new Error(`There is no layer ${id}.`)
  return layer
}

describe('the schema', () => {
  it('is the one that its version stands for', () => {
    const shape = JSON.stringify(z.toJSONSchema(Folio, { io: 'input', unrepresentable: 'any' }))
    const print = createHash('sha256').update(shape).digest('hex').slice(0, 16)
    expect(schemaPrints[folioVersion], 'Has the schema changed without a new version?').toBe(print)
  })

  it('of a newer version is refused, saying so, and nothing of it is dropped', () => {
    const newer = { ...folio, version: folioVersion + 1, weather: 'fine' }
    expect(() => readFolio(newer)).toThrow(FolioError)
    expect(() => readFolio(newer)).toThrow('was made by a newer Keen Plot')
  })
})

describe('a folio of the first version', () => {
  it('has its names of plain points as labels and their rank as a filter', () => {
    const [map] = folio.maps
    const towns = layerOf('loans', 'towns')
    const { id, name, datasetId, remembered, visible, opacity, blend, inLegend } = towns
    const first = {
      ...folio,
      version: 1,
      maps: [
        {
          ...map,
          layers: [
            {
              id,
              name,
              datasetId,
              remembered,
              visible,
              opacity,
              blend,
              inLegend,
              symbology: {
                kind: 'plain',
                settings: {
                  ...towns.symbology.settings,
                  label: {
                    field: 'name',
                    family: 'barlow',
                    sizePt: 9,
                    rankField: 'population',
                    atLeast: 5000,
                  },
                },
              },
            },
          ],
        },
      ],
    }
    const [{ layers }] = readFolio(first).maps
    expect(layers[0]).toMatchObject({
      filter: 'population >= 5000',
      labels: { text: { by: 'field', field: 'name' }, family: 'barlow', sizePt: 9, rankField: 'population' },
    })
    expect(first.version).toBe(1)
  })
})
