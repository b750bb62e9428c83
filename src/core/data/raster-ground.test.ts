import { describe, expect, it } from 'vitest'
import { geodesicMetres } from '@/core/projection/ground'
import type { Raster } from './raster'
import { cellMetres, middleOfRaster, cellGround } from './raster-ground'

/** Of what is asked of a raster here, only its edge and its size count. */
function rasterOver(west: number, east: number, { south = 40, north = 50, wrapped = false } = {}): Raster {
  const lon = (value: number): number => (wrapped && value > 180 ? value - 360 : value)
  const places = Array.from({ length: 41 }, (_, i) => west + ((east - west) * i) / 40)
  return {
    ...{
      crs: '',
      columns: 200,
      rows: 100,
      bands: 1,
      transform: new Float64Array(6),
      values: new Float32Array(0),
    },
    edge: Float64Array.from(places.flatMap((x) => [lon(x), south, lon(x), north])),
    fileSize: Uint32Array.of(200, 100),
  }
}

describe('the ground under a raster', () => {
  it('is the same across the date line, whichever way longitudes are counted', () => {
    const plain = cellMetres(rasterOver(10, 30))
    const wanted = Math.sqrt(
      ((geodesicMetres([0, 45], [10, 45]) * 2) / 200) * (geodesicMetres([0, 40], [0, 50]) / 100),
    )
    expect(plain / wanted).toBeCloseTo(1, 3)
    for (const wrapped of [false, true]) {
      const across = rasterOver(170, 190, { wrapped })
      expect(cellMetres(across) / plain).toBeCloseTo(1, 2)
      expect(Math.abs(middleOfRaster(across)[0])).toBeCloseTo(180, 0)
    }
  })
  it('goes round the whole globe where a raster does', () => {
    const round = cellMetres(rasterOver(-180, 180, { south: -60, north: 60 }))
    expect(round).toBeGreaterThan(150_000)
    expect(round).toBeLessThan(190_000)
  })
})

describe('the ground under cells', () => {
  const grid = (crs: string, transform: number[], columns: number, rows: number) => ({
    ...{ crs, columns, rows, bands: 1, edge: new Float64Array(0), values: new Float32Array(0) },
    ...{ transform: Float64Array.from(transform), fileSize: Uint32Array.of(columns, rows) },
  })
  it('adds up to that of the whole earth in degrees', () => {
    const raster = grid('', [-180, 1, 0, 90, 0, -1], 360, 180)
    const ground = cellGround(raster)
    let km2 = 0
    for (let row = 0; row < 180; row++) km2 += (360 * ground(0, row)) / 1e6
    // The ellipsoid of WGS 84 has 510,065,622 km².
    expect(Math.abs(km2 / 510_065_622 - 1)).toBeLessThan(1e-4)
  })
  it('is what a plane has there, not what its coordinates say', () => {
    // Mercator's plane shows ground at 60° north twice as wide and twice as high.
    const merc = grid(
      '+proj=merc +a=6378137 +b=6378137 +units=m',
      [0, 1000, 0, 8_399_738 + 16_000, 0, -1000],
      32,
      32,
    )
    const ground = cellGround(merc)
    expect(Math.abs(ground(16, 16) / 250_000 - 1)).toBeLessThan(0.012)
    const utm = grid('+proj=utm +zone=26 +datum=WGS84', [500_000, 100, 0, 5_400_000, 0, -100], 64, 64)
    // On the middle meridian lengths are 0.9996 of those on the ground.
    expect(cellGround(utm)(0, 0) / (10_000 / 0.9996 ** 2)).toBeCloseTo(1, 4)
  })
})
