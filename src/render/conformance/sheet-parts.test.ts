import { Buffer } from 'node:buffer'
import { openDemo } from '../../../demo/open'
import { prepareDatasets } from '@/core/data/prepare'
import type { Scene } from '@/core/scene/scene'
import { composeSheet, sheetFonts } from '@/core/sheet/compose-sheet'
import type { NewPart, PartBox, PartGiven } from '@/core/sheet/part'
import { pictureOf } from '@/core/sheet/parts/picture'
import { makePart, partTypeIds, partTypeOf, type Part, type PartTypeId } from '@/core/sheet/registry'
import { makeSheet } from '@/core/sheet/spec'
import { openPicture } from '@/formats/picture/open'
import type { FontBook } from '@/core/scene/text'
import { describe, expect, it } from 'vitest'
import { fontBookOf, readFontFile } from '../font-files'
import { writePdf } from '../pdf/write'
import { renderPixels } from '../raster/bitmap'
import { writeSvg } from '../svg/write'
import { drawPdf, drawSvg, worstTile } from './compare'

const { folio, contents } = openDemo()
const datasets = prepareDatasets(folio.datasets, (id) => contents.get(id) ?? null)
const map = folio.maps.find(({ id }) => id === 'loans') ?? null
const page = { widthMm: 70, heightMm: 60 }
const margins = { top: 5, right: 5, bottom: 5, left: 5 }
const leaf = {
  id: '0'.repeat(32),
  name: 'Leaf',
  type: 'image/svg+xml' as const,
  widthPx: 40,
  heightPx: 30,
}
const drawing = Buffer.from(
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"><rect width="40" height="30" fill="#eee"/><path d="M5 25C10 5 30 5 35 5C35 15 25 27 5 25Z" fill="#5b8c5a" stroke="#223344"/></svg>',
)

/** Looks that show more of a type than its first settings do. */
const richer: Partial<Record<PartTypeId, object>> = {
  panel: {
    shape: { by: 'ellipse' },
    softEdgeMm: 5,
    frame: { colour: '#333333', widthPt: 1, more: [{ colour: '#333333', widthPt: 0.5, gapPt: 2 }] },
  },
  text: {
    text: 'Soft glow',
    effects: {
      halo: null,
      glow: { colour: '#ffd36b', radiusMm: 2, strength: 0.8 },
      shadow: { colour: '#000000', opacity: 0.4, dx: 0.5, dy: 0.5, softMm: 0 },
      fill: null,
    },
  },
  shape: {
    fill: {
      by: 'hatch',
      colour: '#1f6f9c',
      background: null,
      angleDeg: 45,
      spacingMm: 1.5,
      widthPt: 0.6,
      form: 'lines',
    },
  },
  'scale-bar': { look: 'rows', heightMm: 2 },
  'north-arrow': { look: 'rose' },
  picture: { ...pictureOf(leaf), cornerMm: 3 },
}

/** A sheet with one part of a type, turned and half transparent, over a panel where it needs one. */
function sceneOf(type: PartTypeId): { scene: Scene; fonts: FontBook } {
  const given: PartGiven = {
    sheet: { page, margins, parts: [] },
    map,
    maps: folio.maps,
    datasets,
    pictures: [leaf],
    centres: new Map(),
  }
  const made = (id: string, of: PartTypeId, box: PartBox, more: Partial<Part> = {}): Part | null => {
    const panel = { id: 'panel', type: 'panel', name: 'Panel', box, hidden: false }
    const centre = map?.projection.centre ?? [0, 0]
    const parts = of === 'callout' ? [panel] : []
    const start = partTypeOf(of).initial({
      ...given,
      sheet: { ...given.sheet, parts },
      centres: new Map([['panel', centre]]),
    }) as NewPart<object> | null
    // The settings belong to the type; the union of all types cannot tell.
    return (
      start && makePart(of, { id, name: of, box, ...more }, { ...start.settings, ...richer[of] } as never)
    )
  }
  const box = { x: 8, y: 10, width: 46, height: 34 }
  const part = made('part', type, box, { rotationDeg: 12, opacity: 0.8 })
  const ground =
    type === 'panel' ? null : made('panel', 'panel', { x: 0, y: 0, ...{ width: 70, height: 60 } })
  const sheet = makeSheet({
    id: 's',
    name: 'S',
    page,
    margins,
    parts: [ground, part].filter((one) => one !== null),
  })
  const fonts = fontBookOf(sheetFonts(sheet, folio.maps, folio.typeStyles))
  const picture = openPicture(leaf, drawing)
  const input = {
    sheet,
    maps: folio.maps,
    datasets,
    pictures: () => picture,
    fonts,
    folioName: '',
    author: '',
    date: new Date(0),
  }
  return { scene: composeSheet({ ...input, toleranceMm: 0.1 }), fonts }
}

const dpi = 152.4

/** As for single scenes; small letters, which every program smooths in its own way, make up more of these. */
const limits = { svg: 0.06, pdf: 0.12 }

describe('a sheet looks alike in every output', () => {
  for (const type of partTypeIds)
    it(`with a ${type} that is turned and half transparent`, async () => {
      const { scene, fonts } = sceneOf(type)
      const canvas = await renderPixels(scene, fonts, dpi)
      const blank = { ...canvas, rgba: Buffer.alloc(canvas.rgba.length, 255) }
      expect(worstTile(canvas, blank).difference, 'something is drawn').toBeGreaterThan(0.15)
      const svg = drawSvg(writeSvg(scene, { fonts, text: 'outlines', fontBytes: readFontFile }), canvas)
      expect(worstTile(canvas, await svg).difference, 'SVG').toBeLessThan(limits.svg)
      const pdf = await writePdf([scene], { fonts, fontBytes: readFontFile, date: new Date(0) })
      expect(worstTile(canvas, await drawPdf(pdf, canvas)).difference, 'PDF').toBeLessThan(limits.pdf)
    })
})
