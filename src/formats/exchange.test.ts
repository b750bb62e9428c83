import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { zipSync } from 'fflate'
import ExcelJS from 'exceljs'
import { afterAll, describe, expect, it } from 'vitest'
import { numberColumn, textAt, textColumn } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { groundAreas } from '@/core/geo/measure'
import { geometryFromShapes } from '@/core/geo/shapes'
import { askedBy } from './import-error'
import { findReferenceSystems } from './crs/catalogue'
import { readFile } from './registry'
import { degreesOf } from './table'
import { writeDataset } from './writers/registry'
import { exportFormatIds, savedAs, type ExportFormat } from './list'
import { shortNames } from './writers/shapefile'

const folder = mkdtempSync(path.join(tmpdir(), 'keen-exchange-'))
afterAll(() => rmSync(folder, { recursive: true }))
const at = (name: string) => path.join(folder, name)
const gdal = (...args: string[]) => execFileSync('ogr2ogr', args, { stdio: ['ignore', 'pipe', 'pipe'] })
const knownToGdal = (driver: string): boolean =>
  execFileSync('ogrinfo', ['--formats']).toString().includes(driver)
const info = (file: string) => execFileSync('ogrinfo', ['-al', '-so', file]).toString()
const read = async (file: string, options = {}) =>
  (await readFile(new Uint8Array(readFileSync(at(file))), file, options)).datasets[0]
const cells = (dataset: Dataset, key: string) => {
  const column = fieldOf(dataset, key)
  return column && Array.from({ length: dataset.rowCount }, (_, row) => textAt(column, row))
}

const square = (x: number, y: number, size = 1): GeoJSON.Geometry => ({
  type: 'Polygon',
  coordinates: [
    [
      [x, y],
      [x + size, y],
      [x + size, y + size],
      [x, y + size],
      [x, y],
    ],
  ],
})
const holed: GeoJSON.Geometry = {
  type: 'MultiPolygon',
  coordinates: [
    [
      [
        [-28, 48],
        [-26, 48],
        [-26, 50],
        [-28, 50],
        [-28, 48],
      ],
      [
        [-27.5, 48.5],
        [-27.5, 49.5],
        [-26.5, 49.5],
        [-26.5, 48.5],
        [-27.5, 48.5],
      ],
    ],
    [
      [
        [-25, 48],
        [-24, 48],
        [-24, 49],
        [-25, 49],
        [-25, 48],
      ],
    ],
  ],
}
const areas: Dataset = {
  rowCount: 3,
  geometry: geometryFromShapes([square(-30, 48, 2), holed, square(-30, 50)]),
  fields: [
    { key: 'name', column: textColumn(['Åsmere', 'Łowick, “Upper”', null]) },
    { key: 'lib_loans_2025', column: numberColumn([12, -3.25, null]) },
    { key: 'n', column: numberColumn([1, 2, 3]) },
  ],
}
const fieldMeta = (key: string) => proposeMeta(key, fieldOf(areas, key) ?? numberColumn([]))
const bytesOf = async (...request: Parameters<typeof writeDataset>) => (await writeDataset(...request)).bytes
const write = async (format: ExportFormat, name: string, more = {}) =>
  writeFileSync(
    at(name),
    await bytesOf(format, {
      dataset: areas,
      name: path.parse(name).name,
      fieldMeta,
      fieldNames: 'short',
      crs: 'EPSG:4326',
      ...more,
    }),
  )
const total = (dataset: Dataset) => groundAreas(dataset.geometry).reduce((a, b) => a + b, 0)

await write('geojson', 'base.geojson')

