import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { zipSync } from 'fflate'
import { afterAll, describe, expect, it } from 'vitest'
import type { Raster } from '@/core/data/raster'
import { cellsOf } from '@/core/data/raster-cells'
import type { ValuesAre } from '@/core/data/reading'
import { askedBy } from '../import-error'
import { readFile } from '../registry'
import { readWorldFile } from './world-file'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-rasters-'))
afterAll(() => rmSync(folder, { recursive: true }))
const at = (name: string) => path.join(folder, name)
const gdal = (...args: string[]) => execFileSync('gdal_translate', ['-q', ...args], { stdio: 'pipe' })
const bytesOf = (name: string) => new Uint8Array(readFileSync(at(name)))
const zip = (...names: string[]) =>
  zipSync(Object.fromEntries(names.map((name) => [name, bytesOf(name)])), { level: 0 })
const bring = async (bytes: Uint8Array, name: string, options = {}) =>
  (await readFile(bytes, name, options)).datasets
const rasterIn = (datasets: Awaited<ReturnType<typeof bring>>, k = 0): Raster => {
  const { raster } = datasets[k].dataset
  if (!raster) throw new Error('It is a raster.')
  return raster
}

/** Heights 100 · column + row, the corner cell empty. */
const [columns, rows] = [60, 40]
const textGrid = (value: (c: number, r: number) => number): string =>
  `ncols ${columns}\nnrows ${rows}\nxllcorner -28\nyllcorner 48\ncellsize 0.05\nNODATA_value -9999\n${Array.from({ length: rows }, (_, r) => Array.from({ length: columns }, (_, c) => (r + c === 0 ? -9999 : value(c, r))).join(' ')).join('\n')}\n`
writeFileSync(
  at('base.asc'),
  textGrid((c, r) => 100 * c + r),
)
const system = ['-a_srs', 'EPSG:4326']
gdal(...system, '-ot', 'Int16', at('base.asc'), at('whole.tif'))
for (const [name, window] of Object.entries({
  'a.tif': ['0', '0', '35', '40'],
  'b.tif': ['30', '0', '30', '25'],
  'c.tif': ['35', '25', '25', '15'],
}))
  gdal('-srcwin', ...window, at('whole.tif'), at(name))

describe('several GeoTIFFs', () => {
  it('beside each other are one mosaic with the cells of the whole', async () => {
    const whole = rasterIn(await bring(bytesOf('whole.tif'), 'whole.tif'))
    const datasets = await bring(zip('a.tif', 'b.tif', 'c.tif'), 'heights.zip')
    expect(datasets.length).toBe(1)
    expect(datasets[0].name).toBe('Heights')
    expect(datasets[0].remarks?.[0]).toBe('3 files are one mosaic: a.tif, b.tif, c.tif.')
    const mosaic = rasterIn(datasets)
    expect([mosaic.columns, mosaic.rows, mosaic.crs]).toEqual([columns, rows, ''])
    expect([...mosaic.values]).toEqual([...whole.values])
    mosaic.transform.forEach((part, k) => expect(part).toBeCloseTo(whole.transform[k], 12))
  })

  it('leave empty what none of them covers', async () => {
    const mosaic = rasterIn(await bring(zip('a.tif', 'c.tif'), 'two.zip'))
    expect([mosaic.columns, mosaic.rows]).toEqual([60, 40])
    const row = (r: number) => [...mosaic.values.subarray(r * 60, (r + 1) * 60)]
    expect(row(10)[34]).toBe(3410)
    expect(row(10).slice(35).every(Number.isNaN)).toBe(true)
    expect(row(30)[59]).toBe(5930)
  })

  it('of the same ground, or on other grids, are datasets of their own', async () => {
    gdal('-scale', '0', '6000', '0', '600', at('whole.tif'), at('later.tif'))
    const twice = await bring(zip('whole.tif', 'later.tif'), 'years.zip')
    expect(twice.map(({ name }) => name)).toEqual(['Later', 'Whole'])
    gdal('-outsize', '50%', '50%', at('a.tif'), at('coarse.tif'))
    const mixed = await bring(zip('coarse.tif', 'b.tif'), 'mixed.zip')
    expect(mixed.length).toBe(2)
    expect(mixed[0].remarks?.[0]).toContain('do not lie beside each other')
  })
})

