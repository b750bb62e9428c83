import { readFileSync } from 'node:fs'
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import wabt from 'wabt'
import { hillshade } from './hillshade'
import { assembled, lightKernel } from './light-kernel'

describe('four cells at a time', () => {
  it('is what its text says', async () => {
    const text = readFileSync(path.join(import.meta.dirname, 'light-kernel.wat'), 'utf8')
    const { buffer } = (await wabt()).parseWat('light-kernel.wat', text, { simd: true }).toBinary({})
    expect(assembled).toBe(Buffer.from(buffer).toString('base64'))
  })

  it('gives the light that is reckoned cell by cell, at whatever width and beside missing heights', () => {
    expect(lightKernel(5)).not.toBeNull()
    const wishes = { azimuthDeg: 300, altitudeDeg: 38, exaggeration: 2.5 }
    for (const [columns, rows] of [
      [3, 3],
      [6, 5],
      [9, 4],
      [1030, 7],
      [2, 5],
      [5, 1],
    ]) {
      const heights = Float32Array.from({ length: columns * rows }, (_, i) => {
        const [c, r] = [i % columns, Math.floor(i / columns)]
        return (c * 5 + r * 3) % 17 === 16 ? NaN : 3500 + 40 * Math.sin(c / 3) * Math.cos(r / 2) + (i % 7)
      })
      const steps = (_c: number, _r: number, out: Float64Array) => out.set([30, 2, -1, -28])
      const four = hillshade({ values: heights, columns, rows }, steps, wishes)
      // Heights of 64 bits are never taken four at a time.
      const each = hillshade({ values: Float64Array.from(heights), columns, rows }, steps, wishes)
      four.forEach((light, i) => {
        if (Number.isNaN(each[i])) expect(light).toBeNaN()
        else expect(Math.abs(light - each[i])).toBeLessThan(1e-5)
      })
    }
  })
})
