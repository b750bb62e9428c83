import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { legendBlocks } from '@/core/legend/entries'
import { composeSheet, sheetContext, sheetFonts } from '@/core/sheet/compose-sheet'
import { proofSheet } from '@/core/proof/registry'
import { fontBookOf } from '@/render/font-files'
import { walk } from '@/core/scene/scene'
import { drawnLayers } from './drawn'
import type { Layer, MapSpec } from './spec'

const { folio, datasets } = openDemo()
const [sheet] = folio.sheets
const map = folio.maps[0]
const view = { centre: map.projection.centre, scaleDenominator: 1_000_000 }
const fonts = fontBookOf(sheetFonts(sheet, folio.maps))
const names = (of: MapSpec, at = view) => drawnLayers(of, at, datasets).map(({ layer }) => layer.name)
const withLayer = (name: string, change: Partial<Layer>): MapSpec => ({
  ...map,
  layers: map.layers.map((layer) => (layer.name === name ? { ...layer, ...change } : layer)),
})
const thematic = 'Loans per resident'

/** What is drawn, listed and proofed of a sheet whose first map was changed. */
function sheetWith(changed: MapSpec) {
  const input = {
    sheet,
    maps: [changed, ...folio.maps.slice(1)],
    datasets,
    fonts,
    folioName: folio.name,
    author: '',
    date: new Date(0),
    toleranceMm: 0.5,
  }
  const context = sheetContext(input)
  const scene = composeSheet(input, context)
  const groups = [...walk(scene.children)].flatMap((node) => (node.type === 'group' ? [node.name] : []))
  const legend = legendBlocks(context.panel(null)?.layers ?? [], {})
  return { groups, legend, proof: proofSheet(sheet, context), credits: context.fill('{{credits}}') }
}

describe('what is seen of a map', () => {
  it('leaves out what is hidden, in a hidden group, out of its range of scales, or filtered away', () => {
    const group = { id: 'g', name: 'G', visible: false, opacity: 1, blend: 'normal' as const, folded: false }
    expect(names(map)).toContain('Towns')
    expect(names(withLayer('Towns', { visible: false }))).not.toContain('Towns')
    expect(names({ ...withLayer('Towns', { groupId: 'g' }), groups: [group] })).not.toContain('Towns')
    expect(
      names({ ...withLayer('Towns', { groupId: 'g' }), groups: [{ ...group, visible: true }] }),
    ).toContain('Towns')
    const near = withLayer('Towns', { scales: { closest: null, farthest: 500_000 } })
    expect(names(near)).not.toContain('Towns')
    expect(names(near, { ...view, scaleDenominator: 400_000 })).toContain('Towns')
    expect(drawnLayers(near, null, datasets).map(({ layer }) => layer.name)).toContain('Towns')
    expect(names(withLayer('Towns', { filter: 'population > 1e12' }))).not.toContain('Towns')
    expect(names(withLayer('Towns', { datasetId: 'gone' }))).not.toContain('Towns')
  })

  it('is what the legend lists, the proof looks at and the credits name', () => {
    const before = sheetWith(map)
    const drawnOf = (groups: string[]) => groups.filter((name) => name === thematic).length
    expect(drawnOf(before.groups)).toBeGreaterThan(0)
    expect(before.legend).toHaveLength(1)
    for (const change of [
      { scales: { closest: null, farthest: 1000 } },
      { filter: 'population < 0' },
      { visible: false },
    ]) {
      const { groups, legend, proof } = sheetWith(withLayer(thematic, change))
      expect(drawnOf(groups)).toBeLessThan(drawnOf(before.groups))
      expect(legend).toEqual([])
      // Nothing thematic is seen: there is nothing to explain or to classify.
      expect(proof.map(({ id }) => id)).not.toContain('legend-present')
      expect(proof.map(({ id }) => id)).not.toContain('values-in-classes')
    }
  })

  it('hidden with its group takes its credit along', () => {
    const group = { id: 'g', name: 'G', visible: false, opacity: 1, blend: 'normal' as const, folded: false }
    const all = map.layers.map((layer) => ({ ...layer, groupId: 'g' }))
    expect(sheetWith(map).credits).not.toBe('')
    const without = sheetWith({ ...map, layers: all, groups: [group], land: null }).credits
    expect(without.length).toBeLessThan(sheetWith(map).credits.length)
  })
})