describe('world files', () => {
  it('give the place of the upper left cell by its middle, turned grids too', () => {
    expect(readWorldFile('2\n0\n0\n-2\n101\n199\n', 'a.tfw')).toEqual([100, 2, 0, 200, 0, -2])
    expect(readWorldFile('1 0.5 0.25 -1 10 20', 'a.tfw')).toEqual([9.375, 1, 0.25, 20.25, 0.5, -1])
    expect(() => readWorldFile('1\n2\nthree', 'b.tfw')).toThrow('b.tfw is no world file')
    expect(() => readWorldFile('1\n1\n1\n1\n0\n0', 'b.tfw')).toThrow('without width or height')
  })

  it('place heights in a PNG of 16 bits, and a TIFF that says nothing itself', async () => {
    const whole = rasterIn(await bring(bytesOf('whole.tif'), 'whole.tif'))
    // A PNG has no sign: what is empty is a height like any other there.
    gdal('-of', 'PNG', '-ot', 'UInt16', '-co', 'WORLDFILE=YES', at('whole.tif'), at('heights.png'))
    const world = readdirSync(folder).find((name) => /^heights\.(wld|pgw)$/.test(name))
    if (!world) throw new Error('There is a world file.')
    const unsaid = await bring(zip('heights.png', world), 'png.zip').catch((error: unknown) => error)
    expect(askedBy(unsaid)).toEqual({ what: 'system' })
    const png = rasterIn(await bring(zip('heights.png', world), 'png.zip', { crs: 'EPSG:4326' }))
    expect([...png.values.subarray(1)]).toEqual([...whole.values.subarray(1)])
    png.transform.forEach((part, k) => expect(part).toBeCloseTo(whole.transform[k], 9))

    writeFileSync(
      at('heights.prj'),
      'GEOGCS["GCS_WGS_1984",DATUM["D_WGS_1984",SPHEROID["WGS_1984",6378137,298.257223563]],PRIMEM["Greenwich",0],UNIT["Degree",0.0174532925199433]]',
    )
    const placed = rasterIn(await bring(zip('heights.png', world, 'heights.prj'), 'png.zip'))
    expect(placed.crs).toBe('')

    gdal('-co', 'PROFILE=BASELINE', '-co', 'TFW=YES', at('whole.tif'), at('bare.tif'))
    const bare = rasterIn(await bring(zip('bare.tif', 'bare.tfw'), 'bare.zip', { crs: 'EPSG:4326' }))
    expect([...bare.values.subarray(1)]).toEqual([...whole.values.subarray(1)])
    await expect(bring(bytesOf('bare.tif'), 'bare.tif')).rejects.toThrow('world file')
  })

  it('are asked for where a picture comes alone', async () => {
    await expect(bring(bytesOf('heights.png'), 'heights.png')).rejects.toThrow('together with its world file')
    await expect(bring(zipSync({ 'notes.txt': new Uint8Array(3) }), 'x.zip')).rejects.toThrow('no raster')
  })

  it('in a plane of well-known text place cells by it', async () => {
    const text =
      'PROJCS["Merran grid",GEOGCS["WGS 84",DATUM["WGS_1984",SPHEROID["WGS 84",6378137,298.257223563]],PRIMEM["Greenwich",0],UNIT["degree",0.0174532925199433]],PROJECTION["Transverse_Mercator"],PARAMETER["latitude_of_origin",0],PARAMETER["central_meridian",-27],PARAMETER["scale_factor",1],PARAMETER["false_easting",0],PARAMETER["false_northing",0],UNIT["metre",1]]'
    writeFileSync(at('grid.prj'), text)
    writeFileSync(at('grid.pgw'), '1000\n0\n0\n-1000\n-29500\n5449500\n')
    writeFileSync(at('grid.png'), bytesOf('heights.png'))
    const { edge, crs } = rasterIn(await bring(zip('grid.png', 'grid.pgw', 'grid.prj'), 'grid.zip'))
    expect(crs).toContain('Merran grid')
    // 60 columns of a kilometre lie evenly about the meridian of 27° W.
    const lons = [...edge].filter((_, i) => i % 2 === 0)
    expect((Math.min(...lons) + Math.max(...lons)) / 2).toBeCloseTo(-27, 3)
  })
})

