import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { createHash } from 'node:crypto'
import { z } from 'zod'
import { FolioError } from './folio-error'
import { Folio, readFolio } from './schema'
import { folioVersion } from './schema-print'
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

describe('lengths and places', () => {
  const [sheet] = folio.sheets
  const withBox = (version: number, box: object) => ({
    ...folio,
    version,
    sheets: [{ ...sheet, parts: [{ ...sheet.parts[0], box }] }],
  })

  it('of the second version are drawn into bounds: no width became the least there is', () => {
    const upgraded = readFolio(withBox(2, { x: -1e9, y: 5, width: 0, height: -3 }))
    expect(upgraded.sheets[0].parts[0].box).toEqual({ x: -10_000, y: 5, width: 0.1, height: 0.1 })
  })

  it('outside of all sense are refused, saying where', () => {
    const refused: [object, string][] = [
      [{ x: 1e9, y: 0, width: 10, height: 10 }, 'sheets › 0 › parts › 0 › box › x, the value is above 10000'],
      [{ x: 0, y: 0, width: 0, height: 10 }, 'box › width, the value is below 0.1'],
      [{ x: 0, y: null, width: 1, height: 10 }, 'box › y, the value should be a number'],
      [{ x: 0, width: 1, height: 10 }, 'box › y, a value is missing'],
    ]
    for (const [box, words] of refused) expect(() => readFolio(withBox(folioVersion, box))).toThrow(words)
    const [map] = folio.maps
    const view = { centre: [1e9, 0], scaleDenominator: 1e6 }
    const vantages = [{ id: 'v', name: 'v', of: { by: 'view', view } }]
    expect(() => readFolio({ ...folio, maps: [{ ...map, vantages }] })).toThrow('centre › 0')
  })
})

describe('a folio of the fourth version', () => {
  it('keeps the classes of its maps: nobody chose any over all years', () => {
    const [map] = folio.maps
    const old = { ...folio, version: 4, maps: JSON.parse(JSON.stringify(folio.maps)) as typeof folio.maps }
    for (const layer of old.maps[0].layers)
      delete (layer.symbology.settings as { overYears?: unknown }).overYears
    const upgraded = readFolio(old)
    expect(upgraded.version).toBe(folioVersion)
    const choropleth = upgraded.maps[0].layers.find(({ symbology }) => symbology.kind === 'choropleth')
    expect(choropleth?.symbology.settings).toMatchObject({ overYears: null })
    expect(upgraded.maps[0].layers).toHaveLength(map.layers.length)
  })
})

describe('a folio of the sixth version', () => {
  it('has legends of one panel with all its classes, panels without ground, and no kept colours', () => {
    const old = JSON.parse(JSON.stringify({ ...folio, version: 6 })) as Record<string, unknown> & typeof folio
    delete (old as Partial<typeof folio>).palette
    for (const sheet of old.sheets)
      for (const { type, settings } of sheet.parts) {
        const added: Record<string, string[]> = {
          legend: ['alsoPanels', 'hiddenLayers', 'onlySeen', 'title', 'titleStyle'],
          panel: ['background'],
          text: ['alignEach'],
          callout: ['alignEach'],
        }
        for (const key of added[type] ?? []) delete (settings as Record<string, unknown>)[key]
      }
    const upgraded = readFolio(old)
    expect(upgraded.palette).toEqual([])
    const parts = upgraded.sheets.flatMap((sheet) => sheet.parts)
    const legend = parts.find(({ type }) => type === 'legend')
    expect(legend?.settings).toMatchObject({ alsoPanels: [], hiddenLayers: [], onlySeen: false, title: '' })
    expect(parts.find(({ type }) => type === 'panel')?.settings).toMatchObject({ background: null })
    expect(parts.find(({ type }) => type === 'text')?.settings).toMatchObject({ alignEach: [] })
    expect(parts).toHaveLength(folio.sheets.flatMap((sheet) => sheet.parts).length)
  })
})

describe('a folio of the seventh version', () => {
  it('has flat colours: nobody drew areas by hand', () => {
    const old = JSON.parse(JSON.stringify({ ...folio, version: 7 })) as typeof folio
    for (const { layers } of old.maps)
      for (const { symbology } of layers) delete (symbology.settings as { pencil?: unknown }).pencil
    const upgraded = readFolio(old)
    expect(upgraded.version).toBe(folioVersion)
    const [layer] = upgraded.maps[0].layers.filter(({ symbology }) => symbology.kind === 'choropleth')
    expect(layer.symbology.settings).toMatchObject({ pencil: null })
  })
})

describe('a folio of the eighth version', () => {
  it('has no order of its treemaps by hand, and everything else as it was', () => {
    const old = JSON.parse(JSON.stringify({ ...folio, version: 8 })) as typeof folio
    const levelsIn = ({ sheets }: typeof folio) =>
      sheets
        .flatMap(({ parts }) => parts)
        .flatMap((part) => (part.type === 'treemap' ? (part.settings.levels as { names?: string[] }[]) : []))
    for (const level of levelsIn(old)) delete level.names
    const upgraded = readFolio(old)
    expect(levelsIn(upgraded).map(({ names }) => names)).toEqual([[], []])
    expect(upgraded).toEqual(folio)
  })
})

describe('a folio of the ninth version', () => {
  it('has no maps of blocks, and everything as it was', () => {
    const old = JSON.parse(JSON.stringify({ ...folio, version: 9 })) as typeof folio
    old.maps = old.maps.filter(({ layers }) => layers.every(({ symbology }) => symbology.kind !== 'blocks'))
    const upgraded = readFolio(old)
    expect(upgraded.version).toBe(folioVersion)
    expect(upgraded.maps).toEqual(old.maps)
    expect(upgraded.maps.length).toBeLessThan(folio.maps.length)
  })
})

