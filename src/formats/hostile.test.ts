import { strToU8, zipSync } from 'fflate'
import sqlite3 from 'sqlite3'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { describe, expect, it } from 'vitest'
import { seeds } from '../../fuzz/seeds'
import { readFile } from './registry'
import { unpackLzw } from './geotiff/decoders'

const whole = await seeds()
const json = (value: unknown): Uint8Array => strToU8(JSON.stringify(value))
const polygon = (...rings: number[][][]): GeoJSON.Geometry => ({ type: 'Polygon', coordinates: rings })
const collection = (...shapes: GeoJSON.Geometry[]): Uint8Array =>
  json({
    type: 'FeatureCollection',
    features: shapes.map((geometry, a) => ({ type: 'Feature', properties: { a }, geometry })),
  })
const square = polygon([
  [50, 50],
  [51, 50],
  [51, 51],
  [50, 50],
])

/** What is said of a file, or what came of it; a file may take so long. */
async function bringIn(
  bytes: Uint8Array,
  fileName: string,
  { withinMs = 3000 } = {},
): Promise<{ words: string; rows: number; notes: string[] }> {
  const began = performance.now()
  const outcome = await readFile(bytes, fileName).then(
    ({ datasets }) => ({
      words: '',
      rows: datasets.reduce((sum, { dataset }) => sum + dataset.rowCount, 0),
      notes: datasets.flatMap(({ notes }) => notes.map(({ row, what }) => `${row}: ${what}`)),
    }),
    (error: Error) => ({ words: error.message, rows: 0, notes: [] as string[] }),
  )
  expect(performance.now() - began).toBeLessThan(withinMs)
  return outcome
}
const wordsOf = async (bytes: Uint8Array, fileName: string) => (await bringIn(bytes, fileName)).words

const withNumber = (bytes: Uint8Array, at: number, value: number): Uint8Array => {
  const copy = Uint8Array.from(bytes)
  new DataView(copy.buffer).setUint32(at, value, true)
  return copy
}

describe('archives', () => {
  it('are measured by what comes out of them, whatever they say of themselves', async () => {
    const bomb = zipSync({ 'a.shp': new Uint8Array(64 * 1024 * 1024) }, { level: 9 })
    expect(await wordsOf(bomb, 'bomb.zip')).toContain('would unpack to more than can be taken in')
    // The size in both of its headers is a lie.
    const lying = zipSync({ 'a.shp': new Uint8Array(30_000) })
    const view = new DataView(lying.buffer)
    for (let at = 0; at < lying.length - 4; at++) {
      const mark = view.getUint32(at, true)
      if (mark === 0x04034b50) view.setUint32(at + 22, 10, true)
      if (mark === 0x02014b50) view.setUint32(at + 24, 10, true)
    }
    expect(await wordsOf(lying, 'lying.zip')).toBe('lying.zip is not a complete zip archive.')
  })

  it('with a damaged file in them are noticed by its check sum', async () => {
    const { bytes } = whole.xlsx[0]
    const stored = zipSync({ 'a.shp': strToU8('abcdefghij'.repeat(100)) }, { level: 0 })
    stored[60] ^= 1
    expect(await wordsOf(stored, 'sum.zip')).toBe('sum.zip is not a complete zip archive.')
    expect((await bringIn(bytes, 'squares.xlsx')).rows).toBe(36)
  })
})

describe('shapefiles', () => {
  it('whose table is cut anywhere are refused, saying in which row', async () => {
    const { unzipSync } = await import('fflate')
    const files = unzipSync(whole.shapefile[0].bytes)
    const name = Object.keys(files).find((file) => file.endsWith('.dbf')) as string
    const dbf = files[name]
    for (let share = 0.02; share < 0.98; share += 0.024) {
      const cut = dbf.subarray(0, Math.floor(dbf.length * share))
      const words = await wordsOf(zipSync({ ...files, [name]: cut }), 'cut.zip')
      expect(words, `cut at ${share}`).toMatch(/breaks off in row \d+|is damaged/)
    }
    const fewer = withNumber(dbf, 4, 30)
    expect(await wordsOf(zipSync({ ...files, [name]: fewer }), 'fewer.zip')).toContain(
      'holds 36 shapes, but squares.dbf 30 rows: from row 31 on they do not belong together',
    )
  })
})

