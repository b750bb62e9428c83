import fc from 'fast-check'
import { topology } from 'topojson-server'
import type { FeatureCollection } from 'geojson'
import { describe, expect, it } from 'vitest'
import { textAt } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { arcNeighbours } from '@/core/geo/geometry'
import { openDemo } from '../../demo/open'
import { readFolioFile, writeFolioFile } from './folio-file/folio-file'
import { packDataset, unpackDataset } from './pack/pack'
import { readFile } from './registry'

describe('copies', () => {
  it('are noted among thousands of lines that begin at one place, and nothing else is', async () => {
    const ends = Array.from({ length: 20_000 }, (_, i) => [
      ((i * 37) % 3600) / 10 - 180 + 0.001,
      i / 400 - 25,
    ])
    const features = [...ends, ends[5]].map((end) => ({
      type: 'Feature',
      properties: {},
      geometry: { type: 'LineString', coordinates: [[0, 0], end] },
    }))
    const text = JSON.stringify({ type: 'FeatureCollection', features })
    const [{ notes }] = (await readFile(bytes(text), 'from-one-place.geojson')).datasets
    expect(notes).toEqual([{ row: 20_000, what: 'is a copy of another row', at: null }])
  }, 5000)
})

const bytes = (text: string) => new TextEncoder().encode(text)
const read = async (name: string, text: string): Promise<Dataset> =>
  (await readFile(bytes(text), name)).datasets[0].dataset
const column = (dataset: Dataset, key: string) => {
  const column = fieldOf(dataset, key)
  return column && Array.from({ length: dataset.rowCount }, (_, row) => textAt(column, row))
}
const says = async (name: string, text: string | Uint8Array): Promise<string> => {
  try {
    await readFile(typeof text === 'string' ? bytes(text) : text, name)
  } catch (error) {
    return (error as Error).message
  }
  return 'It was read.'
}
const collection = (...features: object[]) => JSON.stringify({ type: 'FeatureCollection', features })
const feature = (geometry: object | null, properties: object = {}, more: object = {}) => ({
  type: 'Feature',
  properties,
  geometry,
  ...more,
})
const square = (x: number, y: number, size = 1) => ({
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

describe('CSV', () => {
  it('finds the delimiter, numbers, codes, missing values and quoted cells', async () => {
    const dataset = await read(
      't.csv',
      'code;name;loans\n007;"Upper; Marby";12\n008;Skornock;\n009;"say ""hi""";..\n',
    )
    expect(dataset.fields.map((f) => [f.key, f.column.kind])).toEqual([
      ['code', 'text'],
      ['name', 'text'],
      ['loans', 'number'],
      ['loans flag', 'text'],
    ])
    expect(column(dataset, 'name')).toEqual(['Upper; Marby', 'Skornock', 'say "hi"'])
    expect(column(dataset, 'loans')).toEqual(['12', null, null])
  })

  it('reads older encodings and byte order marks', async () => {
    expect(
      column((await readFile(Uint8Array.of(110, 10, 0xc5, 0x67, 10), 't.csv')).datasets[0].dataset, 'n'),
    ).toEqual(['Åg'])
    expect((await read('t.csv', '\uFEFFcode,n\na,1\n')).fields[0].key).toBe('code')
    const utf16 = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('n\nÅg\n', 'utf16le')])
    expect(column((await readFile(utf16, 't.csv')).datasets[0].dataset, 'n')).toEqual(['Åg'])
  })

  it('keeps every column under a name of its own', async () => {
    expect((await read('t.csv', 'a,a,,a 2\n1,2,3,4\n')).fields.map((f) => f.key)).toEqual([
      'a',
      'a 2',
      'column 3',
      'a 2 2',
    ])
  })

  it('gives back every cell of any table', async () => {
    const cell = fc.string({ unit: 'grapheme', maxLength: 8 }).map((s) => `x${s.replace(/[\r\n\0]/g, '')}x`)
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }), async (rows) => {
        const quoted = rows.map((row) => row.map((c) => `"${c.replaceAll('"', '""')}"`).join(',')).join('\n')
        const dataset = await read('t.csv', `first,second\n${quoted}\n`)
        expect(column(dataset, 'first')).toEqual(rows.map(([a]) => a))
        expect(column(dataset, 'second')).toEqual(rows.map(([, b]) => b))
      }),
    )
  })

  it('says what is wrong', async () => {
    expect(await says('t.csv', 'a,b\n1,"2\n')).toContain('a quotation mark is opened and never closed')
    expect(await says('t.csv', 'a,b\n1,2\n1,2,3\n')).toBe(
      't.csv, row 3: 3 cells, but the header has 2. Is ‘,’ the right delimiter?',
    )
    expect(await says('t.csv', '')).toBe('t.csv is empty.')
    expect(await says('t.csv', 'a\0b')).toContain('not a text file')
  })
})

