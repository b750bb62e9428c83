import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { effectiveDpi, pictureOf, placeOfPicture } from '@/core/sheet/parts/picture'
import { clearPictures, keepPicture, pictureFile, pictureFilesOf } from './pictures'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-pictures-'))
const before = process.env.KEEN_PLOT_DATA
beforeAll(() => void (process.env.KEEN_PLOT_DATA = folder))
afterAll(() => {
  process.env.KEEN_PLOT_DATA = before
  rmSync(folder, { recursive: true })
})
const stored = () => readdirSync(path.join(folder, 'pictures'))
const pixels = (width = 60, height = 40) =>
  sharp({ create: { width, height, channels: 3, background: '#5b8c5a' } })

describe('pictures', () => {
  it('are stored once, as they came', async () => {
    const bytes = await pixels().png().toBuffer()
    const { entry, remarks } = await keepPicture('Leaf.PNG', bytes)
    expect(entry).toMatchObject({ name: 'Leaf', type: 'image/png', widthPx: 60, heightPx: 40 })
    expect(remarks).toEqual([])
    expect((await keepPicture('Another name.png', bytes)).entry.id).toBe(entry.id)
    expect(stored()).toHaveLength(1)
    expect(readFileSync(pictureFile(entry.id))).toEqual(bytes)
    expect(Object.keys(pictureFilesOf([entry.id, '0'.repeat(32)]))).toEqual([entry.id])
  })

  it('that no output could take are written anew, which is said', async () => {
    const webp = await keepPicture('a.webp', await pixels().webp().toBuffer())
    expect(webp.entry.type).toBe('image/png')
    expect(webp.remarks).toEqual(['WebP was turned into PNG.'])
    const turned = await keepPicture(
      'b.jpg',
      await pixels().withMetadata({ orientation: 6 }).jpeg().toBuffer(),
    )
    expect(turned.entry).toMatchObject({ type: 'image/jpeg', widthPx: 40, heightPx: 60 })
    expect(turned.remarks).toEqual(['It was turned upright, as the camera says it was held.'])
    const cmyk = await keepPicture('c.jpg', await pixels().toColourspace('cmyk').jpeg().toBuffer())
    expect(cmyk.remarks).toEqual(['Its colours were turned from CMYK into sRGB.'])
    const interlaced = await keepPicture('d.png', await pixels().png({ progressive: true }).toBuffer())
    expect((await sharp(readFileSync(pictureFile(interlaced.entry.id))).metadata()).isProgressive).toBe(false)
  })

  it('that are drawings keep their shapes and say what was left out', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"><rect width="40" height="30"/><text>x</text></svg>'
    const { entry, remarks } = await keepPicture('leaf.svg', Buffer.from(svg))
    expect(entry).toMatchObject({ type: 'image/svg+xml', widthPx: 40, heightPx: 30 })
    expect(remarks).toEqual(['A text was left out: turn it into outlines first.'])
  })

  it('that are none, or damaged, are refused in words', async () => {
    const jpeg = await pixels(400, 300).jpeg().toBuffer()
    await expect(keepPicture('a.png', Buffer.from('hello'))).rejects.toMatchObject({
      status: 422,
      detail: expect.stringContaining('no picture that can be read'),
    })
    await expect(keepPicture('b.jpg', jpeg.subarray(0, jpeg.length / 3))).rejects.toMatchObject({
      status: 422,
      detail: expect.stringContaining('b.jpg is damaged'),
    })
    await expect(keepPicture('c.svg', Buffer.from('<svg><rect'))).rejects.toMatchObject({ status: 422 })
    expect(() => pictureFile('../../etc/passwd')).toThrow()
  })

  it('that nothing refers to any more go after a while', async () => {
    const { entry } = await keepPicture('gone.png', await pixels(7, 7).png().toBuffer())
    const count = stored().length
    expect(await clearPictures(() => false, 1e9, Date.now())).toBe(0)
    expect(await clearPictures((id) => id !== entry.id, 0, Date.now() + 1000)).toBe(1)
    expect(stored()).toHaveLength(count - 1)
  })
})

describe('a picture in its frame', () => {
  const settings = { ...pictureOf(null), pictureId: 'a', widthPx: 600, heightPx: 400 }
  const frame = { x: 10, y: 10, width: 50, height: 50 }
  it('is whole, fills it, or is stretched, less what was cut off', () => {
    expect(placeOfPicture(settings, frame).whole).toMatchObject({ x: 10, width: 50 })
    expect(placeOfPicture(settings, frame).seen.height).toBeCloseTo(33.333, 2)
    const full = placeOfPicture({ ...settings, fit: 'fill' }, frame)
    expect(full.seen).toEqual(frame)
    expect(full.whole.width).toBeCloseTo(75, 9)
    expect(placeOfPicture({ ...settings, fit: 'stretch' }, frame).whole).toEqual(frame)
    const cut = placeOfPicture({ ...settings, crop: { left: 1 / 3, top: 0, right: 0, bottom: 0 } }, frame)
    expect(cut.whole.width).toBeCloseTo(75, 6)
    expect(cut.whole.x).toBeCloseTo(-15, 6)
    expect(cut.seen.x).toBeCloseTo(10, 9)
    expect(cut.seen.height).toBeCloseTo(50, 9)
  })
  it('has fewer dots to the inch the larger it is', () => {
    expect(effectiveDpi(settings, { ...frame, width: 50.8, height: 50.8 })).toBeCloseTo(300, 6)
    expect(effectiveDpi(settings, { ...frame, width: 101.6, height: 101.6 })).toBeCloseTo(150, 6)
  })
})
