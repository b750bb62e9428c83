import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { gridPlace, heldCells, rasterAt, type Raster } from '@/core/data/raster'
import { fieldOf } from '@/core/data/dataset'
import { numbersOf } from '@/core/data/column'
import { fromDegrees } from '@/core/projection/reference'
import { askedBy } from '../import-error'
import { readFile } from '../registry'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-geotiff-'))
afterAll(() => rmSync(folder, { recursive: true }))
const at = (name: string) => path.join(folder, name)
const run = (program: string, ...args: string[]) =>
  execFileSync(program, args, { stdio: ['ignore', 'pipe', 'pipe'] }).toString()
const read = async (name: string, options = {}) =>
  (await readFile(new Uint8Array(readFileSync(at(name))), name, options)).datasets[0]
const rasterOf = async (name: string, options = {}): Promise<Raster> => {
  const { raster } = (await read(name, options)).dataset
  if (!raster) throw new Error('A GeoTIFF is a raster.')
  return raster
}
const figure = async (name: string, key: string) => {
  const column = fieldOf((await read(name)).dataset, key)
  return column ? [...numbersOf(column)] : []
}

/**
 * Heights 100 · column + row in degrees or metres, the corner cell empty; another program makes a GeoTIFF of
 * them.
 */
const [columns, rows] = [60, 40]
writeFileSync(
  at('base.asc'),
  `ncols ${columns}\nnrows ${rows}\nxllcorner -28\nyllcorner 48\ncellsize 0.05\nNODATA_value -9999\n${Array.from({ length: rows }, (_, r) => Array.from({ length: columns }, (_, c) => (r + c === 0 ? -9999 : 100 * c + r)).join(' ')).join('\n')}\n`,
)
const make = (name: string, ...args: string[]) =>
  run('gdal_translate', '-q', '-a_srs', 'EPSG:4326', ...args, at('base.asc'), at(name))

const kinds: [string, string[]][] = [
  ['striped 32-bit floats', ['-ot', 'Float32']],
  [
    'tiled, deflated whole numbers with differences',
    [
      '-ot',
      'Int16',
      '-co',
      'TILED=YES',
      '-co',
      'BLOCKXSIZE=16',
      '-co',
      'BLOCKYSIZE=16',
      '-co',
      'COMPRESS=DEFLATE',
      '-co',
      'PREDICTOR=2',
    ],
  ],
  [
    'LZW doubles, most significant byte first',
    ['-ot', 'Float64', '-co', 'COMPRESS=LZW', '-co', 'ENDIANNESS=BIG'],
  ],
  ...['Int16', 'UInt32', 'Float32', 'Float64'].flatMap((type) =>
    ['DEFLATE', 'LZW'].flatMap((packing): [string, string[]][] =>
      (type.startsWith('Float') ? ['2', '3'] : ['2']).flatMap((predictor): [string, string[]][] => {
        // The other program has no differences of 64 bits in older versions.
        if (type === 'Float64' && predictor === '2') return []
        const co = ['ENDIANNESS=BIG', `COMPRESS=${packing}`, `PREDICTOR=${predictor}`]
        const what = `${type}, most significant byte first, ${packing} with predictor ${predictor}`
        return [
          [
            what,
            ['-ot', type, ...(type === 'UInt32' ? ['-a_nodata', '0'] : []), ...co.flatMap((c) => ['-co', c])],
          ],
        ]
      }),
    ),
  ),
  ['a BigTIFF of 32-bit whole numbers', ['-ot', 'Int32', '-co', 'BIGTIFF=YES']],
]

