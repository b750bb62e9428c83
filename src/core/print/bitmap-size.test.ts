import { describe, expect, it } from 'vitest'
import { bitmapRefused, bitmapSize } from './bitmap-size'

const a0 = { widthMm: 841, heightMm: 1189 }

describe('the size of a bitmap', () => {
  it('is that of the page in dots', () => {
    expect(bitmapSize(a0, 300)).toEqual({ widthPx: 9933, heightPx: 14_043 })
    expect(bitmapSize({ widthMm: 0.001, heightMm: 25.4 }, 72)).toEqual({ widthPx: 1, heightPx: 72 })
  })

  it('is drawn up to A0 at 300 dots to the inch and more', () => {
    for (const format of ['png', 'jpeg', 'tiff'] as const)
      expect(bitmapRefused(a0, { format, dpi: 300 })).toBeNull()
    expect(bitmapRefused(a0, { format: 'pdf', dpi: 2400 })).toBeNull()
  })

  it('that is too large is refused with what fits, and that fits', () => {
    expect(bitmapRefused(a0, { format: 'png', dpi: 600 })).toBe(
      '19,866 × 28,087 pixels are more than can be drawn. Up to 508 dots per inch fit on this sheet.',
    )
    expect(bitmapRefused(a0, { format: 'png', dpi: 507 })).toBeNull()
  })

  it('is refused as a JPEG where a side is longer than that can say', () => {
    const long = { widthMm: 100, heightMm: 6000 }
    expect(bitmapRefused(long, { format: 'jpeg', dpi: 300 })).toContain(
      '1,181 × 70,866 pixels are more than a JPEG',
    )
    expect(bitmapRefused(long, { format: 'png', dpi: 300 })).toBeNull()
  })
})