describe('files that another program wrote are read by us', () => {
  const drivers: [string, string[], object?][] = [
    ['base.gpkg', ['-f', 'GPKG']],
    ['base.fgb', ['-f', 'FlatGeobuf']],
    ['utm.gpkg', ['-f', 'GPKG', '-t_srs', 'EPSG:32626']],
    ['utm.fgb', ['-f', 'FlatGeobuf', '-t_srs', 'EPSG:32626']],
    ['laea.geojson', ['-f', 'GeoJSON', '-lco', 'RFC7946=NO', '-t_srs', 'EPSG:3035']],
    ['base.geojsonl', ['-f', 'GeoJSONSeq']],
    ['base.kml', ['-f', 'KML', '-dsco', 'NameField=name']],
  ]
  for (const [file, args] of drivers) {
    it(`${file}: shapes, attributes, encoding and reference system intact`, async () => {
      gdal(...args, at(file), at('base.geojson'))
      const { dataset } = await read(file)
      expect(dataset.rowCount).toBe(3)
      expect(total(dataset) / total(areas)).toBeCloseTo(1, 5)
      const names = cells(dataset, 'name') ?? cells(dataset, 'Name')
      expect(names?.filter(Boolean).sort()).toEqual(['Åsmere', 'Łowick, “Upper”'])
    })
  }

  for (const [encoding, srs] of [
    ['UTF-8', 'EPSG:4326'],
    ['ISO-8859-1', 'EPSG:32626'],
  ]) {
    it(`a zipped shapefile in ${encoding} and ${srs}`, async () => {
      const stem = `towns_${srs.slice(5)}`
      gdal('-lco', `ENCODING=${encoding}`, '-t_srs', srs, at(`${stem}.shp`), at('base.geojson'))
      writeFileSync(
        at(`${stem}.zip`),
        zipSync(
          Object.fromEntries(
            ['shp', 'shx', 'dbf', 'prj', 'cpg'].map((e) => [
              `folder/${stem}.${e}`,
              new Uint8Array(readFileSync(at(`${stem}.${e}`))),
            ]),
          ),
        ),
      )
      const { dataset, guessed } = await read(`${stem}.zip`)
      expect(total(dataset) / total(areas)).toBeCloseTo(1, 5)
      expect(cells(dataset, 'name')?.[0]).toBe('Åsmere')
      expect(cells(dataset, 'lib_loans_')).toEqual(['12', '-3.25', null])
      expect(guessed.encoding).toBe(encoding.toLowerCase())
    })
  }

  it('a shapefile without .prj asks for its reference system, and takes it', async () => {
    gdal('-t_srs', 'EPSG:32626', at('lost.shp'), at('base.geojson'))
    writeFileSync(
      at('lost.zip'),
      zipSync(
        Object.fromEntries(
          ['shp', 'dbf'].map((e) => [`lost.${e}`, new Uint8Array(readFileSync(at(`lost.${e}`)))]),
        ),
      ),
    )
    await expect(read('lost.zip')).rejects.toMatchObject({
      name: 'UnknownSystemError',
      message: expect.stringContaining('Choose the reference system'),
    })
    expect(total((await read('lost.zip', { crs: 'EPSG:32626' })).dataset) / total(areas)).toBeCloseTo(1, 5)
  })

  it('tracks and waypoints of a GPX file become lines and points', async () => {
    writeFileSync(
      at('walk.gpx'),
      '<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><wpt lat="49" lon="-28"><name>Start</name></wpt><trk><name>Walk</name><trkseg><trkpt lat="49" lon="-28"/><trkpt lat="49.1" lon="-28.1"/></trkseg></trk></gpx>',
    )
    const { datasets } = await readFile(new Uint8Array(readFileSync(at('walk.gpx'))), 'walk.gpx')
    expect(datasets.map(({ dataset }) => dataset.geometry.kind).sort()).toEqual(['lines', 'points'])
  })
})

