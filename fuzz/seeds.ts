import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { zipSync } from 'fflate'
import { numberColumn, textColumn } from '@/core/data/column'
import type { Dataset } from '@/core/data/dataset'
import { proposeMeta } from '@/core/data/field-meta'
import { geometryFromShapes } from '@/core/geo/shapes'
import type { ExportFormat } from '@/formats/list'
import { writeDataset } from '@/formats/writers/registry'

/** A small whole file of a format, from which damaged ones are made. */
export type Seed = {
  fileName: string
  bytes: Uint8Array
  /** Whether the file itself says how many rows it holds, so that a file with fewer must be refused. */
  counts: boolean
  /** Whether it is a raster, of which cells with a value are counted: whole numbers may become “no data” by chance. */
  cells?: boolean
  /** Whether it is JSON, which is also damaged value by value, so that more of it is read than its beginning. */
  json?: boolean
  /** Of so many damaged files one is brought in, where each takes long. */
  oneOf?: number
  /** How long it may take, where that is not to be over in a moment. */
  longestMs?: number
  /** Whether only numbers in its settings are changed, so that it is let in more often than not. */
  settings?: boolean
  /** How it is brought in, where that is not as data; the numbers of rows that come of it. */
  bringIn?: BringIn
}

/** @throws TaskFailure in words. `file` holds the bytes. */
export type BringIn = (bytes: Uint8Array, fileName: string, file: string) => Promise<number[]>

const side = 6

/** Squares side by side, with borders that they share, and some fields. */
function squares(): Dataset {
  const cells = Array.from({ length: side * side }, (_, i) => [i % side, Math.floor(i / side)])
  const shapes = cells.map(([x, y]): GeoJSON.Geometry => ({
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
  }))
  return {
    rowCount: cells.length,
    geometry: geometryFromShapes(shapes),
    fields: [
      { key: 'code', column: textColumn(cells.map(([x, y]) => `Q${x}${y}`)) },
      { key: 'name', column: textColumn(cells.map(([x, y]) => (x === y ? null : `Vöörd ${x}, ${y}`))) },
      { key: 'loans', column: numberColumn(cells.map(([x, y]) => 1000 * x + 7.5 * y)) },
      { key: 'members', column: numberColumn(cells.map(([x, y]) => (x === 3 ? null : 10 * y))) },
    ],
  }
}

const written = async (format: ExportFormat): Promise<Uint8Array> => {
  const dataset = squares()
  const { bytes } = await writeDataset(format, {
    dataset,
    name: 'squares',
    fieldMeta: (key) =>
      proposeMeta(key, dataset.fields.find((f) => f.key === key)?.column ?? numberColumn([])),
    fieldNames: 'short',
    crs: 'EPSG:4326',
  })
  return bytes
}

const kml = `<?xml version="1.0" encoding="UTF-8"?>
<kml xmlns="http://www.opengis.net/kml/2.2"><Document>${Array.from(
  { length: 12 },
  (_, i) =>
    `<Placemark><name>Vöörd ${i}</name><ExtendedData><Data name="loans"><value>${i * 10}</value></Data></ExtendedData><Polygon><outerBoundaryIs><LinearRing><coordinates>${i},0 ${i + 1},0 ${i + 1},1 ${i},1 ${i},0</coordinates></LinearRing></outerBoundaryIs></Polygon></Placemark>`,
).join('\n')}</Document></kml>`

const gpx = `<?xml version="1.0" encoding="UTF-8"?>
<gpx version="1.1" creator="seed" xmlns="http://www.topografix.com/GPX/1/1">${Array.from(
  { length: 12 },
  (_, i) => `<wpt lat="${i}" lon="${i * 2}"><ele>${i * 100}</ele><name>Stop ${i}</name></wpt>`,
).join('\n')}</gpx>`

const sdmxMl = `<?xml version="1.0" encoding="UTF-8"?>
<message:StructureSpecificData xmlns:message="m"><message:Header><message:ID>seed</message:ID></message:Header><message:DataSet>${Array.from(
  { length: 8 },
  (_, i) =>
    `<Series STATE="S${i}" UNIT_MULT="3"><Obs TIME_PERIOD="2024" OBS_VALUE="${i}.5" OBS_STATUS="E"/><Obs TIME_PERIOD="2025" OBS_VALUE="${i}"/></Series>`,
).join('\n')}</message:DataSet></message:StructureSpecificData>`

const states = Array.from({ length: 8 }, (_, i) => `Vöörd ${i}`)
const years = ['2023', '2024', '2025']

const ods = `<?xml version="1.0"?><office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body>
<office:spreadsheet><table:table table:name="Loans">
<table:table-row><table:table-cell><text:p>state</text:p></table:table-cell><table:table-cell><text:p>loans</text:p></table:table-cell></table:table-row>
${states
  .map(
    (state, i) =>
      `<table:table-row table:number-rows-repeated="2"><table:table-cell office:value-type="string"><text:p>${state}</text:p></table:table-cell><table:table-cell office:value-type="float" office:value="${i * 1.5}"><text:p>${i}</text:p></table:table-cell></table:table-row>`,
  )
  .join('\n')}
</table:table></office:spreadsheet></office:body></office:document-content>`