describe('GeoJSON', () => {
  it('makes shared borders shared and keeps properties and ids', async () => {
    const dataset = await read(
      'a.geojson',
      collection(
        feature(square(0, 0), { name: 'West', n: 1 }, { id: 7 }),
        feature(square(1, 0), { name: 'East', n: null }),
      ),
    )
    expect(column(dataset, 'name')).toEqual(['West', 'East'])
    expect(column(dataset, 'n')).toEqual(['1', null])
    expect(column(dataset, 'id')).toEqual(['7', null])
    if (dataset.geometry.kind !== 'areas') throw new Error('Polygons are areas.')
    const sides = arcNeighbours(dataset.geometry)
    expect(
      Array.from({ length: sides.length / 2 }, (_, a) => sides[2 * a] >= 0 && sides[2 * a + 1] >= 0).filter(
        Boolean,
      ),
    ).toHaveLength(1)
  })

  it('takes a single feature, a bare geometry, heights and missing shapes', async () => {
    expect(
      (await read('a.json', JSON.stringify(feature({ type: 'Point', coordinates: [1, 2, 300] })))).geometry,
    ).toMatchObject({ kind: 'points', coords: Float64Array.of(1, 2) })
    expect((await read('a.json', JSON.stringify(square(0, 0)))).rowCount).toBe(1)
    expect(
      (await read('a.json', collection(feature(null, { a: 1 }), feature(square(0, 0), { a: 2 })))).rowCount,
    ).toBe(2)
  })

  it('says what is wrong, and where', async () => {
    expect(await says('a.geojson', '{"type":')).toContain(
      'a.geojson is not complete JSON: it breaks at line 1',
    )
    expect(await says('a.geojson', '{"rows": []}')).toContain('has no features')
    expect(await says('a.geojson', collection())).toBe('a.geojson holds no features.')
    expect(await says('a.geojson', collection({ type: 'Something' }))).toContain(
      'entry 1 is not a GeoJSON feature',
    )
    expect(
      await says(
        'a.geojson',
        collection(
          feature({
            type: 'Polygon',
            coordinates: [
              [
                [0, 0],
                [1, 'x'],
              ],
            ],
          }),
        ),
      ),
    ).toContain('feature 1 (Polygon) has coordinates that are not complete')
    expect(await says('a.geojson', collection(feature({ type: 'Circle', coordinates: [0, 0] })))).toContain(
      'a shape of the type “Circle”',
    )
    expect(
      await says('a.geojson', collection(feature({ type: 'Point', coordinates: [432_000, 5_200_000] }))),
    ).toMatch(/degrees/)
  })
})

