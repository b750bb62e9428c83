import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { fontBookOf } from '@/render/font-files'
import { walk, type Group, type Text } from '@/core/scene/scene'
import { outlineBox } from '@/core/scene/outline'
import { mapFonts } from '@/core/sheet/parts/panel'
import { composeMap } from './compose-map'
import { fitMap } from './view'

const { folio, datasets } = openDemo()
const [map] = folio.maps
const window = { x: 0, y: 0, width: 200, height: 140 }
const fonts = fontBookOf(mapFonts(map))
const view = fitMap(map, datasets, window)
if (!view) throw new Error('The demo map has an extent.')
const compose = (spec = map, at = view) => composeMap({ map: spec, view: at, window, datasets, fonts, toleranceMm: 0.02 })
const layerNames = (group: Group) => group.children.flatMap((node) => (node.type === 'group' ? [node.name] : []))

describe('composing a map', () => {
  it('gives one layer group for each visible layer, the bottom one first', () => {
    const visible = map.layers.filter((layer) => layer.visible).map((layer) => layer.name)
    expect(layerNames(compose())).toEqual(['Background', ...visible.reverse()])
  })

  it('is the same for the same input, to the byte', () => {
    expect(JSON.stringify(compose())).toBe(JSON.stringify(compose()))
  })

  it('draws each district once, under its own name, and every border once', () => {
    const names = [...walk([compose()])].flatMap((node) => (node.type === 'path' && node.features ? node.features.names : [])).filter((name) => name.startsWith('Loans per resident'))
    expect(names).toHaveLength(164)
    expect(new Set(names).size).toBe(164)
  })

  it('keeps names inside the window and apart from each other', () => {
    const texts = [...walk([compose()])].filter((node): node is Text => node.type === 'text')
    expect(texts.length).toBeGreaterThan(5)
    const boxes = texts.map((t) => ({ x0: t.x, x1: t.x + t.widthMm, y0: t.y - 0.65 * t.sizeMm, y1: t.y }))
    boxes.forEach((a, i) => {
      expect(a.x0 >= 0 && a.x1 <= window.width && a.y0 >= 0 && a.y1 <= window.height).toBe(true)
      for (const b of boxes.slice(i + 1)) expect(a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1).toBe(false)
    })
  })

  it('leaves out what lies outside the window', () => {
    const close = compose(map, { ...view, scaleDenominator: view.scaleDenominator / 12 })
    for (const node of walk([close]))
      if (node.type === 'path' && node.features && node.features.names.length === 1 && node.outline.kind === 'rings') {
        const box = outlineBox(node.outline)
        expect(box && box.x < window.width && box.y < window.height && box.x + box.width > 0 && box.y + box.height > 0).toBe(true)
      }
    const count = (group: Group) => [...walk([group])].reduce((n, node) => n + (node.type === 'path' && node.features ? node.features.names.length : 0), 0)
    expect(count(close)).toBeLessThan(count(compose()) / 3)
  })

  it('carries opacity and blend mode of a layer', () => {
    const faded = { ...map, layers: map.layers.map((layer) => ({ ...layer, opacity: 0.5, blend: 'multiply' as const })) }
    const [, first] = compose(faded).children
    expect(first).toMatchObject({ opacity: 0.5, blend: 'multiply' })
  })
})
