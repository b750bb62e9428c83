import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { walk, type Text } from '@/core/scene/scene'
import { fontBookOf } from '@/render/font-files'
import { composeSheet, frameOf, sheetContext, sheetFonts } from './compose-sheet'
import { boxAround } from './frame'
import { freeName } from './free-name'
import { newPart, newSheet } from './new-sheet'
import { partTypeIds, partTypeOf, type Part } from './registry'
import type { Sheet } from './spec'

const { folio, datasets } = openDemo()
const [sheet] = folio.sheets
const map = folio.maps[0]
const given = { map, maps: folio.maps, datasets, pictures: folio.pictures }

const inputOf = (own: Sheet) => ({
  sheet: own,
  maps: folio.maps,
  typeStyles: folio.typeStyles,
  datasets,
  fonts: fontBookOf(sheetFonts(own, folio.maps, folio.typeStyles)),
  folioName: '',
  author: '',
  date: new Date(0),
})
const with_ = (part: Part): Sheet => ({ ...sheet, parts: [...sheet.parts, part] })
const labelsOf = (own: Sheet) =>
  [...walk(composeSheet(inputOf(own)).children)]
    .filter((node): node is Text => node.type === 'text')
    .map(({ text }) => text)

describe('ready parts', () => {
  const all = partTypeIds.flatMap((type) =>
    Object.keys(partTypeOf(type).ready ?? {}).map((ready) => ({ type, ready })),
  )

  it('are some', () => {
    expect(all.map(({ ready }) => ready)).toEqual(
      expect.arrayContaining(['Title', 'Credits', 'Watermark', 'Dark edges', 'Seam']),
    )
  })

  for (const { type, ready } of all)
    it(`${ready}: is valid, has its name, and lies on the page`, () => {
      const part = newPart(type, 'new', { ...given, sheet, ready })!
      expect(part).toMatchObject({ type, name: freeName(sheet.parts, ready) })
      expect(partTypeOf(type).settings.safeParse(part.settings).success).toBe(true)
      const box = boxAround(frameOf(part, sheetContext(inputOf(with_(part)))))
      expect(box.x).toBeGreaterThan(-0.01)
      expect(box.y).toBeGreaterThan(-0.01)
      expect(box.x + box.width).toBeLessThan(sheet.page.widthMm + 0.01)
      expect(box.y + box.height).toBeLessThan(sheet.page.heightMm + 0.01)
    })

  it('a name that is none makes nothing', () => {
    expect(newPart('text', 'new', { ...given, sheet, ready: 'Nothing' })).toBeNull()
  })

  it('a watermark takes no label of the map away, nor the place of a new part', () => {
    const watermark = newPart('text', 'new', { ...given, sheet, ready: 'Watermark' })!
    const before = labelsOf(sheet)
    expect(labelsOf(with_(watermark)).filter((text) => text !== 'Draft')).toEqual(before)
    // Were it opaque, labels would keep off it.
    expect(labelsOf(with_({ ...watermark, opacity: 1 })).length).toBeLessThan(before.length)
    const place = (own: Sheet) => newPart('table', 't', { ...given, sheet: own })!.box
    expect(place(with_(watermark))).toEqual(place(sheet))
  })

  it('credits name every source once, in the lower right corner', () => {
    const credits = newPart('text', 'new', { ...given, sheet: { ...sheet, parts: [] }, ready: 'Credits' })!
    expect(credits.box.x + credits.box.width).toBeCloseTo(sheet.page.widthMm - sheet.margins.right, 6)
    const said = labelsOf(with_(credits)).filter((text) => text.includes('Lindmere Survey 2024'))
    expect(said.length).toBeGreaterThan(0)
    for (const text of said) expect(text.match(/Lindmere Survey 2024/g)).toHaveLength(1)
  })
})

describe('a new callout', () => {
  it('lies on the panel that it points into, beside its place', () => {
    const part = newPart('callout', 'new', { ...given, sheet })!
    const [panel] = sheet.parts.filter(({ type }) => type === 'panel')
    const middle = [panel.box.x + panel.box.width / 2, panel.box.y + panel.box.height / 2]
    expect(Math.hypot(part.box.x - middle[0], part.box.y - middle[1])).toBeLessThan(40)
  })
})

describe('a new sheet', () => {
  it('has the map with all that explains it, or a title alone', () => {
    let n = 0
    const ids = { newId: () => `n${n++}` }
    const made = newSheet(map, datasets, { name: 'New', ...ids })
    expect(made.parts.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['Panel', 'Legend', 'Scale bar', 'Title', 'Subtitle', 'Source note']),
    )
    expect(new Set(made.parts.map(({ id }) => id)).size).toBe(made.parts.length)
    expect(newSheet(null, datasets, { name: 'Empty', ...ids }).parts.map(({ name }) => name)).toEqual([
      'Title',
      'Source note',
    ])
  })
})
