import { describe, expect, it } from 'vitest'
import { drain } from '@/core/grid/steps'
import { createProjection } from '@/core/projection/projection'
import type { Raster } from './raster'
import { gridOfRaster } from './raster-grid'
import { cellPlace } from './raster-ground'

/** A raster of tenths of a degree from 45° N on, whose values are a function of columns and rows of that size. */
function rasterFrom(west: number, value: (column: number, row: number) => number, { halvings = 0 } = {}) {
  const [fine, held] = [[200, 160] as const, [200, 160].map((n) => n / 2 ** halvings)]
  const [columns, rows] = held
  const size = 2 ** halvings
  const cell = 0.1 * size
  const [east, south] = [west + 20, 45 - 16]
  const raster: Raster = {
    ...{ crs: '', columns, rows, bands: 1 },
    transform: Float64Array.of(west, cell, 0, 45, 0, -cell),
    values: Float32Array.from({ length: columns * rows }, (_, i) =>
      value(((i % columns) + 0.5) * size, (Math.floor(i / columns) + 0.5) * size),
    ),
    edge: Float64Array.from(
      Array.from({ length: 41 }, (_, i) => west + ((east - west) * i) / 40).flatMap((x) => [x, south, x, 45]),
    ),
    fileSize: Uint32Array.of(...fine),
  }
  if (!halvings) return raster
  return {
    ...raster,
    fine: { id: 'r', side: 64, levels: halvings, digest: '', bytes: 0 },
    readTile({ level, column, row }: { level: number; column: number; row: number }) {
      const side = 2 ** level
      const [wide, high] = [fine[0] / side, fine[1] / side]
      const [across, down] = [Math.min(64, wide - 64 * column), Math.min(64, high - 64 * row)]
      return Float32Array.from({ length: across * down }, (_, i) =>
        value((64 * column + (i % across) + 0.5) * side, (64 * row + Math.floor(i / across) + 0.5) * side),
      )
    },
  }
}

const slope = (column: number, row: number): number => 3 * column + row
const ripple = (column: number): number => 100 * Math.sin((2 * Math.PI * column) / 10)

/** How far the values of a grid are from what they are at their places, at most; places at the edge do not count. */
function worst(raster: Raster, value: (column: number, row: number) => number, cells: number): number {
  const grid = drain(gridOfRaster(raster, 0, { cellM: null, cells }))!
  const projection = createProjection(grid.plane)
  let [most, count] = [0, 0]
  for (let i = 0; i < grid.values.length; i++) {
    const [c, r] = [i % grid.columns, Math.floor(i / grid.columns)]
    const at = projection.invert(grid.x0 + (c + 0.5) * grid.cell, grid.y0 + (r + 0.5) * grid.cell)!
    const size = raster.fileSize[0] / raster.columns
    const [x, y] = cellPlace(raster)(...at).map((held) => held * size)
    if (!(x > 2 && y > 2 && x < 198 && y < 158)) continue
    most = Math.max(most, Math.abs(grid.values[i] - value(x, y)))
    if (!Number.isNaN(grid.values[i])) count++
  }
  expect(count).toBeGreaterThan(0.7 * grid.values.length)
  return most
}

describe('a raster on a grid of an equal-area plane', () => {
  it('has its values where they are, over the date line as well', () => {
    for (const west of [-30, 170, -190])
      expect(worst(rasterFrom(west, slope), slope, 32_000)).toBeLessThan(1e-3)
  })

  it('is read from the finest cells that it asks for', () => {
    const held = { ...rasterFrom(10, ripple, { halvings: 2 }), readTile: undefined }
    expect(worst(held, ripple, 32_000)).toBeGreaterThan(30)
    expect(worst(rasterFrom(10, ripple, { halvings: 2 }), ripple, 32_000)).toBeLessThan(7)
  })

  it('has means of cells that are smaller than its own', () => {
    // Ripples of ten cells are nearly gone from cells of twenty.
    const grid = drain(gridOfRaster(rasterFrom(10, ripple), 0, { cellM: null, cells: 80 }))!
    for (const value of grid.values) if (!Number.isNaN(value)) expect(Math.abs(value)).toBeLessThan(40)
  })
})
