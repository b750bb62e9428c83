import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { fontBookOf } from '@/render/font-files'
import { geodesicMetres } from '@/core/projection/ground'
import { createProjection } from '@/core/projection/projection'
import { paperTransform, unproject } from '@/core/map/view'
import { outlineBox } from '@/core/scene/outline'
import { walk, type Group, type Path, type Scene, type Text } from '@/core/scene/scene'
import { composeSheet, effectiveBox, sheetContext, sheetFonts } from './compose-sheet'
import { fillIn } from './fill-ins'
import { barOf } from './parts/scale-bar'
import { layOutLegend, LegendSettings } from './parts/legend'
import { pageSizeOf, type Part, type Sheet } from './spec'

const { folio, datasets } = openDemo()
const [sheet] = folio.sheets
const fonts = fontBookOf(sheetFonts(sheet, folio.maps))
const inputFor = (own: Sheet, maps = folio.maps) => ({
  sheet: own,
  maps,
  datasets,
  fonts,
  folioName: folio.name,
  author: folio.author,
  date: new Date('2026-01-31T12:00:00Z'),
})
const texts = (scene: Scene): string[] =>
  [...walk(scene.children)].filter((node): node is Text => node.type === 'text').map((node) => node.text)
const partOf = <T extends Part['type']>(type: T): Extract<Part, { type: T }> => {
  const part = sheet.parts.find((p) => p.type === type)
  if (!part) throw new Error(`The demo sheet has no ${type}.`)
  return part as Extract<Part, { type: T }>
}
const withPart = (changed: Part): Sheet => ({
  ...sheet,
  parts: sheet.parts.map((p) => (p.id === changed.id ? changed : p)),
})

describe('composing a sheet', () => {
  it('gives a layer for each part in the order of the pile; hidden parts are left out', () => {
    const scene = composeSheet(
      inputFor({ ...sheet, parts: sheet.parts.map((p) => ({ ...p, hidden: p.name === 'Subtitle' })) }),
    )
    expect(scene.children.map((node) => node.type === 'group' && node.name)).toEqual(
      sheet.parts.map((p) => p.name).filter((name) => name !== 'Subtitle'),
    )
    expect(scene.title).toBe('A country that reads: Loans, A4')
  })

  it('keeps labels of maps off the parts that lie over their panels', () => {
    for (const id of ['between-a4', 'orientation-a4', 'loans-a4']) {
      const own = folio.sheets.find((one) => one.id === id)
      if (!own) throw new Error(`There is no sheet ${id}.`)
      const input = { ...inputFor(own), fonts: fontBookOf(sheetFonts(own, folio.maps)) }
      const context = sheetContext(input)
      const panel = own.parts[0]
      const over = own.parts.slice(1).map((part) => effectiveBox(part, context))
      const scene = composeSheet(input)
      const labels = [...walk(scene.children)].filter(
        (node): node is Group =>
          node.type === 'group' && (node.name.endsWith(', labels') || node.name === 'Degrees'),
      )
      const texts = [...walk(labels)].filter(
        (node): node is Text =>
          node.type === 'text' && !node.letters && node.rotationDeg === 0 && node.x > panel.box.x,
      )
      expect(texts.length).toBeGreaterThan(5)
      for (const { x, y, widthMm, text } of texts.filter(
        ({ x, y }) => x < panel.box.x + panel.box.width && y < panel.box.y + panel.box.height,
      ))
        for (const box of over.filter(
          (one) =>
            one.y > panel.box.y && one.y + one.height < panel.box.y + panel.box.height && one.width < 100,
        ))
          expect(
            x < box.x + box.width && x + widthMm > box.x && y - 1 < box.y + box.height && y > box.y,
            `${text} on ${own.name}`,
          ).toBe(false)
    }
  })

  it('keeps the maps of panels inside their frames', () => {
    for (const node of walk(composeSheet(inputFor(sheet)).children))
      if (node.type === 'group' && node.id.endsWith(' map')) {
        const panel = sheet.parts.find((p) => node.id.startsWith(p.name))
        expect(node.clip && outlineBox(node.clip)).toEqual(panel?.box)
      }
  })
})

const linesIn = (settings: LegendSettings, context: ReturnType<typeof sheetContext>) =>
  layOutLegend(settings, partOf('legend').box, context).placed.map(({ line }) => line)

