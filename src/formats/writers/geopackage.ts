import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { Geometry } from 'geojson'
import sqlite3 from 'sqlite3'
import { Geometry as WellKnown } from 'wkx'
import { referenceSystem, wellKnownText } from '../crs/catalogue'
import { cellOf, type Column } from '@/core/data/column'
import type { Geometry as Geometries } from '@/core/geo/geometry'
import { namedFields, shapeMaker, type WriteRequest } from './rows'

const kinds = { areas: 'MULTIPOLYGON', lines: 'MULTILINESTRING', points: 'MULTIPOINT', none: '' } as const
const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`

/** As many values may be bound to one statement. */
const mostValues = 30_000

/**
 * A GeoPackage 1.3 (OGC 12-128r17) with one table. Lines and areas are multi-part throughout, as a table may hold
 * one type only; points are single where every row has one at most.
 */
export async function writeGeopackage(request: WriteRequest): Promise<Uint8Array> {
  const folder = await mkdtemp(path.join(tmpdir(), 'keen-gpkg-'))
  const file = path.join(folder, 'out.gpkg')
  const db = new sqlite3.Database(file)
  const run = (sql: string, values: unknown[] = []): Promise<void> =>
    new Promise((resolve, reject) =>
      db.run(sql, values, (error: Error | null) => (error ? reject(error) : resolve())),
    )
  try {
    const { dataset, name } = request
    const { shapeAt, definition } = shapeMaker(request)
    const srs = definition.code ? Number(definition.code.slice(5)) : 4326
    const fields = namedFields(request)
    await run('PRAGMA application_id = 1196444487')
    await run('PRAGMA user_version = 10300')
    // The file is new and only read once it is whole; it need not outlive a crash before.
    await run('PRAGMA synchronous = OFF')
    await run('PRAGMA journal_mode = OFF')
    await run('BEGIN')
    await run(
      'CREATE TABLE gpkg_spatial_ref_sys (srs_name TEXT NOT NULL, srs_id INTEGER PRIMARY KEY, organization TEXT NOT NULL, organization_coordsys_id INTEGER NOT NULL, definition TEXT NOT NULL, description TEXT)',
    )
    await run(
      "CREATE TABLE gpkg_contents (table_name TEXT NOT NULL PRIMARY KEY, data_type TEXT NOT NULL, identifier TEXT UNIQUE, description TEXT DEFAULT '', last_change DATETIME NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%fZ','now')), min_x DOUBLE, min_y DOUBLE, max_x DOUBLE, max_y DOUBLE, srs_id INTEGER)",
    )
    await run(
      'CREATE TABLE gpkg_geometry_columns (table_name TEXT NOT NULL, column_name TEXT NOT NULL, geometry_type_name TEXT NOT NULL, srs_id INTEGER NOT NULL, z TINYINT NOT NULL, m TINYINT NOT NULL, CONSTRAINT pk_geom_cols PRIMARY KEY (table_name, column_name))',
    )
    const system = (id: number, title: string, organisation: string, wkt: string) =>
      run('INSERT INTO gpkg_spatial_ref_sys VALUES (?, ?, ?, ?, ?, NULL)', [title, id, organisation, id, wkt])
    await system(-1, 'Undefined cartesian', 'NONE', 'undefined')
    await system(0, 'Undefined geographic', 'NONE', 'undefined')
    await system(4326, 'WGS 84', 'EPSG', wgs84)
    if (srs !== 4326)
      await system(
        srs,
        referenceSystem(`EPSG:${srs}`)?.name ?? '',
        'EPSG',
        wellKnownText(`EPSG:${srs}`) || 'undefined',
      )
    const table = name || 'data'
    const spatial = dataset.geometry.kind !== 'none'
    const type = isSinglePoints(dataset.geometry) ? 'POINT' : kinds[dataset.geometry.kind]
    const columns = fields.map(
      ({ name: column, column: values }) =>
        `${quoted(column === 'fid' || column === 'geom' ? `${column}_` : column)} ${sqlTypeOf(values)}`,
    )
    await run(
      `CREATE TABLE ${quoted(table)} (fid INTEGER PRIMARY KEY AUTOINCREMENT${spatial ? `, geom ${type}` : ''}${columns.map((c) => `, ${c}`).join('')})`,
    )
    const box = extentOf(dataset.rowCount, shapeAt)
    await run(
      'INSERT INTO gpkg_contents (table_name, data_type, identifier, min_x, min_y, max_x, max_y, srs_id) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
      [
        table,
        spatial ? 'features' : 'attributes',
        table,
        ...(spatial ? box : [null, null, null, null]),
        spatial ? srs : null,
      ],
    )
    if (spatial)
      await run('INSERT INTO gpkg_geometry_columns VALUES (?, ?, ?, ?, 0, 0)', [table, 'geom', type, srs])
    const width = columns.length + (spatial ? 1 : 0)
    const marks = `(NULL${', ?'.repeat(width)})`
    const valuesOf = (row: number) => [
      ...(spatial ? [blobOf(shapeAt(row), srs, type === 'POINT')] : []),
      ...fields.map(({ column }) => boundOf(column, row)),
    ]
    // Many rows in one statement: each call crosses into another thread and back.
    const atOnce = Math.max(1, Math.min(500, Math.floor(mostValues / Math.max(1, width))))
    for (let from = 0; from < dataset.rowCount; from += atOnce) {
      const rows = Array.from({ length: Math.min(atOnce, dataset.rowCount - from) }, (_, i) => from + i)
      await run(
        `INSERT INTO ${quoted(table)} VALUES ${rows.map(() => marks).join(', ')}`,
        rows.flatMap(valuesOf),
      )
    }
    await run('COMMIT')
    await new Promise<void>((resolve, reject) => db.close((error) => (error ? reject(error) : resolve())))
    return await readFile(file)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

function sqlTypeOf({ kind, type }: Column): string {
  switch (type) {
    case 'integer':
      return 'INTEGER'
    case 'boolean':
      return 'BOOLEAN'
    case 'date':
      return 'DATE'
    case 'datetime':
      return 'DATETIME'
    default:
      return kind === 'number' ? 'DOUBLE' : 'TEXT'
  }
}

/**
 * A value as the driver binds it. Whole numbers of 64 bits go in as text, which the column's affinity turns into
 * what they are.
 */
function boundOf(column: Column, row: number): string | number | null {
  const cell = cellOf(column, row)
  return column.type === 'boolean' && cell !== null ? Number(cell === 'true') : cell
}

/** A GeoPackage header without an envelope before well-known binary (clause 2.1.3). */
const isSinglePoints = (geometry: Geometries): boolean =>
  geometry.kind === 'points' &&
  geometry.featureStarts.every((start, f, starts) => f === 0 || start - starts[f - 1] < 2)

function blobOf(shape: Geometry | null, srs: number, single: boolean): Buffer | null {
  if (!shape) return null
  const many =
    single || shape.type.startsWith('Multi')
      ? shape
      : ({
          type: `Multi${shape.type}`,
          coordinates: [(shape as { coordinates: unknown }).coordinates],
        } as Geometry)
  const header = Buffer.alloc(8)
  header.write('GP', 'latin1')
  header[3] = 1
  header.writeInt32LE(srs, 4)
  return Buffer.concat([header, WellKnown.parseGeoJSON(many).toWkb()])
}

function extentOf(rowCount: number, shapeAt: (row: number) => Geometry | null): number[] {
  const box = [Infinity, Infinity, -Infinity, -Infinity]
  const walk = (value: unknown): void => {
    if (!Array.isArray(value)) return
    if (typeof value[0] !== 'number') return value.forEach(walk)
    const [x, y] = value as number[]
    box[0] = Math.min(box[0], x)
    box[1] = Math.min(box[1], y)
    box[2] = Math.max(box[2], x)
    box[3] = Math.max(box[3], y)
  }
  for (let row = 0; row < rowCount; row++) {
    const shape = shapeAt(row)
    if (shape && 'coordinates' in shape) walk(shape.coordinates)
  }
  return box
}

export const wgs84 =
  'GEOGCS["WGS 84",DATUM["WGS_1984",SPHEROID["WGS 84",6378137,298.257223563]],PRIMEM["Greenwich",0],UNIT["degree",0.0174532925199433],AUTHORITY["EPSG","4326"]]'
