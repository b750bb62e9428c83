import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { fontBookOf } from '@/render/font-files'
import { walk, type Group } from '@/core/scene/scene'
import { outlineBox } from '@/core/scene/outline'
import { mapFonts } from '@/core/sheet/parts/panel'
import { plainGraticule } from './graticule/spec'
import { composeMap } from './compose-map'
import { fitWhole } from './view'

const { folio, datasets } = openDemo()
const [map] = folio.maps
const window = { x: 0, y: 0, width: 200, height: 140 }
const fonts = fontBookOf(mapFonts(map))
const view = fitWhole(map, datasets, window)
if (!view) throw new Error('The demo map has an extent.')
const compose = (spec = map, at = view) =>
  composeMap({ map: spec, view: at, window, datasets, fonts, toleranceMm: 0.02 })
const layerNames = (group: Group) =>
  group.children.flatMap((node) => (node.type === 'group' ? [node.name] : []))

describe('composing a map', () => {
  it('gives one layer group for each visible layer, the bottom one first, then the labels of those that have some', () => {
    const visible = map.layers.filter((layer) => layer.visible).reverse()
    expect(layerNames(compose())).toEqual([
      'Background',
      ...visible.map((layer) => layer.name),
      ...visible.filter(({ labels }) => labels).map(({ name }) => `${name}, labels`),
    ])
  })

  it('puts layers of a group into one, and leaves out what is hidden or out of its scales', () => {
    const groups = [
      { id: 'g', name: 'Both', visible: true, opacity: 0.5, blend: 'multiply' as const, folded: false },
    ]
    const grouped = {
      ...map,
      groups,
      layers: map.layers.map((layer, i) => ({ ...layer, labels: null, groupId: i < 2 ? 'g' : null })),
    }
    const both = compose(grouped).children.find(
      (node): node is Group => node.type === 'group' && node.name === 'Both',
    )
    expect(both).toMatchObject({ opacity: 0.5, blend: 'multiply', layer: true })
    expect(both?.children.map((node) => node.type === 'group' && node.name)).toEqual([
      map.layers[1].name,
      map.layers[0].name,
    ])
    expect(layerNames(compose({ ...grouped, groups: [{ ...groups[0], visible: false }] }))).not.toContain(
      'Both',
    )
    const ranged = {
      ...map,
      layers: map.layers.map((layer, i) => ({
        ...layer,
        labels: null,
        scales: { closest: i === 0 ? view.scaleDenominator * 2 : null, farthest: null },
      })),
    }
    expect(layerNames(compose(ranged))).not.toContain(map.layers[0].name)
    expect(layerNames(compose(ranged, { ...view, scaleDenominator: view.scaleDenominator * 3 }))).toContain(
      map.layers[0].name,
    )
  })

  it('draws sea within the edge of the world, land of a dataset, and a graticule beneath or over the layers', () => {
    const world = {
      ...map,
      sea: '#aabbcc',
      land: { datasetId: 'districts', colour: '#ddeecc' },
      graticule: plainGraticule(),
      layers: map.layers.map((layer) => ({ ...layer, labels: null })),
    }
    const names = layerNames(compose(world))
    expect([names[1], names.at(-1)]).toEqual(['Graticule', 'Degrees'])
    const fills = [...walk([compose(world).children[0]])].flatMap((node) =>
      node.type === 'path' && node.fill?.type === 'solid' ? [node.fill.colour] : [],
    )
    expect(fills).toEqual([map.background, '#aabbcc', '#ddeecc'])
    expect(
      layerNames(compose({ ...world, graticule: { ...plainGraticule(), over: true, labels: null } })).at(-1),
    ).toBe('Graticule')
  })

  it('is the same for the same input, to the byte', () => {
    expect(JSON.stringify(compose())).toBe(JSON.stringify(compose()))
  })

  it('draws each district once, under its own name, and every border once', () => {
    const names = [...walk([compose()])]
      .flatMap((node) => (node.type === 'path' && node.features ? node.features.names : []))
      .filter((name) => name.startsWith('Loans per resident'))
    expect(names).toHaveLength(164)
    expect(new Set(names).size).toBe(164)
  })

  it('leaves out what lies outside the window', () => {
    const close = compose(map, { ...view, scaleDenominator: view.scaleDenominator / 12 })
    for (const node of walk([close]))
      if (
        node.type === 'path' &&
        node.features &&
        node.features.names.length === 1 &&
        node.outline.kind === 'rings'
      ) {
        const box = outlineBox(node.outline)
        expect(
          box &&
            box.x < window.width &&
            box.y < window.height &&
            box.x + box.width > 0 &&
            box.y + box.height > 0,
        ).toBe(true)
      }
    const count = (group: Group) =>
      [...walk([group])].reduce(
        (n, node) => n + (node.type === 'path' && node.features ? node.features.names.length : 0),
        0,
      )
    expect(count(close)).toBeLessThan(count(compose()) / 3)
  })

  it('carries opacity and blend mode of a layer', () => {
    const faded = {
      ...map,
      layers: map.layers.map((layer) => ({ ...layer, opacity: 0.5, blend: 'multiply' as const })),
    }
    const [, first] = compose(faded).children
    expect(first).toMatchObject({ opacity: 0.5, blend: 'multiply' })
  })
})
