import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { heldCells, sizeAtLevel, type Raster } from '@/core/data/raster'
import { cellsOf, levelFor, sizeOf } from '@/core/data/raster-cells'
import { bytesSource, memorySink, type Sink } from '../byte-source'
import { tileFromBytes, tileToBytes } from './codec'
import { openTiles, tileReader } from './read'
import { writePyramid } from './write'

const [columns, rows] = [2611, 2357]
/** Whole numbers in the first band, others in the second; every so many cells are empty. */
const valueAt = (band: number, c: number, r: number): number => {
  if ((c * 7 + r * 13) % 11 === 0 || (c < 40 && r < 30)) return NaN
  return band ? Math.fround(Math.sin(c / 9) * 1000 + r / 7) : ((c * 31 + r * 17) % 4000) - 500
}

function made(): { raster: Raster; sink: Sink } {
  const sink = memorySink()
  const pyramid = writePyramid({ columns, rows, bands: 2 }, () => sink)
  for (let r = 0; r < rows; r++)
    pyramid.row([0, 1].map((band) => Float32Array.from({ length: columns }, (_, c) => valueAt(band, c, r))))
  const { fine, ...held } = pyramid.end()
  if (!fine) throw new Error('There are more cells than are held.')
  const raster: Raster = {
    crs: '',
    ...held,
    bands: 2,
    transform: Float64Array.of(0, 0.01 * 2 ** fine.levels, 0, 50, 0, -0.01 * 2 ** fine.levels),
    edge: new Float64Array(0),
    fileSize: Uint32Array.of(columns, rows),
    fine: { ...fine, id: 'a' },
    readTile: tileReader(openTiles(sink.source())),
  }
  return { raster, sink }
}
const { raster, sink } = made()

describe('cells in tiles', () => {
  it('come back as they were, whole numbers and others, empty ones and zeros of both signs', () => {
    const value = fc.oneof(
      fc.integer({ min: -40_000, max: 40_000 }),
      fc.float({ noNaN: false }),
      fc.constantFrom(NaN, -0, 0, 32_767, -32_767, -32_768, Infinity),
    )
    fc.assert(
      fc.property(
        fc.array(value, { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 1, max: 9 }),
        (list, wide) => {
          const high = Math.ceil(list.length / wide)
          const values = Float32Array.from({ length: wide * high }, (_, i) => list[i % list.length])
          expect(tileFromBytes(tileToBytes(values, wide), wide, high)).toEqual(values)
        },
      ),
    )
    expect(() => tileFromBytes(Uint8Array.of(1, 2, 3), 5, 5)).toThrow('not a tile')
  })

  it('are each what they are in the file, whatever window is read, over edges of tiles and of the raster', () => {
    const per = 2 ** 2
    expect(raster.fine?.levels).toBe(2)
    expect(raster.columns * raster.rows).toBeLessThanOrEqual(heldCells)
    for (const [left, top, right, bottom] of [
      [0, 0, 20, 20],
      [60, 62, 70, 70],
      [500, 350, 600, 400],
      [-30, -5, 3, 3],
    ]) {
      for (const band of [0, 1]) {
        const cells = cellsOf(raster, { band, level: 0, window: { left, top, right, bottom } })
        expect(cells.left).toBe(Math.max(0, left * per))
        expect(cells.columns).toBe(Math.min(columns, right * per) - cells.left)
        let wrong = 0
        for (let r = 0; r < cells.rows; r++)
          for (let c = 0; c < cells.columns; c++)
            if (!Object.is(cells.values[r * cells.columns + c], valueAt(band, cells.left + c, cells.top + r)))
              wrong++
        expect(wrong).toBe(0)
      }
    }
    expect(
      cellsOf(raster, { band: 0, level: 0, window: { left: 900, top: 0, right: 950, bottom: 9 } }).columns,
    ).toBe(0)
  })

  it('of coarser levels are the means of all cells of the file under them', () => {
    for (const level of [1, 2])
      for (const band of [0, 1]) {
        const size = sizeOf(raster, level)
        expect(size).toEqual(sizeAtLevel(columns, rows, level))
        const window = { left: 0, top: 0, right: raster.columns, bottom: raster.rows }
        const cells = cellsOf(raster, { band, level, window })
        const side = 2 ** level
        let worst = 0
        for (let i = 0; i < cells.values.length; i += 37) {
          const [c0, r0] = [(i % size.columns) * side, Math.floor(i / size.columns) * side]
          let [sum, count] = [0, 0]
          for (let r = r0; r < Math.min(rows, r0 + side); r++)
            for (let c = c0; c < Math.min(columns, c0 + side); c++) {
              const value = valueAt(band, c, r)
              if (Number.isNaN(value)) continue
              sum += value
              count++
            }
          if (!count) expect(cells.values[i]).toBeNaN()
          else worst = Math.max(worst, Math.abs(cells.values[i] - sum / count))
        }
        expect(worst).toBeLessThan(1e-3)
      }
  })

  it('are taken from the level that is asked for, and held ones where finer ones cannot be read', () => {
    expect(levelFor(raster, 0.1)).toBe(0)
    expect(levelFor(raster, 0.5)).toBe(1)
    expect(levelFor(raster, 1.9)).toBe(2)
    expect(levelFor(raster, 2)).toBe(3)
    const { readTile, ...elsewhere } = raster
    expect(readTile).toBeDefined()
    expect(levelFor(elsewhere, 0.1)).toBe(2)
    expect(levelFor(elsewhere, 1e9)).toBe(2 + 9)
    const coarse = cellsOf(elsewhere, {
      band: 0,
      level: 4,
      window: { left: 0, top: 0, right: 999, bottom: 999 },
    })
    expect([coarse.columns, coarse.rows]).toEqual([Math.ceil(raster.columns / 4), Math.ceil(raster.rows / 4)])
  })

  it('that are damaged are refused', () => {
    const bytes = sink.source().read(0, sink.size())
    expect(() => openTiles(bytesSource(bytes.subarray(0, 1000)))).toThrow('not a file of tiles')
    const cut = bytes.slice()
    cut.set(new Uint8Array(40), 100)
    const read = tileReader(openTiles(bytesSource(cut)))
    expect(() => read({ level: 0, band: 0, column: 0, row: 0 })).toThrow()
    expect(() => read({ level: 0, band: 2, column: 0, row: 0 })).toThrow('no such tile')
    expect(() => read({ level: 2, band: 0, column: 0, row: 0 })).toThrow('no such tile')
  })
})
