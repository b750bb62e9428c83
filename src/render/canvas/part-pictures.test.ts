import { createCanvas } from '@napi-rs/canvas'
import { describe, expect, it } from 'vitest'
import { openDemo } from '../../../demo/open'
import { composeSheet, sheetFonts, type SheetInput } from '@/core/sheet/compose-sheet'
import { worstTile } from '../conformance/compare'
import { fontBookOf } from '../font-files'
import { nodeSurface } from '../raster/bitmap'
import { drawScene } from './draw'
import { createPartPictures, drawSceneByParts } from './part-pictures'
import type { Context, Surface } from './surface'

const { folio, datasets } = openDemo()
const [sheet] = folio.sheets
const fonts = fontBookOf(sheetFonts(sheet, folio.maps))
const input: SheetInput = {
  sheet,
  maps: folio.maps,
  datasets,
  fonts,
  folioName: folio.name,
  author: '',
  date: new Date(0),
  toleranceMm: 0.1,
}
const pixelsPerMm = 4
const [widthPx, heightPx] = [297 * pixelsPerMm, 210 * pixelsPerMm]

/** A surface that counts the canvases that are asked of it. */
function countingSurface(): { surface: Surface; count: () => number } {
  let made = 0
  const createCanvas: Surface['createCanvas'] = (width, height) => {
    made++
    return nodeSurface.createCanvas(width, height)
  }
  return { surface: { ...nodeSurface, createCanvas }, count: () => made }
}

const paint = (draw: (context: Context) => void) => {
  const canvas = createCanvas(widthPx, heightPx)
  const context = canvas.getContext('2d')
  // The same calls as a browser's context has.
  draw(context as unknown as Context)
  return { widthPx, heightPx, rgba: Buffer.from(context.getImageData(0, 0, widthPx, heightPx).data) }
}

describe('a sheet drawn part by part', () => {
  it('looks as it does drawn at once, and paints a map again only when it has changed', () => {
    const { surface, count } = countingSurface()
    const options = { surface, fonts, pixelsPerMm, widthPx, heightPx }
    const pictures = createPartPictures()
    const whole = paint((context) => drawScene(context, composeSheet(input), options))
    const before = count()
    const byParts = paint((context) => drawSceneByParts(context, composeSheet(input), options, pictures))
    expect(worstTile(whole, byParts).difference).toBeLessThan(0.01)
    expect(count()).toBeGreaterThan(before)

    const parts = sheet.parts.map((part) =>
      part.name === 'Source note' ? { ...part, box: { ...part.box, x: part.box.x + 3 } } : part,
    )
    const painted = count()
    const moved = composeSheet({ ...input, sheet: { ...sheet, parts } })
    const movedByParts = paint((context) => drawSceneByParts(context, moved, options, pictures))
    expect(count()).toBe(painted)
    expect(
      worstTile(
        paint((context) => drawScene(context, moved, options)),
        movedByParts,
      ).difference,
    ).toBeLessThan(0.01)
    expect(worstTile(whole, movedByParts).difference).toBeGreaterThan(0.1)
  })
})

describe('composing a sheet again', () => {
  it('makes only what has changed, or leans on what has', () => {
    const nodesOf = (of: SheetInput) =>
      new Map(
        composeSheet(of).children.map((node) => [
          node.type === 'group' ? node.name : '',
          node.type === 'group' ? node.children : [],
        ]),
      )
    const before = nodesOf(input)
    const edit = (
      name: string,
      change: (part: (typeof sheet.parts)[number]) => (typeof sheet.parts)[number],
    ) =>
      nodesOf({
        ...input,
        sheet: { ...sheet, parts: sheet.parts.map((part) => (part.name === name ? change(part) : part)) },
      })
    const changed = (after: ReturnType<typeof nodesOf>) =>
      [...after].filter(([name, nodes]) => nodes !== before.get(name)).map(([name]) => name)
    const down = (part: (typeof sheet.parts)[number]) => ({
      ...part,
      box: { ...part.box, y: part.box.y + 0.5 },
    })
    expect(changed(nodesOf(input))).toEqual([])
    expect(changed(edit('Source note', down))).toEqual(['Source note'])
    const zoomed = edit('Main panel', (part) =>
      part.type === 'panel'
        ? {
            ...part,
            settings: { ...part.settings, view: { ...part.settings.view, scaleDenominator: 2_000_000 } },
          }
        : part,
    )
    expect(changed(zoomed)).toEqual(expect.arrayContaining(['Main panel', 'Scale bar', 'Legend']))
  })
})
