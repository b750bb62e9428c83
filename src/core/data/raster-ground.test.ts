import { describe, expect, it } from 'vitest'
import { geodesicMetres } from '@/core/projection/ground'
import type { Raster } from './raster'
import { cellMetres, middleOfRaster } from './raster-ground'

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