describe('rasters and buffers', () => {
  it('whose directories lead in a circle, or whose cells lie elsewhere, are refused', async () => {
    const { bytes } = whole.geotiff[0]
    const view = new DataView(bytes.buffer, bytes.byteOffset)
    const directory = view.getUint32(4, true)
    const next = directory + 2 + 12 * view.getUint16(directory, true)
    expect(await wordsOf(withNumber(bytes, next, directory), 'circle.tif')).toContain('lead in a circle')
    expect(await wordsOf(bytes.slice(0, -900), 'cut.tif')).toMatch(/is damaged/)
    expect(await wordsOf(withNumber(bytes, 4, 0), 'none.tif')).toContain('it has no directory')
  })

  it('packed with LZW stop where a damaged block would go on', () => {
    // 9 bits each: clear, 'A', the code after next, end.
    const bits = [256, 65, 259, 257].map((code) => code.toString(2).padStart(9, '0')).join('')
    const packed = Uint8Array.from({ length: 5 }, (_, i) =>
      parseInt(bits.padEnd(40, '0').slice(8 * i, 8 * i + 8), 2),
    )
    expect(() => unpackLzw(packed, 100)).toThrow('stands for nothing yet')
    const run = [256, 65, 258, 259, 260, 257].map((code) => code.toString(2).padStart(9, '0')).join('')
    const good = Uint8Array.from({ length: 7 }, (_, i) =>
      parseInt(run.padEnd(56, '0').slice(8 * i, 8 * i + 8), 2),
    )
    expect(new TextDecoder().decode(unpackLzw(good, 100))).toBe('A'.repeat(10))
    expect(() => unpackLzw(good, 5)).toThrow('More comes out')
  })

  it('with an index of absurd size, or none for no features, are refused at once', async () => {
    const { bytes } = whole.flatgeobuf[0]
    for (let at = 12; at < 140; at += 4)
      for (const value of [0, 0xffffffff, 0x7fffffff]) {
        const { words, rows } = await bringIn(withNumber(bytes, at, value), 'index.fgb')
        if (!words) expect(rows).toBe(36)
      }
    expect(await wordsOf(bytes.slice(0, -30), 'cut.fgb')).toContain('it breaks off in feature 36')
  })
})

describe('databases', () => {
  /** A GeoPackage with a table that is filled by statements. */
  async function packageOf(...statements: string[]): Promise<Uint8Array> {
    const folder = mkdtempSync(path.join(tmpdir(), 'keen-hostile-'))
    try {
      const file = path.join(folder, 'a.gpkg')
      await new Promise<void>((resolve, reject) => {
        const db = new sqlite3.Database(file)
        db.exec(
          `CREATE TABLE gpkg_contents (table_name TEXT, data_type TEXT, srs_id INTEGER);
           INSERT INTO gpkg_contents VALUES ('t', 'attributes', 0); ${statements.join(';')}`,
          (error) => (error ? reject(error) : db.close(() => resolve())),
        )
      })
      return new Uint8Array(readFileSync(file))
    } finally {
      rmSync(folder, { recursive: true })
    }
  }

  it('carry nothing out but the reading of tables', async () => {
    const plain = await packageOf(
      'CREATE TABLE t (id INTEGER PRIMARY KEY, a TEXT)',
      `INSERT INTO t VALUES (1, 'x')`,
    )
    expect((await bringIn(plain, 'plain.gpkg')).rows).toBe(1)
    const view = await packageOf('CREATE VIEW t AS SELECT zeroblob(1000000000) AS a FROM sqlite_master')
    expect(await wordsOf(view, 'view.gpkg')).toContain('holds t as a view, which is not carried out')
    const endless = await packageOf(
      'CREATE VIEW t AS WITH RECURSIVE c(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM c) SELECT n FROM c',
    )
    expect(await wordsOf(endless, 'endless.gpkg')).toContain('as a view')
    const reckoned = await packageOf(
      'CREATE TABLE t (a INTEGER, b BLOB GENERATED ALWAYS AS (zeroblob(a)) VIRTUAL)',
      'INSERT INTO t (a) VALUES (900000000)',
    )
    expect(await wordsOf(reckoned, 'reckoned.gpkg')).toMatch(/damaged/)
  })

  it('in the middle of whose pages something else stands are refused or read whole', async () => {
    const { bytes } = whole.geopackage[0]
    for (let page = 1; page < bytes.length / 4096; page++) {
      const copy = Uint8Array.from(bytes)
      copy.fill(0xff, page * 4096, page * 4096 + 64)
      const { words, rows } = await bringIn(copy, 'page.gpkg')
      if (!words) expect(rows).toBe(36)
    }
  })
})

