import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../../../demo/open'
import { outlineBox } from '@/core/scene/outline'
import { walk, type Path, type Text } from '@/core/scene/scene'
import { fontBookOf } from '@/render/font-files'
import { sheetContext, sheetFonts } from '../../compose-sheet'
import type { SettingsOf } from '../../registry'
import { treemapPart } from '.'
import { namedTiles } from '@/core/proof/checks/named-tiles'
import { allLines } from '../legend'
import { drawTreemap, layOutTreemap, stripProblems, tileSpace, treemapProblem } from './draw'
import { treemapLegend } from './legend'
import { tilesOf } from './tiles'

const { folio, datasets } = openDemo()
const sheet = folio.sheets.find(({ id }) => id === 'subjects-a4')!
const [part] = sheet.parts.filter(({ type }) => type === 'treemap')
/** The demo's own, with shades and a strip, and the same tiles without either. */
const full = part.settings as SettingsOf<'treemap'>
const settings: SettingsOf<'treemap'> = { ...full, shade: null, strip: null }
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
    expect(areaOf('Fiction, Novels') / areaOf('Fiction, Crime')).toBeCloseTo(loans.Novels / loans.Crime, 9)
    expect(areaOf('Fiction, Novels') / areaOf('Learning, Medicine')).toBeCloseTo(
      loans.Novels / loans.Medicine,
      9,
    )
    const all = tiles.reduce((sum, { box: { width, height } }) => sum + width * height, 0)
    expect(all).toBeCloseTo(part.box.width * part.box.height, 6)
  })

  it('colours the parts of the first level in their order, and names what fits', () => {
    const { tiles, texts } = drawn()
    const colourOf = (name: string) => tiles.find((tile) => tile.name === name)?.colour
    expect(colourOf('Fiction, Novels')).toBe(settings.colours[0])
    expect(colourOf('Fiction, Crime')).toBe(settings.colours[0])
    expect(colourOf('Children, Picture books')).not.toBe(settings.colours[0])
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
    // Each name is on the page or among those left out, and none is both.
    for (const tile of laid.tiles) {
      const [last] = tile.split(', ').slice(-1)
      const isSaid = texts.some(({ text }) => text === last || text === last.split(' ')[0])
      expect(laid.unnamed.includes(tile)).toBe(!isSaid)
    }
    // The proof counts them; on the page as it is there is room for all.
    const small = {
      ...sheet,
      parts: [{ ...part, settings, box: { ...part.box, width: 40, height: 30 } }],
    }
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
    const level = { field: 'gone', order: 'size' as const, names: [], heading: true, lineMm: 0 }
    expect(treemapProblem({ ...settings, levels: [level] }, prepared)).toMatch(/“gone” is gone/)
    expect(drawTreemap({ ...settings, levels: [level] }, part.box, context)).toEqual([])
  })

  it('is shaded by classes of what the rows of its tiles come to', () => {
    const made = tilesOf(full, datasets.get('subjects')!)
    const { plan } = made.shade!
    expect(plan.values[made.leaves.findIndex(({ of }) => of.name === 'Novels')]).toBeCloseTo(
      454_823 / 9887,
      9,
    )
    // A group as a tile: the sum of its loans over the sum of its titles, not the mean of ratios.
    const groups = tilesOf({ ...full, levels: full.levels.slice(0, 1) }, datasets.get('subjects')!)
    const [fiction] = groups.shade!.plan.values
    expect(groups.leaves[0].of.name).toBe('Fiction')
    expect(fiction).toBeCloseTo(1_096_572 / 25_268, 9)
    const { tiles } = drawn({ shade: full.shade })
    const colourOf = (name: string) => tiles.find((tile) => tile.name === name)?.colour
    expect(colourOf('Fiction, Novels')).toBe(plan.colours.at(-1))
    expect(colourOf('People and times, Travel')).toBe(plan.colours[0])
    expect(
      treemapProblem({ ...full, shade: { ...full.shade!, per: 'subject' } }, datasets.get('subjects')),
    ).toMatch(/“subject” that shades it/)
  })

  it('bears its sub-totals as a strip, exact in length, shares of parts as well', () => {
    const laid = drawn({ strip: full.strip })
    const half = laid.tiles.filter(({ name }) => name === 'People and times, Travel')
    const bars = half.map(({ box }) => box).filter(({ height }) => Math.abs(height - 7) < 1e-9)
    const total = tilesOf(full, datasets.get('subjects')!).total
    expect(bars.map(({ width }) => width / part.box.width)).toEqual([
      expect.closeTo(15_013.5 / total, 12),
      expect.closeTo(15_013.5 / total, 12),
    ])
    const words = laid.texts.map(({ text }) => text)
    expect(words).toEqual(
      expect.arrayContaining(['Told stories', '1,628,250.5 (55.1 %)', 'What there is to know']),
    )
    const twice = { ...full.strip!, subTotals: [...full.strip!.subTotals, full.strip!.subTotals[0]] }
    const made = tilesOf(full, datasets.get('subjects')!)
    expect(stripProblems({ ...full, strip: twice }, made).join()).toMatch(/Counted more than once over/)
    expect(stripProblems(full, made)).toEqual([])
  })

  it('is explained by a legend: its classes or names, and a square of its scale', () => {
    const entry = treemapLegend(full, part.box, context)!
    expect(entry.heading).toBe('Loans per title')
    expect(entry.items.map(({ key }) => key)).toEqual(
      [...Array(5).keys()].map((i) => `class-${i}`).concat('scale'),
    )
    const { swatch, label } = entry.items.at(-1)!
    const [square] = swatch.sample!(swatch.roomMm!) as Path[]
    const { width, height } = outlineBox(square.outline)!
    const { total } = tilesOf(full, datasets.get('subjects')!)
    const space = tileSpace(full, part.box, context)
    expect(label).toBe('5,000 loans')
    expect(width * height).toBeCloseTo((5000 / total) * space.width * space.height, 9)
    const names = treemapLegend({ ...settings, colourLevel: 0 }, part.box, context)!
    expect(names.items.map(({ label: name }) => name)).toContain('People and times')
    // On the sheet, the legend follows the treemap's settings.
    const legendPart = sheet.parts.find(({ type }) => type === 'legend')!
    const lines = allLines(legendPart.settings as SettingsOf<'legend'>, context)
    expect(lines.map(({ text }) => text)).toContain('5,000 loans')
    expect(lines[0].key).toBe(`${part.id}/heading`)
    expect(treemapLegend({ ...full, value: 'subject' }, part.box, context)).toBe(null)
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
    const ready = Object.values(treemapPart.ready ?? {}).map((make) =>
      make({ sheet, map, maps: folio.maps, datasets, centres: new Map(), pictures: [] }),
    )
    expect(ready.map((one) => one?.settings.layout)).toEqual(['squares', 'slices'])
    const strip = ready[1]?.settings.strip
    expect(strip?.subTotals[0].of.map(({ path }) => path.length)).toEqual([1, 1])
    expect(
      stripProblems(
        ready[1]!.settings,
        tilesOf(ready[1]!.settings, datasets.get(ready[1]!.settings.datasetId)!),
      ),
    ).toEqual([])
    expect(treemapPart.refs(settings).datasets).toEqual(['subjects'])
  })
})