const jsonStat = JSON.stringify({
  version: '2.0',
  class: 'dataset',
  label: 'Loans',
  id: ['state', 'year'],
  size: [states.length, years.length],
  dimension: {
    state: { label: 'State', category: { index: states } },
    year: { category: { index: Object.fromEntries(years.map((year, i) => [year, i])) } },
  },
  value: states.flatMap((_, i) => years.map((__, k) => (i === 2 ? null : 10 * i + k))),
  status: { 6: ':', 7: ':', 8: ':' },
})

const quoted = (words: string[]) => words.map((word) => `"${word}"`).join(',')
const px = [
  'CHARSET="ANSI";\nCODEPAGE="utf-8";\nTITLE="Loans";\nSTUB="State";\nHEADING="Year";',
  `VALUES("State")=${quoted(states)};\nVALUES("Year")=${quoted(years)};\nDATA=`,
  `${states.map((_, i) => years.map((__, k) => (i === 2 ? '".."' : 10 * i + k)).join(' ')).join('\n')};\n`,
].join('\n')

const sdmx = JSON.stringify({
  meta: { schema: 'sdmx-json' },
  data: {
    dataSets: [
      {
        series: Object.fromEntries(
          states.map((_, i) => [
            String(i),
            { observations: Object.fromEntries(years.map((__, k) => [k, [10 * i + k, 0]])) },
          ]),
        ),
      },
    ],
    structures: [
      {
        name: 'Loans',
        dimensions: {
          series: [{ id: 'GEO', name: 'State', values: states.map((name, i) => ({ id: `S${i}`, name })) }],
          observation: [{ id: 'TIME_PERIOD', values: years.map((id) => ({ id })) }],
        },
        attributes: { observation: [{ id: 'OBS_STATUS', values: [{ id: 'A', name: 'as usual' }] }] },
      },
    ],
  },
})

/** Pictures of heights, packed in several ways, by the tools that the tests use as well. */
function rasters(): Seed[] {
  const folder = mkdtempSync(path.join(tmpdir(), 'keen-seeds-'))
  const at = (name: string) => path.join(folder, name)
  try {
    const rows = Array.from({ length: 40 }, (_, r) =>
      Array.from({ length: 50 }, (__, c) => Math.round(100 * Math.sin(c / 9) + 3 * r)).join(' '),
    )
    writeFileSync(
      at('a.asc'),
      `ncols 50\nnrows 40\nxllcorner 5\nyllcorner 10\ncellsize 0.1\nNODATA_value -9999\n${rows.join('\n')}\n`,
    )
    const make = (name: string, ...options: string[]): Seed => {
      const more = options.flatMap((option) => ['-co', option])
      execFileSync('gdal_translate', ['-q', '-a_srs', 'EPSG:4326', ...more, at('a.asc'), at(name)])
      return { fileName: name, bytes: new Uint8Array(readFileSync(at(name))), counts: true, cells: true }
    }
    execFileSync('gdal_translate', ['-q', '-of', 'PNG', '-ot', 'UInt16', at('a.asc'), at('a.png')])
    const text = (words: string) => new TextEncoder().encode(words)
    const together = zipSync({
      'a.png': new Uint8Array(readFileSync(at('a.png'))),
      'a.pgw': text('0.1\n0\n0\n-0.1\n5.05\n13.95\n'),
      'a.prj': text('EPSG:4326'),
    })
    return [
      make('plain.tif'),
      make('lzw.tif', 'COMPRESS=LZW', 'PREDICTOR=2'),
      make('tiles.tif', 'COMPRESS=DEFLATE', 'TILED=YES', 'BLOCKXSIZE=16', 'BLOCKYSIZE=16', 'BIGTIFF=YES'),
      { fileName: 'together.zip', bytes: together, counts: false, cells: true },
    ]
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** A whole file of every format that can be brought in; several where a format packs in several ways. */
export async function seeds(): Promise<Record<string, Seed[]>> {
  const text = (words: string) => new TextEncoder().encode(words)
  const one = async (format: ExportFormat, fileName: string, counts: boolean): Promise<Seed[]> => [
    { fileName, bytes: await written(format), counts },
  ]
  return {
    geojson: await one('geojson', 'squares.geojson', false),
    topojson: await one('topojson', 'squares.topojson', false),
    csv: await one('csv', 'squares.csv', false),
    shapefile: await one('shp', 'squares.zip', true),
    geopackage: await one('gpkg', 'squares.gpkg', true),
    flatgeobuf: await one('fgb', 'squares.fgb', true),
    xlsx: await one('xlsx', 'squares.xlsx', true),
    parquet: await one('parquet', 'squares.parquet', true),
    lines: await one('lines', 'squares.geojsonl', false),
    ods: [{ fileName: 'figures.ods', bytes: zipSync({ 'content.xml': text(ods) }), counts: false }],
    jsonstat: [{ fileName: 'loans.jsonstat', bytes: text(jsonStat), counts: false }],
    px: [{ fileName: 'loans.px', bytes: text(px), counts: false }],
    sdmx: [{ fileName: 'loans.sdmx', bytes: text(sdmx), counts: false }],
    sdmxml: [{ fileName: 'loans.xml', bytes: text(sdmxMl), counts: false }],
    kml: [{ fileName: 'squares.kml', bytes: text(kml), counts: false }],
    gpx: [{ fileName: 'stops.gpx', bytes: text(gpx), counts: false }],
    geotiff: rasters(),
  }
}