describe('tables', () => {
  it('of thousands of columns are read in no time, of one name or in a workbook', async () => {
    const line = (cell: string) => Array(4000).fill(cell).join(',')
    const csv = strToU8(`${line('x')}\n${line('1')}\n${line('2')}\n`)
    const { datasets } = await readFile(csv, 'wide.csv')
    expect(datasets[0].dataset.fields.slice(0, 2).map(({ key }) => key)).toEqual(['x', 'x 2'])
    expect(datasets[0].dataset.fields).toHaveLength(4000)
    expect((await bringIn(csv, 'wide.csv', { withinMs: 2000 })).rows).toBe(2)

    const rows = Array.from(
      { length: 40 },
      (_, r) =>
        `<row r="${r + 1}">${Array.from({ length: 3000 }, (__, c) => `<c><v>${r * c}</v></c>`).join('')}</row>`,
    )
    const book = zipSync({
      'xl/workbook.xml': strToU8(
        '<workbook xmlns:r="r"><sheets><sheet name="Wide" r:id="a"/></sheets></workbook>',
      ),
      'xl/worksheets/sheet1.xml': strToU8(`<worksheet><sheetData>${rows.join('')}</sheetData></worksheet>`),
    })
    expect((await bringIn(book, 'wide.xlsx')).rows).toBeGreaterThanOrEqual(39)
    expect(await wordsOf(strToU8(`${Array(17_000).fill('x').join(',')}\n1\n`), 'absurd.csv')).toContain(
      'more than 16384 cells',
    )
  })
})

describe('hard shapes', () => {
  const comb = (teeth: number): number[][] => [
    [0, 0],
    ...Array.from({ length: teeth }, (_, i) => [
      [(i * 40) / teeth, 20],
      [((i + 0.5) * 40) / teeth, 1],
    ]).flat(),
    [40, 0],
    [0, 0],
  ]

  it('take time in proportion to their size: combs of 20,000 teeth', async () => {
    const { rows, notes } = await bringIn(collection(polygon(comb(20_000)), square), 'comb.geojson', {
      withinMs: 5000,
    })
    expect([rows, notes]).toEqual([2, []])
  })

  it('that cannot be mended do not refuse the rest', async () => {
    let seed = 7
    const next = () => ((seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647) * 40
    const ring = Array.from({ length: 500 }, () => [next(), next()])
    const { rows, notes } = await bringIn(collection(polygon([...ring, ring[0]]), square), 'knot.geojson')
    expect(rows).toBe(2)
    expect(notes).toEqual(['0: crosses itself too often to be untangled and was left out'])
  })
})

describe('documents', () => {
  it('nested a million deep, or with entities of their own, are refused', async () => {
    const deep = strToU8(`${'['.repeat(1_000_000)}${']'.repeat(1_000_000)}`)
    expect(await wordsOf(deep, 'deep.geojson')).toContain('is JSON, but not GeoJSON')
    const nested = strToU8(`<kml>${'<Folder>'.repeat(100_000)}${'</Folder>'.repeat(100_000)}</kml>`)
    expect(await wordsOf(nested, 'deep.kml')).toContain('nested more than 256 levels deep at line 1')
    const entities = strToU8('<!DOCTYPE kml [<!ENTITY a "b">]><kml>&a;</kml>')
    expect(await wordsOf(entities, 'entities.kml')).toContain('entities of its own')
    expect(await wordsOf(strToU8('<kml>\n<Document>\n<name>x</nam>'), 'cut.kml')).toContain(
      'breaks at line 3',
    )
  })
})
