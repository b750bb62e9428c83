import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { Geometry } from 'geojson'
import sqlite3 from 'sqlite3'
import { Geometry as WellKnown } from 'wkx'
import { ImportError, ManyLayersError, type Imported, type ReadOptions } from '../import-error'
import { nameFromFile } from '../text'
import { vectorDatasets, type Row } from '../vector'

type Db = { all: <T>(sql: string) => Promise<T[]>; close: () => Promise<void> }

function openFile(file: string): Promise<Db> {
  return new Promise((resolve, reject) => {
    const db = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) => {
      if (error) return reject(error)
      resolve({
        all: <T>(sql: string) =>
          new Promise<T[]>((done, fail) =>
            db.all(sql, (e: Error | null, rows: T[]) => (e ? fail(e) : done(rows))),
          ),
        close: () => new Promise((done) => db.close(() => done())),
      })
    })
  })
}

/** Identifiers are quoted: a name in a file from elsewhere is never part of a statement. */
const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`

/**
 * Reads the chosen tables of a GeoPackage, with or without shapes (OGC 12-128).
 * @throws ImportError; ManyLayersError where it holds several and none is chosen
 */
export async function readGeopackage(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
): Promise<Imported[]> {
  const folder = await mkdtemp(path.join(tmpdir(), 'keen-gpkg-'))
  const file = path.join(folder, 'a.gpkg')
  await writeFile(file, bytes)
  let db: Db | null = null
  try {
    db = await openFile(file)
    const tables = await db.all<{
      table_name: string
      data_type: string
      identifier: string | null
      srs_id: number | null
    }>(
      `SELECT table_name, data_type, identifier, srs_id FROM gpkg_contents WHERE data_type IN ('features', 'attributes')`,
    )
    const shapes = await db
      .all<{ table_name: string; column_name: string; geometry_type_name: string }>(
        'SELECT table_name, column_name, geometry_type_name FROM gpkg_geometry_columns',
      )
      .catch(() => [])
    const { layers } = options
    if (tables.length > 1 && !layers)
      throw new ManyLayersError(
        fileName,
        await Promise.all(
          tables.map(async ({ table_name }) => ({
            name: table_name,
            rows: (await (db as Db).all<{ n: number }>(`SELECT count(*) AS n FROM ${quoted(table_name)}`))[0]
              .n,
            geometry:
              shapes.find((s) => s.table_name === table_name)?.geometry_type_name.toLowerCase() ?? 'table',
          })),
        ),
      )
    const datasets: Imported[] = []
    for (const table of layers ? tables.filter(({ table_name }) => layers.includes(table_name)) : tables) {
      const column = shapes.find(({ table_name }) => table_name === table.table_name)?.column_name
      const records = await db.all<Record<string, unknown>>(`SELECT * FROM ${quoted(table.table_name)}`)
      const key = (
        await db.all<{ name: string; pk: number }>(`PRAGMA table_info(${quoted(table.table_name)})`)
      ).find(({ pk }) => pk)?.name
      const rows = records.map((record): Row => {
        const properties = Object.fromEntries(
          Object.entries(record).filter(
            ([name, value]) => name !== column && name !== key && !(value instanceof Buffer),
          ),
        )
        return { shape: column ? shapeFrom(record[column], fileName) : null, properties }
      })
      datasets.push(
        ...vectorDatasets(rows, nameFromFile(table.table_name), fileName, {
          crs: options.crs ?? (table.srs_id && table.srs_id > 0 ? `EPSG:${table.srs_id}` : null),
          guessed: {
            crs: options.crs ?? (table.srs_id && table.srs_id > 0 ? `EPSG:${table.srs_id}` : undefined),
          },
        }),
      )
    }
    if (!datasets.length)
      throw new ImportError(
        layers
          ? `${fileName} has no layer ${layers.join(', ')}. It has: ${tables.map(({ table_name }) => table_name).join(', ')}.`
          : `${fileName} holds no features and no tables.`,
      )
    return datasets
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(`${fileName} cannot be read as a GeoPackage: ${(error as Error).message}.`)
  } finally {
    await db?.close()
    await rm(folder, { recursive: true, force: true })
  }
}

const envelopeBytes = [0, 32, 48, 48, 64]

/**
 * The shape behind a GeoPackage header (clause 2.1.3): magic, version, flags, system, envelope, then
 * well-known binary.
 */
function shapeFrom(blob: unknown, fileName: string): Geometry | null {
  if (!(blob instanceof Buffer)) return null
  if (blob.toString('latin1', 0, 2) !== 'GP')
    throw new ImportError(`${fileName} holds a shape that is not in GeoPackage form.`)
  const flags = blob[3]
  if (flags & 0b10000) return null
  return WellKnown.parse(blob.subarray(8 + envelopeBytes[(flags >> 1) & 7])).toGeoJSON() as Geometry
}