describe('files that we write are read by another program', () => {
  for (const format of exportFormatIds.filter((id) => savedAs(id).holds !== 'cells')) {
    it(`${savedAs(format).label}: rows, attributes and shapes intact, and read back by us`, async () => {
      const file = `own_${format}${savedAs(format).extension}`
      await write(format, file)
      const back = await read(file)
      expect(cells(back.dataset, 'name')).toEqual(['Åsmere', 'Łowick, “Upper”', null])
      // The other program is not always built with this format.
      if (format === 'parquet' && !knownToGdal('Parquet')) return
      const target = format === 'shp' ? `/vsizip/${at(file)}` : at(file)
      const said = info(target)
      expect(said).toContain('Feature Count: 3')
      if (savedAs(format).holds !== 'shapes' && format !== 'gpkg') return
      expect(said).toMatch(/Geometry: .*(Polygon|Unknown)/)
      expect(total(back.dataset) / total(areas)).toBeCloseTo(1, 8)
      gdal('-f', 'GeoJSON', at(`${format}_check.geojson`), target)
      const checked = await read(`${format}_check.geojson`)
      expect(total(checked.dataset) / total(areas)).toBeCloseTo(1, 6)
      expect(cells(checked.dataset, format === 'kml' ? 'Name' : 'name')?.[1]).toBe('Łowick, “Upper”')
    })
  }

  it('in a chosen reference system, with readable names', async () => {
    await write('gpkg', 'laea.gpkg', { crs: 'EPSG:3035', fieldNames: 'readable' })
    const said = info(at('laea.gpkg'))
    expect(said).toContain('Library loans 2025')
    gdal(
      '-f',
      'GeoJSON',
      '-s_srs',
      'EPSG:3035',
      '-t_srs',
      'EPSG:4326',
      at('laea_back.geojson'),
      at('laea.gpkg'),
    )
    expect(total((await read('laea_back.geojson')).dataset) / total(areas)).toBeCloseTo(1, 5)
    await write('shp', 'utm_own.zip', { crs: 'EPSG:32626' })
    expect(info(`/vsizip/${at('utm_own.zip')}`)).toMatch(/UTM zone 26N/)
  })

  it('short names are short and stand once', () => {
    expect(shortNames(['lib_loans_2024', 'lib_loans_2025', 'Größe', '名前'])).toEqual([
      'lib_loans_',
      'lib_loans2',
      'Gro_e',
      '_',
    ])
  })
})

describe('a GeoPackage of several layers', () => {
  it('asks which are wanted, and brings in those', async () => {
    gdal('-f', 'GPKG', '-nln', 'upper', at('many.gpkg'), at('base.geojson'))
    gdal('-f', 'GPKG', '-update', '-nln', 'lower', at('many.gpkg'), at('base.geojson'), '-where', 'n < 3')
    const error: unknown = await read('many.gpkg').catch((e: unknown) => e)
    expect(askedBy(error)).toEqual({
      what: 'layers',
      layers: [
        { name: 'upper', rows: 3, geometry: expect.any(String) },
        { name: 'lower', rows: 2, geometry: expect.any(String) },
      ],
    })
    expect((error as Error).message).toBe('many.gpkg holds 2 layers: upper, lower. Choose which to bring in.')
    const chosen = await readFile(new Uint8Array(readFileSync(at('many.gpkg'))), 'many.gpkg', {
      layers: ['lower'],
    })
    expect(chosen.datasets.map(({ name, dataset }) => [name, dataset.rowCount])).toEqual([['Lower', 2]])
    await expect(read('many.gpkg', { layers: ['gone'] })).rejects.toThrow(
      'has no layer gone. It has: upper, lower.',
    )
  })
})

