import { describe, expect, it } from 'vitest'
import { fontBookOf, readFontFile } from '../font-files'
import { writePdf } from '../pdf/write'
import { renderPixels } from '../raster/bitmap'
import { writeSvg } from '../svg/write'
import { drawPdf, drawSvg, meanDifference } from './compare'
import { conformanceFonts, conformanceScenes } from './scenes'

const fonts = fontBookOf(conformanceFonts)
// 6 pixels a millimetre, so that a scene is a whole number of pixels wide in every output.
const dpi = 152.4

describe('one scene looks alike in every output', () => {
  for (const [title, scene] of Object.entries(conformanceScenes(fonts))) {
    it(title, async () => {
      const canvas = await renderPixels(scene, fonts, dpi)
      const svg = await drawSvg(writeSvg(scene, { fonts, text: 'outlines', fontBytes: readFontFile }), canvas)
      const pdf = await drawPdf(
        await writePdf([scene], { fonts, fontBytes: readFontFile, date: new Date(0) }),
        canvas,
      )
      const blank = { ...canvas, rgba: Buffer.alloc(canvas.rgba.length, 255) }
      expect(meanDifference(canvas, blank), 'something is drawn').toBeGreaterThan(0.004)
      expect(meanDifference(canvas, svg), 'canvas and SVG').toBeLessThan(0.008)
      expect(meanDifference(canvas, pdf), 'canvas and PDF').toBeLessThan(0.008)
    })
  }
})
