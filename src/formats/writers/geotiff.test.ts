import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import type { Raster } from '@/core/data/raster'
import { cellsOf } from '@/core/data/raster-cells'
import { memorySink } from '../byte-source'
import { referenceSystem } from '../crs/catalogue'
import { openTiles, tileReader } from '../raster-tiles/read'
import { writePyramid } from '../raster-tiles/write'
import { readFile } from '../registry'
import { writeDataset } from './registry'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-written-'))
afterAll(() => rmSync(folder, { recursive: true }))
const at = (name: string) => path.join(folder, name)
const run = (program: string, ...args: string[]) =>
  execFileSync(program, args, { stdio: ['ignore', 'pipe', 'pipe'] }).toString()

type Values = (band: number, column: number, row: number) => number
const degrees = Float64Array.of(-28, 0.05, 0, 50, 0, -0.05)

function rasterOf(values: Values, more: Partial<Raster> = {}): Raster {
  const { columns = 90, rows = 150, bands = 1 } = more
  return {
    ...{ crs: '', columns, rows, bands, transform: degrees, edge: new Float64Array(8) },
    values: Float32Array.from({ length: bands * columns * rows }, (_, i) => {
      const cell = i % (columns * rows)
      return values(Math.floor(i / (columns * rows)), cell % columns, Math.floor(cell / columns))
    }),
    fileSize: Uint32Array.of(columns, rows),
    ...more,
  }
}

async function written(raster: Raster, name: string): Promise<{ remarks: string[] }> {
  const dataset = { rowCount: raster.bands, fields: [], geometry: { kind: 'none' as const }, raster }
  const fieldMeta = () => ({ label: '', unit: '', role: 'total' as const })
  const { bytes, remarks } = await writeDataset('geotiff', {
    ...{ dataset, name: 'Heights', fieldMeta, fieldNames: 'short', crs: 'EPSG:4326' },
  })
  writeFileSync(at(name), bytes)
  return { remarks }
}

/** All cells as another program reads them, band after band. */
function cellsByOther(name: string): Float32Array {
  run(
    'gdal_translate',
    '-q',
    '-of',
    'ENVI',
    '-ot',
    'Float32',
    '-co',
    'INTERLEAVE=BSQ',
    at(name),
    at(`${name}.raw`),
  )
  const bytes = readFileSync(at(`${name}.raw`))
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
}

const utm = referenceSystem('EPSG:32626')?.proj4 ?? ''
const kinds: [string, string, Raster][] = [
  ['bytes', 'Type=Byte', rasterOf((_, c, r) => (c * 3 + r) % 256)],
  [
    'whole numbers, some of them empty',
    'Type=Int16',
    rasterOf((_, c, r) => (c === 5 && r % 2 ? NaN : c * r - 4000)),
  ],
  ['fractions in two bands', 'Type=Float32', rasterOf((b, c, r) => b + c / 7 + r / 11, { bands: 2 })],
  ['three bands of a picture', 'ColorInterp=Green', rasterOf((b, c) => (c + 80 * b) % 256, { bands: 3 })],
  ['numbers beyond 16 bits', 'Type=Float32', rasterOf((_, c) => 40_000 + c)],
  [
    'a projected system',
    'ID["EPSG",32626]',
    rasterOf((_, c, r) => c - r, {
      crs: utm,
      transform: Float64Array.of(400_000, 250, 0, 5_500_000, 0, -250),
    }),
  ],
  [
    'values that have colours, some of them empty',
    'ColorInterp=Palette',
    rasterOf((_, c, r) => (c === 3 ? NaN : (c + r) % 6), {
      ofKinds: true,
      palette: Uint32Array.from({ length: 256 }, (_, i) => (i * 40_503) & 0xffffff),
    }),
  ],
  [
    'a grid that is turned',
    '',
    rasterOf((_, c, r) => c + r, { transform: Float64Array.of(-28, 0.04, 0.01, 50, 0.01, -0.04) }),
  ],
]

describe('rasters that we write', () => {
  it.each(kinds)(
    '%s: another program reads equal values at equal places, and so do we',
    async (what, said, raster) => {
      const name = `${what.replace(/\W+/g, '_')}.tif`
      expect((await written(raster, name)).remarks).toEqual([])
      expect(run('gdalinfo', at(name))).toContain(said)
      const info = JSON.parse(run('gdalinfo', '-json', at(name))) as {
        size: number[]
        geoTransform: number[]
      }
      expect(info.size).toEqual([raster.columns, raster.rows])
      info.geoTransform.forEach((part, k) => expect(part).toBeCloseTo(raster.transform[k], 9))
      const theirs = cellsByOther(name)
      const isEqual = (value: number, i: number): boolean =>
        Object.is(value, raster.values[i]) ||
        (Number.isNaN(raster.values[i]) && (value === (raster.palette ? 255 : -32_768) || value !== value))
      expect(theirs).toHaveLength(raster.values.length)
      expect(theirs.every(isEqual)).toBe(true)
      const { dataset } = (await readFile(new Uint8Array(readFileSync(at(name))), name)).datasets[0]
      expect(dataset.raster?.values).toEqual(raster.values)
      expect(dataset.raster?.crs).toBe(raster.crs)
    },
  )

  it('have all cells of the file, not only those that are held', async () => {
    const [columns, rows] = [1700, 1100]
    const sink = memorySink()
    const pyramid = writePyramid({ columns, rows, bands: 1 }, () => sink)
    const value = (c: number, r: number): number => ((c * 3 + r * 5) % 701) - 20
    for (let r = 0; r < rows; r++)
      pyramid.row([Float32Array.from({ length: columns }, (_, c) => value(c, r))])
    const { fine, ...held } = pyramid.end()
    if (!fine) throw new Error('There are more cells than are held.')
    const raster: Raster = {
      ...{ crs: '', bands: 1, transform: degrees, edge: new Float64Array(8), ...held },
      fileSize: Uint32Array.of(columns, rows),
      fine: { ...fine, id: '' },
      readTile: tileReader(openTiles(sink.source())),
    }
    await written(raster, 'fine.tif')
    const theirs = cellsByOther('fine.tif')
    const whole = cellsOf(raster, {
      band: 0,
      level: 0,
      window: { left: 0, top: 0, right: 9999, bottom: 9999 },
    })
    expect(theirs).toEqual(whole.values)
    const info = JSON.parse(run('gdalinfo', '-json', at('fine.tif'))) as { geoTransform: number[] }
    expect(info.geoTransform[1]).toBeCloseTo(0.025, 12)
    const { readTile, ...elsewhere } = raster
    expect(readTile).toBeDefined()
    expect((await written(elsewhere, 'held.tif')).remarks.join()).toMatch(
      /fine cells of “Heights” are not here/,
    )
  })

  it('are refused where there is no raster, or no code of its system', async () => {
    const table = { rowCount: 0, fields: [], geometry: { kind: 'none' as const } }
    const fieldMeta = () => ({ label: '', unit: '', role: 'total' as const })
    const request = {
      dataset: table,
      name: 'Loans',
      fieldMeta,
      fieldNames: 'short' as const,
      crs: 'EPSG:4326',
    }
    await expect(writeDataset('geotiff', request)).rejects.toThrow(/“Loans” has none/)
    await expect(
      written(
        rasterOf(() => 1, { crs: '+proj=tmerc +lon_0=3.21' }),
        'odd.tif',
      ),
    ).rejects.toThrow(/no code/)
  })
})
