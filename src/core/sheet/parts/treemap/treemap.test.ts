import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../../demo/open'
import { outlineBox } from '@/core/scene/outline'
import { walk, type Path, type Text } from '@/core/scene/scene'
import { fontBookOf } from '@/render/font-files'
import { sheetContext, sheetFonts } from '../../compose-sheet'
import type { SettingsOf } from '../../registry'
import { treemapPart } from '.'
import { namedTiles } from '@/core/proof/checks/named-tiles'
import { drawTreemap, layOutTreemap, treemapProblem } from './draw'

const { folio, datasets } = openDemo()
const sheet = folio.sheets.find(({ id }) => id === 'subjects-a4')!
const [part] = sheet.parts.filter(({ type }) => type === 'treemap')
const settings = part.settings as SettingsOf<'treemap'>
const context = sheetContext({
  sheet,
  maps: folio.maps,
  typeStyles: folio.typeStyles,
  datasets,
  fonts: fontBookOf(sheetFonts(sheet, folio.maps, folio.typeStyles)),
  folioName: '',
  author: '',
  date: new Date(0),
})
const drawn = (change: Partial<typeof settings> = {}, box = part.box) => {
  const nodes = [...walk(drawTreemap({ ...settings, ...change }, box, context))]
  const tiles = nodes.filter((node): node is Path => node.type === 'path' && node.fill !== null)
  return {
    tiles: tiles.map(({ outline, fill, features }) => ({
      box: outlineBox(outline)!,
      name: features?.names[0],
      colour: fill?.type === 'solid' ? fill.colour : '',
    })),
    texts: nodes.filter((node): node is Text => node.type === 'text'),
  }
}

describe('a treemap on a sheet', () => {
  it('has a tile for each subject, as large as its share of all loans', () => {
    const { tiles } = drawn()
    expect(tiles).toHaveLength(25)
    const loans = { Novels: 454_823, Crime: 249_444, Medicine: 26_010 }
    const areaOf = (name: string) => {
      const tile = tiles.find((one) => one.name === name)!
      return tile.box.width * tile.box.height
    }
    expect(areaOf('Novels') / areaOf('Crime')).toBeCloseTo(loans.Novels / loans.Crime, 9)
    expect(areaOf('Novels') / areaOf('Medicine')).toBeCloseTo(loans.Novels / loans.Medicine, 9)
    const all = tiles.reduce((sum, { box: { width, height } }) => sum + width * height, 0)
    expect(all).toBeCloseTo(part.box.width * part.box.height, 6)
  })

  it('colours the parts of the first level in their order, and names what fits', () => {
    const { tiles, texts } = drawn()
    const colourOf = (name: string) => tiles.find((tile) => tile.name === name)?.colour
    expect(colourOf('Novels')).toBe(settings.colours[0])
    expect(colourOf('Crime')).toBe(settings.colours[0])
    expect(colourOf('Picture books')).not.toBe(settings.colours[0])
    const words = texts.map(({ text }) => text)
    expect(words).toEqual(expect.arrayContaining(['Fiction', 'Novels', '454,823', 'Medicine']))
    expect(drawn({ values: false }).texts.map(({ text }) => text)).not.toContain('454,823')
    for (const { x, y, widthMm } of texts) {
      const around = tiles.filter(
        ({ box }) => x >= box.x && x <= box.x + box.width && y >= box.y && y <= box.y + box.height,
      )
      expect(around).toHaveLength(1)
      const isHeading = [
        'Fiction',
        'Children',
        'People and times',
        'Making things',
        'Land and sea',
        'Learning',
      ]
      const text = texts.find((one) => one.x === x && one.y === y)?.text ?? ''
      if (!isHeading.includes(text)) expect(x + widthMm).toBeLessThan(around[0].box.x + around[0].box.width)
    }
  })

  it('leaves out names that do not fit, and never the tile', () => {
    const { tiles, texts } = drawn({}, { ...part.box, width: 40, height: 30 })
    expect(tiles).toHaveLength(25)
    expect(texts.length).toBeLessThan(15)
    const laid = layOutTreemap(settings, { ...part.box, width: 40, height: 30 }, context)
    const named = new Set(texts.map(({ text }) => text))
    const leaves = laid.tiles.filter((name) => !named.has(name))
    expect(laid.unnamed.filter((name) => laid.tiles.includes(name))).toEqual(leaves)
    // The proof counts them; on the page as it is there is room for all.
    const small = { ...sheet, parts: [{ ...part, box: { ...part.box, width: 40, height: 30 } }] }
    const finding = namedTiles.run({ sheet: small as typeof sheet, context, layers: [] })
    expect(finding).toMatchObject({ ok: false, target: { desk: 'sheet', partId: part.id } })
    expect(finding?.detail).toContain(`${laid.unnamed.length} have no room`)
    expect(namedTiles.run({ sheet, context, layers: [] })?.ok).toBe(
      layOutTreemap(settings, part.box, context).unnamed.length === 0,
    )
  })

  it('says what it lacks, and is then empty', () => {
    const prepared = datasets.get('subjects')
    expect(treemapProblem(settings, undefined)).toBe('Its dataset is gone.')
    expect(treemapProblem({ ...settings, value: 'subject' }, prepared)).toBe('It needs a field of numbers.')
    const level = { field: 'gone', order: 'size' as const, names: [], lineMm: 0 }
    expect(treemapProblem({ ...settings, levels: [level] }, prepared)).toMatch(/“gone” is gone/)
    expect(drawTreemap({ ...settings, levels: [level] }, part.box, context)).toEqual([])
  })

  it('begins with a dataset of the map, by its name and largest first', () => {
    const map = folio.maps.find(({ id }) => id === 'loans')!
    const made = treemapPart.initial({
      sheet,
      map,
      maps: folio.maps,
      datasets,
      centres: new Map(),
      pictures: [],
    })
    expect(made?.settings.levels.at(-1)?.field).toBe('name')
    expect(made && treemapProblem(made.settings, datasets.get(made.settings.datasetId))).toBeNull()
    expect(treemapPart.refs(settings).datasets).toEqual(['subjects'])
  })
})