describe('the legend', () => {
  it('shows the classes of the map in the colours of the map', () => {
    const context = sheetContext(inputFor(sheet))
    const lines = linesIn(partOf('legend').settings, context)
    expect(lines.map((line) => line.text)).toEqual([
      'Loans per resident, 2025',
      'under 2.90',
      '2.90 to 3.85',
      '3.85 to 5.00',
      '5.00 to 8.00',
      '8.00 and over',
      'no return',
    ])
    const scene = composeSheet(inputFor(sheet))
    const panel = scene.children.find((node) => node.type === 'group' && node.name === 'Main panel')
    const fills = new Set(
      [...walk(panel ? [panel] : [])].flatMap((node) =>
        node.type === 'path' && node.fill?.type === 'solid' && node.features ? [node.fill.colour] : [],
      ),
    )
    for (const { item } of lines)
      if (item?.swatch.fill?.type === 'solid') expect(fills).toContain(item.swatch.fill.colour)
  })

  it('follows the map where a word was not changed, and keeps it where it was', () => {
    const more = folio.maps.map((map) => ({
      ...map,
      layers: map.layers.map((layer) =>
        layer.symbology.kind === 'choropleth'
          ? {
              ...layer,
              symbology: { ...layer.symbology, settings: { ...layer.symbology.settings, classes: 3 } },
            }
          : layer,
      ),
    }))
    const lines = linesIn(partOf('legend').settings, sheetContext(inputFor(sheet, more)))
    expect(lines).toHaveLength(5)
    expect(lines[0].text).toBe('Loans per resident, 2025')
  })

  it('leaves out the words of a hidden limit, and keeps the others in their places', () => {
    const settings = { ...partOf('legend').settings, labelsAt: 'limits' as const }
    const shown = (hiddenLines: string[]) =>
      layOutLegend(
        { ...settings, hiddenLines },
        partOf('legend').box,
        sheetContext(inputFor(sheet)),
      ).placed.filter(({ line }) => line.role === 'limit')
    const [all, some] = [shown([]), shown(['loans-per-resident/limit-0'])]
    expect(some.map(({ line }) => line.text)).toEqual(['', ...all.slice(1).map(({ line }) => line.text)])
    expect(some.slice(1).map(({ y }) => y)).toEqual(all.slice(1).map(({ y }) => y))
  })

  it('runs from high to low when asked, the missing values still last', () => {
    const lines = linesIn({ ...partOf('legend').settings, lowFirst: false }, sheetContext(inputFor(sheet)))
    expect(lines.map((line) => line.text).slice(1)).toEqual([
      '8.00 and over',
      '5.00 to 8.00',
      '3.85 to 5.00',
      '2.90 to 3.85',
      'under 2.90',
      'no return',
    ])
  })

  it('takes up the space that it draws in', () => {
    const legend = partOf('legend')
    const box = effectiveBox(legend, sheetContext(inputFor(sheet)))
    const scene = composeSheet(
      inputFor({
        ...sheet,
        parts: [
          ...sheet.parts.filter((p) => p.type === 'panel').map((p) => ({ ...p, hidden: true })),
          { ...legend, settings: { ...legend.settings, background: '#ffffff', paddingMm: 2 } },
        ],
      }),
    )
    const ground = [...walk(scene.children)].find(
      (node): node is Path =>
        node.type === 'path' && node.fill?.type === 'solid' && node.fill.colour === '#ffffff',
    )
    const drawn = ground && outlineBox(ground.outline)
    expect(drawn?.height).toBeCloseTo(box.height + 4, 6)
  })
})

describe('the scale bar', () => {
  it('is a round length, measured with geodesics at the panel’s centre', () => {
    const bar = barOf(partOf('scale-bar').settings, partOf('scale-bar').box, sheetContext(inputFor(sheet)))
    const panel = partOf('panel')
    const map = folio.maps[0]
    if (!bar) throw new Error('There is a bar.')
    expect([bar.total, bar.label]).toEqual([100, 'km'])
    const projection = createProjection(map.projection)
    const to = paperTransform(projection, panel.settings.view, panel.box)
    const [cx, cy] = [panel.box.x + panel.box.width / 2, panel.box.y + panel.box.height / 2]
    const a = unproject(projection, to, cx - bar.widthMm / 2, cy)
    const b = unproject(projection, to, cx + bar.widthMm / 2, cy)
    expect(a && b && geodesicMetres(a, b) / 100_000).toBeCloseTo(1, 4)
  })

  it('writes its unit once, behind the last number', () => {
    const words = texts(composeSheet(inputFor(sheet)))
    expect(words).toContain('100 km')
    expect(words.filter((word) => word.includes('km'))).toHaveLength(1)
    const bar = partOf('scale-bar')
    expect(
      texts(composeSheet(inputFor(withPart({ ...bar, settings: { ...bar.settings, units: 'imperial' } })))),
    ).toContain('50 miles')
  })
})

describe('fill-ins', () => {
  it('give credit for what a layer draws on besides its own dataset', () => {
    // Flows come from a table of returns; the districts that they run between are the survey's.
    const between = folio.sheets.find(({ id }) => id === 'between-a4')
    const maps = folio.maps.map((map) =>
      map.id === 'between'
        ? { ...map, layers: map.layers.filter(({ symbology }) => symbology.kind === 'flows') }
        : map,
    )
    if (!between) throw new Error('The demo has no page of flows.')
    expect(sheetContext(inputFor(between, maps)).fill('{{credits}}')).toBe(
      'Lindmere Office of Statistics, library returns 2025; boundaries, Lindmere Survey 2024',
    )
  })

  it('gather the credits of what is shown, each once, and the scale, projection and date', () => {
    const { fill } = sheetContext(inputFor(sheet))
    expect(fill('{{credits}}')).toBe(
      'boundaries, Lindmere Survey 2024; Lindmere Office of Statistics, library returns 2025',
    )
    expect(fill('{{scale}}, {{ projection }}, {{date}}')).toBe(
      '1 : 3,200,000, Lambert azimuthal equal-area projection, 31 January 2026',
    )
  })

  it('stay as they were typed where the name is not known', () => {
    expect(
      fillIn('{{dates}} {{sheet}}', {
        date: '',
        credits: '',
        scale: '',
        projection: '',
        folio: '',
        sheet: 'S',
      }),
    ).toBe('{{dates}} S')
  })
})

it('paper sizes are known by name, either way round', () => {
  expect(pageSizeOf({ widthMm: 297, heightMm: 210 })).toEqual({ name: 'A4', landscape: true })
  expect(pageSizeOf({ widthMm: 215.9, heightMm: 279.4 })).toEqual({ name: 'US Letter', landscape: false })
  expect(pageSizeOf({ widthMm: 200, heightMm: 200 })).toBeNull()
})