describe('elevation models of another program', () => {
  for (const [what, args] of kinds) {
    it(`${what}: every value stands at its place, empty cells are missing`, async () => {
      const name = `${what.replace(/\W+/g, '_')}.tif`
      make(name, ...args)
      const raster = await rasterOf(name)
      expect([raster.columns, raster.rows, raster.bands, raster.crs]).toEqual([columns, rows, 1, ''])
      expect(Array.from(raster.values.subarray(1, columns * rows))).toEqual(
        Array.from(
          { length: columns * rows - 1 },
          (_, i) => 100 * ((i + 1) % columns) + Math.floor((i + 1) / columns),
        ),
      )
      expect(raster.values[0]).toBeNaN()
      // The middle of the cell in column 10, row 5.
      expect(rasterAt(raster, 0, ...gridPlace(raster, -28 + 10.5 * 0.05, 50 - 5.5 * 0.05))).toBeCloseTo(
        1005,
        3,
      )
      expect(await figure(name, 'lowest')).toEqual([1])
      expect(await figure(name, 'highest')).toEqual([5939])
      expect((await figure(name, 'empty_percent'))[0]).toBeCloseTo(100 / (columns * rows), 9)
    })
  }

  it('in a projected system lie where they should, and reach round in degrees', async () => {
    make('degrees.tif')
    run('gdalwarp', '-q', '-t_srs', 'EPSG:32626', '-tr', '2000', '2000', at('degrees.tif'), at('utm.tif'))
    const raster = await rasterOf('utm.tif')
    const [lon, lat] = [-26.5, 49.1]
    const value = rasterAt(raster, 0, ...gridPlace(raster, ...fromDegrees(raster.crs)(lon, lat)))
    const expected = 100 * ((lon + 28) / 0.05 - 0.5) + ((50 - lat) / 0.05 - 0.5)
    expect(Math.abs(value - expected)).toBeLessThan(100)
    expect(Math.min(...raster.edge.filter((_, i) => i % 2 === 0))).toBeCloseTo(-28, 0)
    expect(Math.max(...raster.edge.filter((_, i) => i % 2 === 1))).toBeCloseTo(50, 0)
  })

  it('are reduced to means when they are large; from an overview when they are larger', async () => {
    run(
      'gdal_translate',
      '-q',
      '-outsize',
      '2400',
      '1600',
      '-r',
      'nearest',
      '-ot',
      'Float32',
      '-co',
      'COMPRESS=DEFLATE',
      '-a_srs',
      'EPSG:4326',
      at('base.asc'),
      at('large.tif'),
    )
    const raster = await rasterOf('large.tif')
    expect(raster.columns * raster.rows).toBeLessThanOrEqual(heldCells)
    expect([...raster.fileSize]).toEqual([2400, 1600])
    expect(rasterAt(raster, 0, ...gridPlace(raster, -28 + 10.5 * 0.05, 50 - 5.5 * 0.05))).toBeCloseTo(1005, 1)
    run(
      'gdal_translate',
      '-q',
      '-outsize',
      '12000',
      '8000',
      '-r',
      'nearest',
      '-ot',
      'Int16',
      '-co',
      'COMPRESS=DEFLATE',
      '-co',
      'TILED=YES',
      '-a_srs',
      'EPSG:4326',
      at('base.asc'),
      at('huge.tif'),
    )
    run('gdaladdo', '-q', '-r', 'average', at('huge.tif'), '2', '4', '8')
    const reduced = await rasterOf('huge.tif')
    expect([...reduced.fileSize]).toEqual([12000, 8000])
    expect([reduced.columns, reduced.rows]).toEqual([1500, 1000])
    expect(rasterAt(reduced, 0, ...gridPlace(reduced, -28 + 10.5 * 0.05, 50 - 5.5 * 0.05))).toBeCloseTo(
      1005,
      0,
    )
  })

  it('with a scale, an offset and a fractional mark for what is missing give the heights that are meant', async () => {
    make('scaled.tif', '-ot', 'Int16', '-a_scale', '0.1', '-a_offset', '5')
    writeFileSync(at('mark.asc'), readFileSync(at('base.asc'), 'utf8').replaceAll('-9999', '-9999.9'))
    run('gdal_translate', '-q', '-a_srs', 'EPSG:4326', '-ot', 'Float32', at('mark.asc'), at('mark.tif'))
    const scaled = await rasterOf('scaled.tif')
    const cell = 3 * columns + 10
    // 100 × column 10 + row 3, held as whole numbers of a tenth from 5.
    expect(scaled.values[cell]).toBeCloseTo((100 * 10 + 3) * 0.1 + 5, 4)
    expect(scaled.values[0]).toBeNaN()
    // −9999.9 is another number in 32 bits than in 64, and a mark all the same.
    const marked = await rasterOf('mark.tif')
    expect([marked.values[0], marked.values[cell]]).toEqual([NaN, 1003])
  })

  it('without a reference system ask for it; without a place are refused', async () => {
    run('gdal_translate', '-q', '-ot', 'Float32', at('base.asc'), at('lost.tif'))
    expect(askedBy(await read('lost.tif').catch((error: unknown) => error))).toEqual({ what: 'system' })
    expect((await rasterOf('lost.tif', { crs: 'EPSG:4326' })).crs).toBe('')
    run('gdal_create', '-q', '-of', 'GTiff', '-outsize', '4', '4', '-bands', '1', at('nowhere.tif'))
    await expect(read('nowhere.tif')).rejects.toThrow('does not say where on the ground it lies')
    await expect(readFile(new TextEncoder().encode('II*'), 'cut.tif')).rejects.toThrow(
      'cut.tif cannot be read as a GeoTIFF',
    )
  })
})

