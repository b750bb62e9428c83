import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { prepareDatasets } from '@/core/data/prepare'
import { Folio } from '@/core/folio/schema'
import { readTemplateFile, writeTemplateFile } from '@/formats/template-file/template-file'
import { fontBookOf } from '@/render/font-files'
import { composeSheet, frameOf, sheetContext, sheetFonts } from './compose-sheet'
import { panelsOf } from './panel-view'
import { makePart } from './registry'
import { pictureOf } from './parts/picture'
import { resizedPage } from './resize-page'
import { laidOver, proposedRoles, rolesOf, sheetFromTemplate, SheetTemplate, templateOf } from './template'
import { shippedTemplates } from './templates'

const { folio, contents } = openDemo()
const datasets = prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null)
let n = 0
const wish = {
  name: 'Made',
  maps: folio.maps,
  datasets,
  newId: () => `id ${n++}`,
  typeStyles: folio.typeStyles,
  pictures: folio.pictures,
}
const [sheet] = folio.sheets

describe('the templates that ship', () => {
  it('are at least eight, each with a name of its own', () => {
    expect(shippedTemplates.length).toBeGreaterThanOrEqual(8)
    expect(new Set(shippedTemplates.map(({ id }) => id)).size).toBe(shippedTemplates.length)
  })

  for (const template of shippedTemplates)
    it(`${template.name}: nothing leaves the page, lies on other words or is too small to read`, () => {
      expect(SheetTemplate.safeParse(template).success).toBe(true)
      const made = sheetFromTemplate(template, { ...wish, roles: proposedRoles(template, folio.maps) })
      const own = made.sheet
      const fonts = fontBookOf(sheetFonts(own, folio.maps, folio.typeStyles))
      const input = {
        sheet: own,
        maps: folio.maps,
        typeStyles: folio.typeStyles,
        datasets,
        fonts,
        folioName: 'Folio',
        author: '',
        date: new Date(0),
        toleranceMm: 1,
      }
      const context = sheetContext(input)
      expect(panelsOf(own).every(({ settings }) => settings.mapId !== null)).toBe(true)
      expect(composeSheet(input, context).children).toHaveLength(own.parts.length)
      const boxes = own.parts.map((part) => ({ part, box: frameOf(part, context).box }))
      for (const { part, box } of boxes) {
        const room = part.type === 'legend' ? 3 : 0.01
        expect(box.x, part.name).toBeGreaterThanOrEqual(-0.01)
        expect(box.x + box.width, part.name).toBeLessThanOrEqual(own.page.widthMm + room)
        expect(box.y + box.height, part.name).toBeLessThanOrEqual(own.page.heightMm + room)
      }
      const words = boxes.filter(({ part }) => part.type === 'text')
      for (const [i, a] of words.entries())
        for (const b of words.slice(i + 1)) {
          const apart =
            a.box.x + a.box.width <= b.box.x ||
            b.box.x + b.box.width <= a.box.x ||
            a.box.y + a.box.height <= b.box.y + 0.6 ||
            b.box.y + b.box.height <= a.box.y + 0.6
          expect(apart, `${a.part.name} and ${b.part.name}`).toBe(true)
        }
    })
})

describe('a sheet that is kept as a template', () => {
  const leaf = { id: 'a'.repeat(32), name: 'Leaf', type: 'image/png' as const, widthPx: 3, heightPx: 2 }
  const withPicture = {
    ...sheet,
    parts: [
      ...sheet.parts,
      makePart(
        'picture',
        { id: 'pic', name: 'Leaf', box: { x: 0, y: 0, width: 9, height: 6 } },
        pictureOf(leaf),
      ),
    ],
  }
  const template = templateOf(
    withPicture,
    { ...folio, pictures: [leaf] },
    { id: 'kept', name: 'Kept', about: '' },
  )

  it('has roles in place of maps, and its fill-ins', () => {
    expect(rolesOf(template).map(({ name }) => name)).toEqual(['Main panel', 'Outer isles'])
    expect(panelsOf(template.sheet).every(({ settings }) => settings.mapId === null)).toBe(true)
    expect(JSON.stringify(template)).toContain('{{credits}}')
    expect(JSON.stringify(template)).not.toContain('loans-per-resident/heading')
  })

  it('survives a round trip through a file with its pictures', () => {
    const bytes = Uint8Array.of(1, 2, 250, 0)
    const text = writeTemplateFile({ template, pictures: new Map([[leaf.id, bytes]]) })
    const back = readTemplateFile(text)
    expect(back.template).toEqual(template)
    expect(back.pictures.get(leaf.id)).toEqual(bytes)
    expect(writeTemplateFile(back)).toBe(text)
    expect(() => readTemplateFile('{')).toThrow('not complete JSON')
    expect(() => readTemplateFile('{"format":"other"}')).toThrow('no template that can be read')
    expect(() => readTemplateFile(writeTemplateFile({ template, pictures: new Map() }))).toThrow(
      'does not hold its picture “Leaf”',
    )
  })

  it('makes a sheet that the folio can hold; parts lean on the new panels', () => {
    const made = sheetFromTemplate(template, { ...wish, roles: new Map([['Main panel', 'income']]) })
    expect(made.pictures).toEqual([leaf])
    expect(made.typeStyles).toEqual([])
    const result = { ...folio, pictures: [leaf], sheets: [made.sheet] }
    expect(Folio.safeParse(result).success).toBe(true)
    const [main, isles] = panelsOf(made.sheet)
    expect(main.settings.mapId).toBe('income')
    expect(isles.settings.mapId).toBe(null)
    const legend = made.sheet.parts.find(({ type }) => type === 'legend')!
    expect(legend.settings).toMatchObject({ panelId: main.id })
  })
})

describe('a template laid over a sheet', () => {
  it('moves its panels into the places of the template, and keeps what it has no place for', () => {
    const compared = shippedTemplates.find(({ id }) => id === 'compared')!
    const { sheet: laid } = laidOver(sheet, compared, () => `new ${n++}`)
    const [first, second] = panelsOf(laid)
    expect([first.id, second.id]).toEqual(['main', 'outer'])
    expect(first.box).toEqual(panelsOf(compared.sheet)[0].box)
    expect(first.settings).toMatchObject({ mapId: 'loans', view: panelsOf(sheet)[0].settings.view })
    const legend = laid.parts.find(({ type }) => type === 'legend')!
    expect(legend.settings).toMatchObject({ panelId: 'main' })
    expect(laid.id).toBe(sheet.id)
    expect(laid.name).toBe(sheet.name)
    expect(laid.page).toEqual(compared.sheet.page)
  })
})

describe('another size of page', () => {
  const page = { widthMm: 420, heightMm: 297 }
  it('stretches the space within the margins, or moves in what would lie outside', () => {
    const grown = resizedPage(sheet, page, 'proportion')
    const [main] = panelsOf({ parts: grown.parts })
    expect(main.box.x).toBe(12)
    expect(main.box.x + main.box.width).toBeCloseTo(420 - 12, 1)
    const back = resizedPage({ ...sheet, ...grown }, sheet.page, 'proportion')
    back.parts.forEach((part, i) => expect(part.box.x).toBeCloseTo(sheet.parts[i].box.x, 2))
    const small = resizedPage(sheet, { widthMm: 200, heightMm: 150 }, 'place')
    const bar = small.parts.find(({ type }) => type === 'scale-bar')!
    expect(bar.box.x + bar.box.width).toBeLessThanOrEqual(200)
    expect(small.parts.find(({ name }) => name === 'Title')?.box.x).toBe(0)
  })
})
