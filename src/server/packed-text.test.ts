import fc from 'fast-check'
import { expect, it } from 'vitest'
import { packText, unpackText } from './packed-text'

it('a packed text comes out as it went in', () =>
  fc.assert(
    fc.asyncProperty(fc.string({ unit: 'grapheme', maxLength: 2000 }), async (text) => {
      expect(await unpackText(await packText(text))).toBe(text)
    }),
    { numRuns: 30 },
  ))

it('one of a folio takes less than a tenth, and damage is noticed', async () => {
  const text = JSON.stringify(Array.from({ length: 5000 }, (_, i) => ({ id: `part-${i}`, width: i % 90 })))
  const packed = await packText(text)
  expect(packed.length).toBeLessThan(text.length / 10)
  await expect(unpackText(packed.subarray(0, packed.length / 2))).rejects.toThrow()
})