describe('tables', () => {
  const table = async (name: string, text: string | Uint8Array, options = {}) =>
    (await readFile(typeof text === 'string' ? new TextEncoder().encode(text) : text, name, options))
      .datasets[0]

  it('with semicolons, decimal commas, thousands points and an old encoding are understood', async () => {
    const text = Buffer.from('Gebiet;Ausleihen;Quote\nÅsmere;1.234,5;0,25\nMarby;12,0;1,5\n', 'latin1')
    const { dataset, guessed } = await table('alt.csv', new Uint8Array(text))
    expect(cells(dataset, 'Gebiet')).toEqual(['Åsmere', 'Marby'])
    expect(cells(dataset, 'Ausleihen')).toEqual(['1234.5', '12'])
    expect(guessed).toMatchObject({
      delimiter: ';',
      decimalMark: ',',
      header: true,
      encoding: 'windows-1252',
    })
  })

  it('are read otherwise when told so', async () => {
    expect((await table('t.csv', 'a|b\n1|2\n', { delimiter: ',' })).dataset.fields).toHaveLength(1)
    expect(
      (await table('t.csv', 'x\n3,5\n', { delimiter: ';', decimalMark: ',' })).dataset.fields[0].column,
    ).toEqual(numberColumn([3.5]))
    expect((await table('t.csv', '1,2\n3,4\n', { header: false })).dataset.rowCount).toBe(2)
  })

  it('with coordinates become points: degrees, minutes and seconds, or a projected system', async () => {
    const degrees = await table('p.csv', 'name,lon,lat\nA,-28.5,49\nB,"27° 30′ 0″ W",49 12 36 N\n')
    expect(degrees.dataset.geometry).toMatchObject({
      kind: 'points',
      coords: Float64Array.of(-28.5, 49, -27.5, 49.21),
    })
    expect(degrees.guessed).toMatchObject({ x: 'lon', y: 'lat' })
    const metres = 'name,x,y\nA,500000,5427000\n'
    expect((await table('m.csv', metres)).dataset.geometry.kind).toBe('none')
    const utm = await table('m.csv', metres, { x: 'x', y: 'y', crs: 'EPSG:32626' })
    if (utm.dataset.geometry.kind !== 'points') throw new Error('These are points.')
    expect(utm.dataset.geometry.coords[0]).toBeCloseTo(-27, 6)
    expect((await table('p.csv', 'name,lon,lat\nA,1,2\n', { x: 'none' })).dataset.geometry.kind).toBe('none')
    await expect(table('p.csv', 'name,lon,lat\nA,1,2\nB,far,2\n', { x: 'lon', y: 'lat' })).rejects.toThrow(
      'p.csv, row 3: ‘far’ in “lon” is not a coordinate.',
    )
  })

  it('with well-known text become shapes and keep their other columns', async () => {
    const { dataset } = await table('w.csv', 'name;wkt\nA;"POLYGON((0 0, 1 0, 1 1, 0 0))"\nB;\n')
    expect([dataset.geometry.kind, dataset.rowCount, dataset.fields.map((f) => f.key)]).toEqual([
      'areas',
      2,
      ['name'],
    ])
  })

  it('of a workbook come from the fullest sheet or the one chosen; formulas stand by their results', async () => {
    const book = new ExcelJS.Workbook()
    book.addWorksheet('Notes').addRow(['nothing here'])
    const sheet = book.addWorksheet('Loans')
    sheet.addRow(['code', 'loans'])
    sheet.addRow(['A', 5])
    sheet.addRow(['B', { formula: 'B2*2', result: 10 }])
    const bytes = new Uint8Array(await book.xlsx.writeBuffer())
    const { dataset, guessed } = await table('b.xlsx', bytes)
    expect([cells(dataset, 'code'), cells(dataset, 'loans'), guessed.sheets]).toEqual([
      ['A', 'B'],
      ['5', '10'],
      ['Notes', 'Loans'],
    ])
    const cut = await table('b.xlsx', bytes, { range: 'b1:B2' })
    expect([cut.dataset.fields.map((f) => f.key), cells(cut.dataset, 'loans'), cut.guessed.range]).toEqual([
      ['loans'],
      ['5'],
      'b1:B2',
    ])
    await expect(table('b.xlsx', bytes, { range: 'B1' })).rejects.toThrow(
      '‘B1’ is not a range of cells. Write its corners, such as B3:H60.',
    )
    await expect(table('b.xlsx', bytes, { range: 'F9:G12' })).rejects.toThrow(
      'The cells F9:G12 of “Loans” are empty.',
    )
    await expect(table('b.xlsx', bytes, { sheet: 'Gone' })).rejects.toThrow(
      'b.xlsx has no sheet “Gone”. It has: Notes, Loans.',
    )
  })

  it('degrees are read in every usual way', () => {
    expect([
      degreesOf('49.5'),
      degreesOf('49,5'),
      degreesOf('-27°15′'),
      degreesOf('27 15 00 W'),
      degreesOf('49°30\'0"S'),
      degreesOf('far'),
      degreesOf('49 75 00'),
      degreesOf(''),
    ]).toEqual([49.5, 49.5, -27.25, -27.25, -49.5, null, null, null])
  })

  it('a saved table carries no formula into a spreadsheet', async () => {
    const hostile: Dataset = {
      rowCount: 4,
      geometry: { kind: 'none' },
      fields: [
        { key: 'a', column: textColumn(['=HYPERLINK("x")', '-1+cmd', '@x', 'plain']) },
        { key: '+n', column: numberColumn([-4, 1, 2, 3]) },
      ],
    }
    const { bytes, remarks } = await writeDataset('csv', {
      dataset: hostile,
      name: 'h',
      fieldMeta: (key) => proposeMeta(key, numberColumn([])),
      fieldNames: 'short',
      crs: 'EPSG:4326',
    })
    expect(new TextDecoder().decode(bytes)).toBe(
      'a,\'+n\n"\'=HYPERLINK(""x"")",-4\n\'-1+cmd,1\n\'@x,2\nplain,3\n',
    )
    expect(remarks).toEqual([
      '3 cells of text that a spreadsheet would carry out as a formula now begin with an apostrophe.',
    ])
    await expect(
      writeDataset('geojson', {
        dataset: hostile,
        name: 'h',
        fieldMeta: (key) => proposeMeta(key, numberColumn([])),
        fieldNames: 'short',
        crs: 'EPSG:4326',
      }),
    ).rejects.toThrow('“h” is a table')
  })
})

