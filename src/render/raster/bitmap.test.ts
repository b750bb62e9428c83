import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { conformanceFonts, conformanceScenes } from '../conformance/scenes'
import { decode, worstTile } from '../conformance/compare'
import { fontBookOf } from '../font-files'
import { renderPixels, writePng } from './bitmap'
import { fromPng } from './other-bitmaps'
import { createPng } from './png'

const fonts = fontBookOf(conformanceFonts)
const scenes = conformanceScenes(fonts)

describe('a PNG in bands', () => {
  for (const title of ['text', 'hatch', 'multiply', 'dashes', 'linear gradient', 'many dots, clipped'])
    it(`shows no seams: ${title}`, async () => {
      const scene = scenes[title]
      const whole = await renderPixels({ ...scene, background: '#ffffff' }, fonts, 150)
      const banded = await decode(
        Buffer.from(
          await writePng({ ...scene, background: '#ffffff' }, fonts, 150, { mostPixels: 23 * whole.widthPx }),
        ),
      )
      expect(worstTile(whole, banded).difference).toBeLessThan(0.02)
    })

  it('has its size, its resolution and every pixel, transparent ones too', async () => {
    const [widthPx, heightPx] = [37, 11]
    const rgba = Buffer.from(
      Array.from({ length: 4 * widthPx * heightPx }, (_, i) => (i * i * 31 + 7 * i) % 256),
    )
    const png = createPng({ widthPx, heightPx, dpi: 300 })
    await png.write(rgba.subarray(0, 4 * widthPx * 4))
    await png.write(rgba.subarray(4 * widthPx * 4))
    const bytes = await png.end()
    const { data, info } = await sharp(bytes).raw().toBuffer({ resolveWithObject: true })
    expect([info.width, info.height, info.channels]).toEqual([37, 11, 4])
    expect(data.equals(rgba)).toBe(true)
    expect((await sharp(bytes).metadata()).density).toBe(300)
  })

  it('that lacks rows is no file', async () => {
    const png = createPng({ widthPx: 2, heightPx: 2, dpi: 72 })
    await png.write(new Uint8Array(8))
    await expect(png.end()).rejects.toThrow('1 of 2 rows')
  })
})

describe('a JPEG as large as A0 at 300 dots to the inch', () => {
  it('is made a few rows at a time', async () => {
    const [widthPx, heightPx, rows] = [9933, 14_043, 501]
    const png = createPng({ widthPx, heightPx, dpi: 300 })
    const band = Buffer.alloc(4 * widthPx * rows, 0xd0)
    for (let top = 0; top < heightPx; top += rows)
      await png.write(band.subarray(0, 4 * widthPx * Math.min(rows, heightPx - top)))
    const bytes = await png.end()
    const before = process.memoryUsage().rss
    let most = before
    const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 50)
    const jpeg = await fromPng(bytes, { format: 'jpeg', dpi: 300, quality: 90 })
    clearInterval(watch)
    expect(await sharp(jpeg).metadata()).toMatchObject({ width: widthPx, height: heightPx, density: 300 })
    // Held whole it would take 1.6 GB.
    expect((most - before) / 1e6).toBeLessThan(500)
  })
})