describe('pictures of another program', () => {
  const place = ['-a_srs', 'EPSG:4326', '-a_ullr', '-28', '50', '-25', '48']
  it('keep their colours in three bands; what is clear is missing', async () => {
    run(
      'gdal_create',
      '-q',
      '-of',
      'GTiff',
      '-ot',
      'Byte',
      '-outsize',
      '30',
      '20',
      '-bands',
      '3',
      '-burn',
      '200',
      '-burn',
      '90',
      '-burn',
      '10',
      ...place,
      at('rgb.tif'),
    )
    const raster = await rasterOf('rgb.tif')
    expect(raster.bands).toBe(3)
    expect([0, 1, 2].map((band) => rasterAt(raster, band, 15, 10))).toEqual([200, 90, 10])
    run(
      'gdal_create',
      '-q',
      '-of',
      'GTiff',
      '-ot',
      'Byte',
      '-outsize',
      '30',
      '20',
      '-bands',
      '4',
      '-burn',
      '200',
      '-burn',
      '90',
      '-burn',
      '10',
      '-burn',
      '0',
      ...place,
      at('clear.tif'),
    )
    const clear = await rasterOf('clear.tif')
    expect([clear.bands, clear.values[0]]).toEqual([3, NaN])
  })

  it('with a table of colours come as red, green and blue', async () => {
    run(
      'gdal_create',
      '-q',
      '-of',
      'GTiff',
      '-ot',
      'Byte',
      '-outsize',
      '4',
      '4',
      '-bands',
      '1',
      '-burn',
      '1',
      ...place,
      at('plain.tif'),
    )
    writeFileSync(at('colours.txt'), '0 0 0 0\n1 30 60 120\n')
    run('gdaldem', 'color-relief', '-q', at('plain.tif'), at('colours.txt'), at('tinted.tif'))
    run(
      'gdal_translate',
      '-q',
      '-of',
      'GTiff',
      '-co',
      'PHOTOMETRIC=YCBCR',
      '-co',
      'COMPRESS=JPEG',
      '-co',
      'JPEG_QUALITY=95',
      at('tinted.tif'),
      at('ycbcr.tif'),
    )
    const raster = await rasterOf('ycbcr.tif')
    expect(raster.bands).toBe(3)
    const seen = [0, 1, 2].map((band) => rasterAt(raster, band, 2, 2))
    seen.forEach((value, i) => expect(Math.abs(value - [30, 60, 120][i])).toBeLessThan(6))
  })
})

describe('what a file says of its cells beside their values', () => {
  it('masks within the file make cells empty', async () => {
    make('nodata.tif', '-ot', 'Int16')
    // The band itself as the mask: where it is 0, and only there, cells are clear.
    run(
      ...(['gdal_translate', '-q', '--config', 'GDAL_TIFF_INTERNAL_MASK', 'YES', '-ot', 'Byte'] as const),
      ...['-scale', '0', '5939', '0', '255', '-b', '1', '-mask', '1', '-a_nodata', 'none', at('nodata.tif')],
      at('masked-bytes.tif'),
    )
    const raster = await rasterOf('masked-bytes.tif')
    const cells = run('gdalinfo', '-stats', at('masked-bytes.tif'))
    const valid = Number(/STATISTICS_VALID_PERCENT=([\d.]+)/.exec(cells)?.[1])
    const empty = Array.from(raster.values.subarray(0, columns * rows)).filter(Number.isNaN).length
    expect(empty).toBeGreaterThan(0)
    expect(100 - (100 * empty) / (columns * rows)).toBeCloseTo(valid, 1)
  })

  it('an opacity of 16 bits makes cells empty, and a fourth band that is none stays a band', async () => {
    make('one.tif', '-ot', 'UInt16', '-a_nodata', 'none')
    run(
      'gdal_translate',
      '-q',
      '-b',
      '1',
      '-b',
      '1',
      '-colorinterp',
      'gray,alpha',
      at('one.tif'),
      at('alpha.tif'),
    )
    const raster = await rasterOf('alpha.tif')
    expect(raster.bands).toBe(1)
    expect(Array.from(raster.values).filter(Number.isNaN).length).toBeGreaterThanOrEqual(1)
    run(
      ...(['gdal_translate', '-q', '-b', '1', '-b', '1', '-b', '1', '-b', '1'] as const),
      ...['-colorinterp', 'gray,undefined,undefined,undefined', at('one.tif'), at('four.tif')],
    )
    expect((await rasterOf('four.tif')).bands).toBe(4)
  })

  it('values of more figures than are held are counted', async () => {
    writeFileSync(
      at('fine.asc'),
      'ncols 2\nnrows 2\nxllcorner 0\nyllcorner 0\ncellsize 1\n16777217.25 3.5\n1 2\n',
    )
    run(
      'gdal_translate',
      '-q',
      '-oo',
      'DATATYPE=Float64',
      '-a_srs',
      'EPSG:4326',
      at('fine.asc'),
      at('fine.tif'),
    )
    expect((await read('fine.tif')).remarks?.join(' ')).toContain('1 values have more figures than the seven')
    make('plain.tif', '-ot', 'Float64')
    expect((await read('plain.tif')).remarks).toEqual([])
  })
})