describe('hostile and broken files', () => {
  const says = async (name: string, bytes: Uint8Array | string) =>
    readFile(typeof bytes === 'string' ? new TextEncoder().encode(bytes) : bytes, name).then(
      () => 'It was read.',
      (error: Error) => error.message,
    )
  it('are refused in words before they do harm', async () => {
    const bomb = zipSync({ 'a.shp': new Uint8Array(64 * 1024 * 1024) }, { level: 9 })
    expect(await says('bomb.zip', bomb)).toContain('would unpack to more than can be taken in')
    expect(await says('paths.zip', zipSync({ '../../etc/a.txt': new Uint8Array(3) }))).toContain(
      'holds no shapefile',
    )
    expect(await says('not.zip', 'PK no')).toContain('not a complete zip archive')
    expect(
      await says('lol.kml', '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa">]><kml>&a;</kml>'),
    ).toContain('declares a document type')
    expect(await says('cut.kml', '<kml><Document>')).toContain('is not complete XML')
    expect(await says('text.gpkg', 'no database')).toContain('cannot be read as a GeoPackage')
    expect(await says('text.fgb', 'no buffer at all')).toContain('cannot be read as FlatGeobuf')
    expect(await says('text.xlsx', 'no book')).toContain('not a complete zip archive')
  })
})

describe('shapes are mended and said', () => {
  it('open rings are closed, crossing ones untangled, empty ones dropped, copies named', async () => {
    const bow = {
      type: 'Polygon',
      coordinates: [
        [
          [0, 0],
          [2, 2],
          [2, 0],
          [0, 2],
          [0, 0],
        ],
      ],
    }
    const open = {
      type: 'Polygon',
      coordinates: [
        [
          [5, 5],
          [6, 5],
          [6, 6],
        ],
      ],
    }
    const features = [bow, open, null, square(9, 9), square(9, 9)].map((geometry) => ({
      type: 'Feature',
      properties: {},
      geometry,
    }))
    const { dataset, notes } = (
      await readFile(
        new TextEncoder().encode(JSON.stringify({ type: 'FeatureCollection', features })),
        'm.geojson',
      )
    ).datasets[0]
    expect(notes.map(({ row, what }) => [row, what])).toEqual([
      [0, 'untangled a ring that crosses itself'],
      [1, 'closed an open ring'],
      [2, 'has no shape'],
      [4, 'is a copy of another row'],
    ])
    expect(notes[0].at).toEqual([1, 1])
    expect(dataset.geometry.kind === 'areas' && dataset.geometry.featureStarts[1]).toBe(2)
  })
})

describe('reference systems', () => {
  it('are found by code, name and place, those whose area holds the data first', () => {
    expect(findReferenceSystems('3035', null)[0].code).toBe('EPSG:3035')
    expect(findReferenceSystems('utm zone 26n wgs', null).map((s) => s.code)).toContain('EPSG:32626')
    const first = findReferenceSystems('utm zone', [-28, 48, -25, 51])[0]
    expect(first.areaOfUse && first.areaOfUse[0] <= -28 && first.areaOfUse[2] >= -25).toBe(true)
  })
})
