import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { undoPredictor } from './predictor'

const cells = { columns: 5, rows: 2, bands: 2 }
const count = cells.columns * cells.rows * cells.bands

/** Floats as Adobe's note has them packed: bytes by their weight, the highest first, then differences. */
function packed(values: number[], bits: 32 | 64, highestFirst: boolean): Uint8Array {
  const size = bits / 8
  const perRow = cells.columns * cells.bands
  const out = new Uint8Array(values.length * size)
  for (let row = 0; row < cells.rows; row++) {
    const bytes = new Uint8Array(perRow * size)
    for (let i = 0; i < perRow; i++) {
      const view = new DataView(new ArrayBuffer(size))
      if (bits === 64) view.setFloat64(0, values[row * perRow + i])
      else view.setFloat32(0, values[row * perRow + i])
      for (let b = 0; b < size; b++) bytes[(highestFirst ? b : size - 1 - b) * perRow + i] = view.getUint8(b)
    }
    for (let i = bytes.length - 1; i >= cells.bands; i--) bytes[i] -= bytes[i - cells.bands]
    out.set(bytes, row * perRow * size)
  }
  return out
}

describe('differences between neighbours', () => {
  for (const bits of [32, 64] as const)
    for (const bigEndian of [false, true])
      for (const highestFirst of bigEndian ? [true, false] : [true])
        it(`of floats of ${bits} bits, ${bigEndian ? 'highest' : 'lowest'} byte first, packed ${highestFirst ? 'by the note' : 'the other way'}`, () => {
          // Which way bytes stand is told by numbers that nobody measures: single ones may pass either way.
          const value = fc.double({ min: 100, max: 1e6, noNaN: true }).map((v) => Math.round(v * 64) / 64 + 0)
          fc.assert(
            fc.property(fc.array(value, { minLength: count, maxLength: count }), (values) => {
              const block = packed(values, bits, highestFirst)
              undoPredictor(block, 3, { ...cells, bits, bigEndian })
              const view = new DataView(block.buffer)
              const read = values.map((_, i) =>
                bits === 64 ? view.getFloat64(8 * i, !bigEndian) : view.getFloat32(4 * i, !bigEndian),
              )
              expect(read).toEqual(values.map((v) => (bits === 64 ? v : Math.fround(v)) + 0))
            }),
          )
        })

  it('of a size that nobody defined are refused', () => {
    expect(() => undoPredictor(new Uint8Array(6), 2, { ...cells, bits: 24, bigEndian: false })).toThrow(
      '24 bits',
    )
  })
})