describe('TopoJSON', () => {
  const two = {
    type: 'FeatureCollection',
    features: [feature(square(0, 0), { code: 'A' }), feature(square(1, 0), { code: 'B' })],
  } as FeatureCollection

  it('reads the same areas from plain and quantized files', async () => {
    const plain = await read('a.topojson', JSON.stringify(topology({ areas: two })))
    const quantized = await read('a.topojson', JSON.stringify(topology({ areas: two }, 1e4)))
    expect(column(quantized, 'code')).toEqual(['A', 'B'])
    if (plain.geometry.kind !== 'areas' || quantized.geometry.kind !== 'areas')
      throw new Error('Polygons are areas.')
    expect(Math.max(...quantized.geometry.arcs.coords)).toBeCloseTo(
      Math.max(...plain.geometry.arcs.coords),
      6,
    )
    expect(quantized.geometry.refs.length).toBe(plain.geometry.refs.length)
  })

  it('gives each object as a dataset, and is known by its content under the name .json', async () => {
    const points = {
      type: 'FeatureCollection',
      features: [feature({ type: 'Point', coordinates: [5, 5] })],
    } as FeatureCollection
    const { datasets } = await readFile(
      bytes(JSON.stringify(topology({ areas: two, seats: points }, 1e5))),
      'a.json',
    )
    expect(datasets.map(({ name, dataset }) => [name, dataset.geometry.kind])).toEqual([
      ['Areas', 'areas'],
      ['Seats', 'points'],
    ])
  })

  it('takes coordinates of a chosen system, and keeps shared arcs shared', async () => {
    const metres = (x: number, y: number) => [500000 + 1000 * x, 5427000 + 1000 * y]
    const square = (x: number) =>
      feature({
        type: 'Polygon',
        coordinates: [[metres(x, 0), metres(x + 1, 0), metres(x + 1, 1), metres(x, 1), metres(x, 0)]],
      })
    const text = JSON.stringify(
      topology({
        areas: { type: 'FeatureCollection', features: [square(0), square(1)] } as FeatureCollection,
      }),
    )
    expect(await says('m.topojson', text)).toContain('not degrees')
    const { datasets } = await readFile(bytes(text), 'm.topojson', { crs: 'EPSG:32626' })
    const { geometry } = datasets[0].dataset
    if (geometry.kind !== 'areas') throw new Error('Polygons are areas.')
    expect(geometry.arcs.coords[0]).toBeGreaterThan(-27.01)
    expect(Math.max(...geometry.arcs.coords)).toBeCloseTo(49.004, 2)
    expect([...arcNeighbours(geometry)].filter((side, i) => i % 2 && side >= 0)).toHaveLength(1)
  })

  it('refuses references to arcs that are not there', async () => {
    const broken = topology({ areas: two })
    ;(broken.objects.areas as unknown as { geometries: { arcs: number[][] }[] }).geometries[0].arcs = [[99]]
    expect(await says('a.topojson', JSON.stringify(broken))).toContain(
      'refers to arc 99, which the file does not hold',
    )
    expect(await says('a.topojson', '{"type":"Topology","objects":{}}')).toContain(
      'is not a TopoJSON topology',
    )
  })
})

it('a file of an unknown kind is named with what can be read', async () => {
  expect(await says('photo.heic', 'II*')).toBe(
    'photo.heic has an ending that is not known here. What can be brought in: GeoJSON, GeoJSON by lines, TopoJSON, CSV, Shapefile, GeoPackage, FlatGeobuf, Parquet, Workbook, OpenDocument sheet, JSON-stat, PX, SDMX-JSON, SDMX-ML, KML, GPX, GeoTIFF, Picture with a world file.',
  )
})

describe('packed datasets', () => {
  const { contents } = openDemo()
  it('come back exactly as they were', async () => {
    for (const dataset of contents.values()) {
      const back = unpackDataset(packDataset(dataset))
      // A million cells are compared as bytes.
      const { raster, ...rest } = dataset
      expect({ ...back, raster: undefined }).toEqual({ ...rest, raster: undefined })
      expect(packDataset(back)).toSatisfy((bytes: Uint8Array) =>
        Buffer.from(bytes).equals(packDataset(dataset)),
      )
      expect(back.raster?.transform).toEqual(raster?.transform)
    }
  })
})

describe('folio files', () => {
  const { folio, contents } = openDemo()
  const text = writeFolioFile({ folio, contents })

  it('come back exactly as they were, datasets included', async () => {
    const back = readFolioFile(text)
    expect(back.folio).toEqual(folio)
    for (const [id, dataset] of contents)
      expect(Buffer.from(packDataset(back.contents.get(id) as Dataset)).equals(packDataset(dataset))).toBe(
        true,
      )
    expect(writeFolioFile(back)).toBe(text)
  })

  const damaged = (
    change: (file: {
      folio: { datasets: { name: string; source: { contentId: string } }[] }
      contents: Record<string, { rowCount: number; geometry: Record<string, number[]> }>
    }) => void,
  ): string => {
    const file = JSON.parse(text)
    change(file)
    try {
      readFolioFile(JSON.stringify(file))
    } catch (error) {
      return (error as Error).message
    }
    return 'It was read.'
  }

  it('that are damaged are refused before anything relies on them', async () => {
    const first = Object.keys(JSON.parse(text).contents)[0]
    expect(damaged((f) => delete f.contents[first])).toContain('does not hold the rows of')
    expect(damaged((f) => void (f.contents[first].rowCount = 3))).toContain('has not one value for each row')
    expect(damaged((f) => void (f.contents[first].geometry.refs[0] = 1e6))).toContain(
      'refers to a line that is not there',
    )
    expect(damaged((f) => void (f.contents[first].geometry.ringStarts[1] = 1e6))).toContain('out of order')
  })
})