describe('a folio of the tenth version', () => {
  it('has reliefs and pictures as they were, without what came later', () => {
    const old = JSON.parse(JSON.stringify({ ...folio, version: 10 })) as typeof folio
    const settingsOf = (of: typeof folio, kind: string) =>
      of.maps
        .flatMap(({ layers }) => layers)
        .filter(({ symbology }) => symbology.kind === kind)
        .map(({ symbology }) => symbology.settings as Record<string, unknown>)
    for (const { shading, ...settings } of settingsOf(old, 'relief')) {
      delete settings.water
      for (const key of ['curve', 'texture', 'aspect']) delete (shading as Record<string, unknown>)[key]
    }
    for (const settings of settingsOf(old, 'raster'))
      for (const key of ['colours', 'saturation', 'cells', 'empty']) delete settings[key]
    const upgraded = readFolio(old)
    expect(upgraded.version).toBe(folioVersion)
    expect(settingsOf(upgraded, 'relief')[0].shading).toMatchObject({ curve: 0, texture: 0, aspect: null })
    expect(settingsOf(upgraded, 'raster')[0]).toMatchObject({ saturation: 1, cells: 'smooth', empty: null })
  })
})

describe('a folio of the eleventh version', () => {
  it('has lines of one colour, tints by height and opaque pictures', () => {
    const old = JSON.parse(JSON.stringify({ ...folio, version: 11 })) as typeof folio
    type Loose = { [part: string]: Record<string, unknown> | undefined }
    const settingsOf = (of: typeof folio, kind: string) =>
      of.maps
        .flatMap(({ layers }) => layers)
        .filter(({ symbology }) => symbology.kind === kind)
        .map(({ symbology }) => symbology.settings as object as Loose)
    for (const { lines } of settingsOf(old, 'isolines')) delete lines?.on
    for (const { tints } of settingsOf(old, 'relief')) delete tints?.inView
    for (const settings of settingsOf(old, 'raster')) delete settings.opacity
    const later = ['cell-classes', 'cell-categories']
    for (const map of old.maps)
      map.layers = map.layers.filter(({ symbology }) => !later.includes(symbology.kind))
    const upgraded = readFolio(old)
    expect(upgraded.version).toBe(folioVersion)
    expect(settingsOf(upgraded, 'isolines')[0].lines).toMatchObject({ on: [] })
    expect(settingsOf(upgraded, 'relief').find(({ tints }) => tints)?.tints).toMatchObject({ inView: false })
    expect(settingsOf(upgraded, 'raster')[0]).toMatchObject({ opacity: null })
  })
})

describe('folios of one number and several prints', () => {
  type Stored = Record<string, unknown>
  type StoredLayer = { id: string; symbology: { kind: string; settings: Stored } }
  type Early = Stored & { datasets: Stored[]; maps: { layers: StoredLayer[] }[] }
  const early = () => JSON.parse(JSON.stringify({ ...folio, version: 1 })) as Early
  const layerOfKind = ({ maps }: Early, kind: string): StoredLayer => {
    const layer = maps.flatMap(({ layers }) => layers).find(({ symbology }) => symbology.kind === kind)
    if (!layer) throw new Error(`There is no layer of ${kind}.`)
    return layer
  }

  it('are completed where something is missing: sources, joins, and settings of two kinds', () => {
    const old = early()
    const [dataset] = old.datasets
    for (const key of ['licence', 'dated', 'link']) delete dataset[key]
    dataset.source = { contentId: 'c', fileName: 'f', format: 'CSV' }
    dataset.steps = [
      { type: 'join', id: 'j', datasetId: 'returns', key: 'a', otherKey: 'b', mended: { x: 'y' } },
    ]
    delete layerOfKind(old, 'isolines').symbology.settings.smoothKm
    delete layerOfKind(old, 'potential').symbology.settings.along
    delete layerOfKind(old, 'potential').symbology.settings.spanMin
    const read = readFolio(old)
    expect(read.datasets[0]).toMatchObject({
      licence: '',
      source: { uploadId: '', part: 0, notes: [] },
      steps: [
        {
          on: true,
          settings: {
            datasetId: 'returns',
            keys: [{ key: 'a', otherKey: 'b' }],
            mended: { x: 'y' },
            several: 'first',
          },
        },
      ],
    })
    const settings = (kind: string) =>
      read.maps.flatMap(({ layers }) => layers).find(({ symbology }) => symbology.kind === kind)?.symbology
        .settings
    expect(settings('isolines')).toMatchObject({ smoothKm: 0 })
    expect(settings('potential')).toMatchObject({ along: null, spanMin: 30 })
  })

  it('keep what they have, and what is no folio is refused in words', () => {
    const old = early()
    const isolines = layerOfKind(old, 'isolines')
    isolines.symbology.settings.smoothKm = 12
    const read = readFolio(old)
    const kept = read.maps.flatMap(({ layers }) => layers).find(({ id }) => id === isolines.id)
    expect(kept?.symbology.settings).toMatchObject({ smoothKm: 12 })
    for (const datasets of [null, 5, [null], [{ source: 5 }], [{ source: {}, steps: [5] }]])
      expect(() => readFolio({ ...early(), datasets })).toThrow(FolioError)
    for (const maps of [[5], [{ layers: [5] }], [{ layers: [{ symbology: { kind: '__proto__' } }] }]])
      expect(() => readFolio({ ...early(), maps })).toThrow(FolioError)
  })
})