describe('kinds of ground', () => {
  /** Patches of four kinds that are far apart as numbers; 11 and 42 in thirds. */
  const kind = (c: number, r: number) => [11, 42, 90, 255][(Math.floor(c / 7) + 3 * Math.floor(r / 5)) % 4]
  writeFileSync(at('kinds.asc'), textGrid(kind))
  const large = ['-outsize', '2400', '1600', '-r', 'nearest', '-ot', 'Byte', '-a_nodata', '0']

  it('are told from heights, and coarser cells keep what is commonest', async () => {
    gdal(...system, ...large, at('kinds.asc'), at('kinds.tif'))
    const [{ dataset, remarks }] = await bring(bytesOf('kinds.tif'), 'kinds.tif')
    expect(remarks?.[0]).toContain('kinds of ground')
    const { raster } = dataset
    if (!raster) throw new Error('It is a raster.')
    expect([raster.ofKinds, raster.columns]).toEqual([true, 1200])
    expect([...new Set(raster.values.filter((v) => v === v))].sort((a, b) => a - b)).toEqual([
      11, 42, 90, 255,
    ])
    const window = { left: 0, top: 0, right: 1200, bottom: 800 }
    const coarse = cellsOf(raster, { band: 0, level: (raster.fine?.levels ?? 0) + 4, window })
    expect(coarse.values.every((v) => v !== v || [11, 42, 90, 255].includes(v))).toBe(true)
    expect((await bring(bytesOf('whole.tif'), 'whole.tif'))[0].dataset.raster?.ofKinds).toBeUndefined()
  })

  it('keep the colours of a palette', async () => {
    const colours =
      '<ColorTable>' +
      Array.from({ length: 256 }, (_, i) => `<Entry c1="${i}" c2="${255 - i}" c3="9" c4="255"/>`).join('') +
      '</ColorTable>'
    gdal(...system, '-ot', 'Byte', '-of', 'VRT', at('kinds.asc'), at('kinds.vrt'))
    const vrt = readFileSync(at('kinds.vrt'), 'utf8')
    writeFileSync(
      at('kinds.vrt'),
      vrt.replace(/(<VRTRasterBand[^>]*>)/, `$1<ColorInterp>Palette</ColorInterp>${colours}`),
    )
    gdal(at('kinds.vrt'), at('palette.tif'))
    const raster = rasterIn(await bring(bytesOf('palette.tif'), 'palette.tif'))
    expect(raster.bands).toBe(1)
    expect(raster.palette?.[42].toString(16)).toBe('2ad509')
  })

  it('are what a person says, whatever they look like', async () => {
    const as = async (name: string, values?: ValuesAre) => {
      const [{ guessed, dataset, remarks }] = await bring(bytesOf(name), name, { values })
      const { ofKinds, bands } = dataset.raster!
      return { ...guessed, ofKinds, bands, said: remarks?.length }
    }
    expect(await as('kinds.tif')).toMatchObject({ values: 'kinds', valuesMayBe: ['amounts', 'kinds'] })
    expect(await as('kinds.tif', 'amounts')).toMatchObject({ values: 'amounts', ofKinds: undefined, said: 0 })
    expect(await as('whole.tif')).toMatchObject({ values: 'amounts', ofKinds: undefined })
    expect(await as('whole.tif', 'kinds')).toMatchObject({ values: 'kinds', ofKinds: true, said: 1 })
    // Numbers of a palette may stand for the colours of a picture as well.
    expect(await as('palette.tif', 'colours')).toMatchObject({
      ...{ values: 'colours', valuesMayBe: ['amounts', 'kinds', 'colours'] },
      ...{ bands: 3, ofKinds: undefined },
    })
    expect(await as('palette.tif', 'amounts')).toMatchObject({
      values: 'amounts',
      bands: 1,
      ofKinds: undefined,
    })
    const grey = await bring(zip('grid.png', 'grid.pgw', 'grid.prj'), 'grid.zip', { values: 'kinds' })
    expect(rasterIn(grey).ofKinds).toBe(true)
  })
})
