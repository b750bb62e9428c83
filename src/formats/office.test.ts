import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { execFileSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { zipSync } from 'fflate'
import { afterAll, describe, expect, it } from 'vitest'
import { exactText, numberColumn, textAt, textColumn, type Column } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { groundAreas } from '@/core/geo/measure'
import { geometryFromShapes } from '@/core/geo/shapes'
import { exportFormatIds, savedAs, type ExportFormat } from './list'
import { readFile } from './registry'
import { writeDataset } from './writers/registry'

const bytesOf = (value: unknown) =>
  new TextEncoder().encode(typeof value === 'string' ? value : JSON.stringify(value))
const read = async (name: string, value: unknown) => (await readFile(bytesOf(value), name)).datasets[0]
const cells = (dataset: Dataset, key: string) => {
  const column = dataset.fields.find((field) => field.key === key)?.column as Column
  return Array.from({ length: dataset.rowCount }, (_, row) => textAt(column, row))
}

describe('JSON-stat', () => {
  const cube = {
    version: '2.0',
    class: 'dataset',
    label: 'Readers in Vintarra',
    source: 'Office of Figures',
    id: ['state', 'year', 'what'],
    size: [2, 2, 1],
    dimension: {
      state: {
        label: 'State',
        category: { index: ['004', '008'], label: { '004': 'Nathby', '008': 'Grimanyard' } },
      },
      year: { category: { index: { '2024': 1, '2023': 0 } } },
      what: { category: { label: { readers: 'Readers' }, unit: { readers: { label: 'persons' } } } },
    },
    value: { 0: 10, 1: 11, 3: 21 },
    status: { 2: ':' },
  }
  it('becomes a long table: names, codes, values and flags', async () => {
    const { dataset, name, remarks } = await read('readers.json', cube)
    expect(name).toBe('Readers in Vintarra')
    expect(dataset.fields.map(({ key }) => key)).toEqual([
      'State code',
      'State',
      'year',
      'what code',
      'what',
      'value',
      'flag',
    ])
    expect(cells(dataset, 'State code')).toEqual(['004', '004', '008', '008'])
    expect(cells(dataset, 'year')).toEqual(['2023', '2024', '2023', '2024'])
    expect(cells(dataset, 'value')).toEqual(['10', '11', null, '21'])
    expect(cells(dataset, 'flag')).toEqual([null, null, ':', null])
    expect(remarks?.join(' ')).toContain('Source: Office of Figures. Units: persons.')
  })
  it('says what is wrong with it', async () => {
    await expect(read('a.jsonstat', { ...cube, size: [2, 2] })).rejects.toThrow('sides and their sizes')
    await expect(read('a.jsonstat', { ...cube, size: [1e6, 1e6, 1] })).rejects.toThrow('more than')
    for (const [change, says] of [
      [{ value: [1, 2, 3] }, 'make 4 cells, but 3 values stand in it'],
      [{ value: { 0: 1, 4: 2 } }, 'name the cell ‘4’'],
      [{ value: { 0: 1, first: 2 } }, 'name the cell ‘first’'],
      [{ status: { 9: ':' } }, 'statuses name the cell ‘9’'],
      [{ size: [3, 2, 1], value: {} }, '“State” has 2 categories, but its size is said to be 3'],
    ] as [object, string][])
      await expect(read('a.jsonstat', { ...cube, ...change })).rejects.toThrow(says)
  })
  it('says of a collection what lies elsewhere, and tells two items of one name apart', async () => {
    const collection = {
      version: '2.0',
      class: 'collection',
      link: { item: [cube, { class: 'dataset', href: 'elsewhere.json' }, cube] },
    }
    const { datasets } = await readFile(new TextEncoder().encode(JSON.stringify(collection)), 'all.jsonstat')
    expect(datasets.map(({ name }) => name)).toEqual(['Readers in Vintarra', 'Readers in Vintarra 2'])
    expect(datasets[0].remarks?.join(' ')).toContain('1 more item of the collection lie')
  })
})

describe('PX', () => {
  const px = [
    'CHARSET="ANSI";\nCODEPAGE="utf-8";\nTITLE="Loans by state "\n"and year";\nUNITS="loans";',
    'STUB="State";\nHEADING="Year";\nVALUES("State")="Nathby","Ösféll; north";\nCODES("State")="004","020";',
    'VALUES[sv]("State")="x","y";\nVALUES("Year")="2023","2024";\nSOURCE="Office";\nDATA=\n1.5 2\n".." -4;\n',
  ].join('\n')
  it('becomes a long table', async () => {
    const { dataset, name } = await read('loans.px', px)
    expect(name).toBe('Loans by state and year')
    expect(cells(dataset, 'State')).toEqual(['Nathby', 'Nathby', 'Ösféll; north', 'Ösféll; north'])
    expect(cells(dataset, 'State code')).toEqual(['004', '004', '020', '020'])
    expect(cells(dataset, 'value')).toEqual(['1.5', '2', null, '-4'])
    expect(cells(dataset, 'flag')).toEqual([null, null, '..', null])
  })
  it('puts values of a sparse table in their rows by keys, and zeros into those that are not written', async () => {
    const sparse = px
      .replace('DATA=', 'KEYS("State")=CODES;\nDATA=')
      .replace('1.5 2\n".." -4;', '"020",".." -4;')
    const { dataset, remarks } = await read('sparse.px', sparse)
    expect(cells(dataset, 'State code')).toEqual(['004', '004', '020', '020'])
    expect(cells(dataset, 'value')).toEqual(['0', '0', null, '-4'])
    expect(remarks?.join(' ')).toContain('1 rows are not written in the file')
    await expect(read('a.px', sparse.replace('"020",', '"999",'))).rejects.toThrow('has no value ‘999’')
  })
  it('keeps the unit of each content', async () => {
    const contents = [
      'TITLE="Reading";CONTVARIABLE="What";STUB="State";HEADING="What";VALUES("State")="Nathby","Eld";',
      'VALUES("What")="Loans","Ground";UNITS("Loans")="loans";UNITS("Ground")="km²";DATA=1 2 3 4;',
    ].join('\n')
    const { dataset } = await read('contents.px', contents)
    expect(cells(dataset, 'unit')).toEqual(['loans', 'km²', 'loans', 'km²'])
  })
  it('says where its table breaks off', async () => {
    await expect(read('a.px', px.replace('1.5 2', '1.5'))).rejects.toThrow('4 cells, but 3 stand in it')
    await expect(read('a.px', 'TITLE="x";')).rejects.toThrow('it has no DATA')
  })
})

describe('SDMX-JSON', () => {
  const message = (dataSets: unknown[]) => ({
    meta: { schema: 'sdmx-json' },
    data: {
      dataSets,
      structures: [
        {
          name: { en: 'Reading' },
          dimensions: {
            series: [
              {
                id: 'GEO',
                name: { en: 'State' },
                values: [{ id: 'NAT', name: { en: 'Nathby' } }, { id: 'GRI' }],
              },
            ],
            observation: [{ id: 'TIME_PERIOD', values: [{ id: '2023' }, { id: '2024' }] }],
          },
          attributes: {
            observation: [{ id: 'OBS_STATUS', values: [{ id: 'E', name: { en: 'estimated' } }] }],
          },
        },
      ],
    },
  })
  it('becomes a long table, by series or flat', async () => {
    const series = {
      series: { 0: { observations: { 0: [1.5, 0], 1: [2] } }, 1: { observations: { 1: ['3'] } } },
    }
    const flat = { observations: { '0:0': [1.5, 0], '0:1': [2], '1:1': [3] } }
    for (const set of [series, flat]) {
      const { dataset } = await read('reading.json', message([set]))
      expect(cells(dataset, 'State')).toEqual(['Nathby', 'Nathby', 'GRI'])
      expect(cells(dataset, 'TIME_PERIOD')).toEqual(['2023', '2024', '2024'])
      expect(cells(dataset, 'value')).toEqual(['1.5', '2', '3'])
      expect(cells(dataset, 'flag')).toEqual(['E', null, null])
    }
    await expect(read('a.sdmx', message([{ observations: { '0:7': [1] } }]))).rejects.toThrow('lies outside')
  })
})

describe('SDMX-JSON attributes', () => {
  it('of series and groups stay, and periods that have a value in place of a name', async () => {
    const message = {
      data: {
        dataSets: [
          {
            attributes: [0],
            series: {
              0: { attributes: [0, null], observations: { 0: [1.5] } },
              1: { attributes: [1, 0], observations: { 1: [2] } },
            },
          },
        ],
        structures: [
          {
            dimensions: {
              series: [{ id: 'GEO', values: [{ id: 'NAT' }, { id: 'GRI' }] }],
              observation: [{ id: 'TIME_PERIOD', values: [{ value: '2023' }, { value: '2024' }] }],
            },
            attributes: {
              dataSet: [{ id: 'SOURCE', values: [{ id: 'OF', name: 'Office of Figures' }] }],
              series: [
                {
                  id: 'UNIT_MULT',
                  values: [
                    { id: '3', name: 'Thousands' },
                    { id: '0', name: 'Units' },
                  ],
                },
                { id: 'NOTE', values: [{ id: 'N', name: 'Without isles' }] },
              ],
            },
          },
        ],
      },
    }
    const { dataset, remarks } = await read('reading.sdmx', message)
    expect(cells(dataset, 'TIME_PERIOD')).toEqual(['2023', '2024'])
    expect(cells(dataset, 'UNIT_MULT')).toEqual(['Thousands', 'Units'])
    expect(cells(dataset, 'NOTE')).toEqual([null, 'Without isles'])
    expect(remarks?.join(' ')).toContain('SOURCE: Office of Figures.')
  })
})

describe('SDMX-ML', () => {
  const header =
    '<message:Header><message:ID>x</message:ID><common:Name>Reading</common:Name></message:Header>'
  const around = (root: string, body: string) =>
    `<?xml version="1.0"?><message:${root} xmlns:message="m" xmlns:generic="g" xmlns:common="c" xmlns:xsi="i">${header}<message:DataSet action="Replace">${body}</message:DataSet></message:${root}>`
  const generic = around(
    'GenericData',
    `<generic:Group><generic:GroupKey><generic:Value id="GEO" value="NAT"/></generic:GroupKey><generic:Attributes><generic:Value id="UNIT_MULT" value="3"/></generic:Attributes></generic:Group>
     <generic:Series><generic:SeriesKey><generic:Value id="GEO" value="NAT"/></generic:SeriesKey>
     <generic:Obs><generic:ObsDimension value="2023"/><generic:ObsValue value="1.5"/><generic:Attributes><generic:Value id="OBS_STATUS" value="E"/></generic:Attributes></generic:Obs>
     <generic:Obs><generic:ObsDimension value="2024"/><generic:ObsValue value="NaN"/></generic:Obs></generic:Series>`,
  )
  const flat = around(
    'GenericData',
    `<generic:Obs><generic:ObsKey><generic:Value id="GEO" value="NAT"/><generic:Value id="TIME_PERIOD" value="2023"/></generic:ObsKey><generic:ObsValue value="1.5"/><generic:Attributes><generic:Value id="OBS_STATUS" value="E"/><generic:Value id="UNIT_MULT" value="3"/></generic:Attributes></generic:Obs>
     <generic:Obs><generic:ObsKey><generic:Value id="GEO" value="NAT"/><generic:Value id="TIME_PERIOD" value="2024"/></generic:ObsKey><generic:Attributes><generic:Value id="UNIT_MULT" value="3"/></generic:Attributes></generic:Obs>`,
  )
  const specific = around(
    'StructureSpecificData',
    `<Group xsi:type="ns1:Sibling" GEO="NAT" UNIT_MULT="3"/><Series GEO="NAT"><Obs TIME_PERIOD="2023" OBS_VALUE="1.5" OBS_STATUS="E"/><Obs TIME_PERIOD="2024"/></Series>`,
  )
  it.each([
    ['generic by series', generic],
    ['generic and flat', flat],
    ['structure-specific', specific],
  ])('becomes a long table: %s', async (_, text) => {
    const { dataset, remarks, name } = await read('reading.xml', text)
    expect(name).toBe('Reading')
    expect(cells(dataset, 'GEO')).toEqual(['NAT', 'NAT'])
    expect(cells(dataset, 'TIME_PERIOD')).toEqual(['2023', '2024'])
    expect(cells(dataset, 'value')).toEqual(['1.5', null])
    expect(cells(dataset, 'OBS_STATUS')).toEqual(['E', null])
    expect(cells(dataset, 'UNIT_MULT')).toEqual(['3', '3'])
    expect(remarks?.join(' ')).toContain('10 to the power of 3')
  })
  it('is told from other XML, and says where it breaks', async () => {
    await expect(read('a.xml', '<a><b/></a>')).rejects.toThrow('no SDMX-ML with data')
    await expect(read('a.xml', specific.slice(0, -20))).rejects.toThrow('is not complete XML')
  })
})

describe('OpenDocument sheets', () => {
  const content = `<?xml version="1.0"?><office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body><office:spreadsheet>
<table:table table:name="Notes"><table:table-row><table:table-cell office:value-type="string"><text:p>x</text:p></table:table-cell></table:table-row></table:table>
<table:table table:name="Figures">
<table:table-row><table:table-cell office:value-type="string"><text:p>state</text:p></table:table-cell><table:table-cell><text:p>n</text:p></table:table-cell><table:table-cell><text:p>since</text:p></table:table-cell><table:table-cell table:number-columns-repeated="16000"/></table:table-row>
<table:table-row table:number-rows-repeated="2"><table:table-cell office:value-type="string"><text:p>A<text:s text:c="2"/>b</text:p><office:annotation><text:p>aside</text:p></office:annotation></table:table-cell><table:table-cell office:value-type="float" office:value="1.25"><text:p>1,3</text:p></table:table-cell><table:table-cell office:value-type="date" office:date-value="2026-01-02"><text:p>2 Jan</text:p></table:table-cell></table:table-row>
<table:table-row table:number-rows-repeated="1048000"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>
<table:table-row><table:table-cell><text:p>C</text:p></table:table-cell><table:table-cell/><table:table-cell office:value-type="date" office:date-value="2026-01-02T10:30:00"><text:p>x</text:p></table:table-cell></table:table-row>
</table:table></office:spreadsheet></office:body></office:document-content>`
  it('are read as workbooks are: the fullest sheet, repeated cells, values rather than their looks', async () => {
    const file = zipSync({ 'content.xml': new TextEncoder().encode(content) })
    const { dataset } = (await readFile(file, 'figures.ods')).datasets[0]
    expect(cells(dataset, 'state')).toEqual(['A  b', 'A  b', 'C'])
    expect(cells(dataset, 'n')).toEqual(['1.25', '1.25', null])
    expect(cells(dataset, 'since')).toEqual(['2026-01-02', '2026-01-02', '2026-01-02T10:30:00'])
  })
})

const square = (x: number, y: number): GeoJSON.Polygon => ({
  type: 'Polygon',
  coordinates: [
    [
      [x, y],
      [x + 1, y],
      [x + 1, y + 1],
      [x, y + 1],
      [x, y],
    ],
  ],
})

/** Every type that a field may have, with what troubles formats. */
const odd: Dataset = {
  rowCount: 3,
  geometry: geometryFromShapes([
    square(179.5, 10),
    null,
    { type: 'MultiPolygon', coordinates: [square(1, 1).coordinates, square(5, 5).coordinates] },
  ]),
  fields: [
    { key: 'name', column: exactText(['Österå', '', null]) },
    { key: 'code', column: textColumn(['007', '1e5', '042']) },
    { key: 'whole', column: { ...numberColumn([null, 5, -7]), type: 'integer' } },
    { key: 'long', column: exactText(['123456789012345678', null, '-9007199254740993'], 'integer') },
    { key: 'real', column: numberColumn([0.1, 1.5e20, null]) },
    { key: 'yes', column: exactText(['true', 'false', null], 'boolean') },
    { key: 'day', column: exactText(['2026-01-02', null, '1899-12-31'], 'date') },
    { key: 'moment', column: exactText(['2026-01-02T03:04:05Z', null, '2026-06-07T08:09:10Z'], 'datetime') },
  ],
}

/** What a format cannot hold, by what it gives back instead. */
const less: Partial<Record<ExportFormat, Record<string, (string | null)[]>>> = {
  csv: { name: ['Österå', null, null] },
  xlsx: { name: ['Österå', null, null], moment: ['2026-01-02T03:04:05', null, '2026-06-07T08:09:10'] },
  shp: { name: ['Österå', null, null] },
  kml: { name: ['Österå', null, null] },
}

describe('every type and oddity', () => {
  const ofRows = exportFormatIds.filter((id) => savedAs(id).holds !== 'cells')
  it.each(ofRows)('goes out to %s and comes back equal', async (format) => {
    const { bytes } = await writeDataset(format, {
      dataset: odd,
      name: 'odd',
      fieldMeta: (key) => proposeMeta(key, odd.fields[0].column),
      fieldNames: 'short',
      crs: 'EPSG:4326',
    })
    const { datasets } = await readFile(bytes, `odd${savedAs(format).extension}`)
    const { dataset } = datasets[0]
    for (const { key, column } of odd.fields) {
      const expected = Array.from({ length: 3 }, (_, row) => textAt(column, row))
      expect(cells(dataset, key), `${format}: ${key}`).toEqual(less[format]?.[key] ?? expected)
    }
    if (format === 'xlsx') return
    const [a, b, c] = groundAreas(dataset.geometry)
    const [x, , z] = groundAreas(odd.geometry)
    expect([a / x, b, c / z].map((v) => Number(v.toFixed(9)))).toEqual([1, 0, 1])
  })
})

const folder = mkdtempSync(path.join(tmpdir(), 'keen-gdal-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const gdal = (() => {
  try {
    execFileSync('ogr2ogr', ['--version'], { stdio: 'ignore' })
    return true
  } catch {
    return false
  }
})()

describe.runIf(gdal)('an independent program', () => {
  it.each(['geojson', 'gpkg', 'fgb', 'shp', 'kml'] as const)(
    'reads what is written as %s',
    async (format) => {
      const { bytes } = await writeDataset(format, {
        dataset: odd,
        name: 'odd',
        fieldMeta: (key) => proposeMeta(key, odd.fields[0].column),
        fieldNames: 'short',
        crs: 'EPSG:4326',
      })
      const file = path.join(folder, `odd${savedAs(format).extension}`)
      writeFileSync(file, bytes)
      const out = path.join(folder, `${format}.geojson`)
      execFileSync('ogr2ogr', ['-f', 'GeoJSON', out, format === 'shp' ? `/vsizip/${file}` : file], {
        stdio: 'ignore',
      })
      const { features } = JSON.parse(readFileSync(out, 'utf8')) as GeoJSON.FeatureCollection
      expect(features).toHaveLength(3)
      expect(features[0].properties).toMatchObject({ code: '007' })
      if (format !== 'kml') {
        expect(features[1].properties).toMatchObject({ whole: 5, real: 1.5e20 })
        expect(features[2].properties?.whole).toBe(-7)
        expect(features[0].properties?.whole ?? null).toBeNull()
      }
    },
  )

  it('writes what is read the same: types, curves, systems and collections', async () => {
    const csv = path.join(folder, 'in.csv')
    writeFileSync(
      csv,
      'id,big,flag,day,wkt\n1,9007199254740993,1,2026/01/02,"CURVEPOLYGON (CIRCULARSTRING (0 0,1 1,2 0,1 -1,0 0))"\n2,5,0,2026/03/04,"POLYGON Z ((10 10 5,11 10 5,11 11 5,10 10 5))"\n',
    )
    writeFileSync(path.join(folder, 'in.csvt'), '"Integer","Integer64","Integer(Boolean)","Date","WKT"')
    const file = path.join(folder, 'in.gpkg')
    execFileSync(
      'ogr2ogr',
      [
        '-f',
        'GPKG',
        file,
        csv,
        '-oo',
        'GEOM_POSSIBLE_NAMES=wkt',
        '-oo',
        'KEEP_GEOM_COLUMNS=NO',
        '-a_srs',
        'EPSG:3857',
        '-nlt',
        'GEOMETRY',
      ],
      { stdio: 'ignore' },
    )
    const { datasets } = await readFile(new Uint8Array(readFileSync(file)), 'in.gpkg')
    const { dataset, remarks } = datasets[0]
    expect(cells(dataset, 'big')).toEqual(['9007199254740993', '5'])
    expect(cells(dataset, 'flag')).toEqual(['true', 'false'])
    expect(cells(dataset, 'day')).toEqual(['2026-01-02', '2026-03-04'])
    const said = remarks?.join(' ') ?? ''
    expect(said).toContain('1 curves were replaced')
    expect(said).toContain('Heights or measures of 1 shape were left out')
    // A circle of a metre's radius, in the metres of its system at the equator.
    expect(groundAreas(dataset.geometry)[0] / Math.PI).toBeCloseTo(1, 1)
  })
})
