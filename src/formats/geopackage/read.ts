import type { Geometry } from 'geojson'
import type { ValueType } from '@/core/data/column'
import type { LayerCard } from '@/core/data/reading'
import { ImportError, ManyLayersError, type Imported, type ReadOptions } from '../import-error'
import { referenceSystem } from '../crs/catalogue'
import { limits } from '../limits'
import { nameFromFile } from '../text'
import { vectorDatasets, type Row } from '../vector'
import { readWkb, type WkbTally } from '../wkb'
import { openFileDatabase, quoted, type Cell, type FileDatabase } from './file-database'

/** A table that the file lists as a layer of its own. */
type Layer = { table: string; system: number | null; shapes: { column: string; type: string } | null }

/**
 * Reads the chosen tables of a GeoPackage, with or without shapes (OGC 12-128). Views are not read.
 * @throws ImportError; ManyLayersError where it holds several and none is chosen
 */
export async function readGeopackage(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
): Promise<Imported[]> {
  const damaged = new ImportError(
    `${fileName} cannot be read as a GeoPackage: it is damaged, or no GeoPackage at all.`,
  )
  const db = await openFileDatabase(bytes).catch(() => {
    throw damaged
  })
  try {
    const layers = layersOf(db, fileName)
    const chosen = options.layers ? layers.filter(({ table }) => options.layers?.includes(table)) : layers
    if (!options.layers && layers.length > 1) throw new ManyLayersError(fileName, cardsOf(db, layers))
    if (!chosen.length)
      throw new ImportError(
        options.layers
          ? `${fileName} has no layer ${options.layers.join(', ')}. It has: ${layers.map(({ table }) => table).join(', ')}.`
          : `${fileName} holds no features and no tables.`,
      )
    return chosen.flatMap((layer) => {
      const crs = options.crs ?? systemOf(db, layer.system)
      const { rows, types, remarks } = rowsOf(db, layer, fileName)
      return vectorDatasets(rows, nameFromFile(layer.table), fileName, {
        crs,
        guessed: { crs: crs ?? undefined },
        types,
        remarks,
      })
    })
  } catch (error) {
    throw error instanceof ImportError ? error : damaged
  } finally {
    db.close()
  }
}

const textOf = (cell: Cell): string => (typeof cell === 'string' ? cell : '')

function layersOf(db: FileDatabase, fileName: string): Layer[] {
  if (!db.tables.has('gpkg_contents'))
    throw new ImportError(`${fileName} is a database, but no GeoPackage: it has no list of contents.`)
  const shapes = new Map<string, { column: string; type: string }>()
  if (db.tables.has('gpkg_geometry_columns'))
    db.query(
      'SELECT table_name, column_name, geometry_type_name FROM gpkg_geometry_columns',
      ([table, column, type]) =>
        shapes.set(textOf(table), { column: textOf(column), type: textOf(type).toLowerCase() }),
    )
  const layers: Layer[] = []
  const views: string[] = []
  db.query('SELECT table_name, data_type, srs_id FROM gpkg_contents', ([name, type, system]) => {
    const table = textOf(name)
    if (type !== 'features' && type !== 'attributes') return
    if (!db.tables.has(table)) views.push(table)
    else layers.push({ table, system: Number(system) || null, shapes: shapes.get(table) ?? null })
  })
  if (!layers.length && views.length)
    throw new ImportError(
      `${fileName} holds ${views.join(', ')} as a view, which is not carried out. Save it as a table.`,
    )
  return layers
}

/** The system of a layer: its EPSG code, else the definition that the file itself holds. */
function systemOf(db: FileDatabase, id: number | null): string | null {
  if (!id || id < 1) return null
  let [organisation, code, definition] = ['', '', '']
  if (db.tables.has('gpkg_spatial_ref_sys'))
    db.query(
      `SELECT organization, organization_coordsys_id, definition FROM gpkg_spatial_ref_sys WHERE srs_id = ${Math.trunc(id)}`,
      (row) =>
        ([organisation, code, definition] = row.map((cell) => String(cell ?? '')) as [
          string,
          string,
          string,
        ]),
    )
  const listed = organisation.toUpperCase() === 'EPSG' ? `EPSG:${code}` : `EPSG:${id}`
  if ((!organisation || organisation.toUpperCase() === 'EPSG') && (id === 4326 || referenceSystem(listed)))
    return listed
  return definition && !/^undefined$/i.test(definition) ? definition : listed
}

const cardsOf = (db: FileDatabase, layers: Layer[]): LayerCard[] =>
  layers.map(({ table, shapes }) => {
    let rows = 0
    db.query(`SELECT count(*) FROM ${quoted(table)}`, ([count]) => (rows = Number(count)))
    return { name: table, rows, geometry: shapes?.type ?? 'table' }
  })

/** What a declared type of SQLite is as a type of fields (GeoPackage, table 1). */
function fieldTypeOf(declared: string): ValueType | 'real' | 'text' | undefined {
  const type = declared.toUpperCase()
  if (/^BOOL/.test(type)) return 'boolean'
  if (/INT/.test(type)) return 'integer'
  if (/^(REAL|DOUBLE|FLOAT|NUMERIC|DECIMAL)/.test(type)) return 'real'
  if (type === 'DATE') return 'date'
  if (/^(DATETIME|TIMESTAMP)/.test(type)) return 'datetime'
  if (type === 'TIME') return 'time'
  return /^(TEXT|CHAR|VARCHAR|CLOB)/.test(type) ? 'text' : undefined
}

type TableRows = { rows: Row[]; types: Record<string, ValueType | 'real' | 'text'>; remarks: string[] }

function rowsOf(db: FileDatabase, { table, shapes }: Layer, fileName: string): TableRows {
  let key: string | null = null
  const types: Record<string, ValueType | 'real' | 'text'> = {}
  db.query(`PRAGMA table_info(${quoted(table)})`, ([, name, declared, , , primary]) => {
    if (primary) key = textOf(name)
    const type = fieldTypeOf(textOf(declared))
    if (type) types[textOf(name)] = type
  })
  const rows: Row[] = []
  const where = () => `${fileName}, row ${rows.length + 1} of “${table}”`
  const records: Cell[][] = []
  let names: string[]
  try {
    names = db.query(`SELECT * FROM ${quoted(table)}`, (record) => {
      if (records.push(record) > limits.rows)
        throw new ImportError(`“${table}” in ${fileName} has more than ${limits.rows} rows.`)
    })
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(
      `“${table}” in ${fileName} is damaged: it cannot be read beyond row ${records.length}.`,
    )
  }
  const shapeAt = shapes ? names.indexOf(shapes.column) : -1
  if (shapes && shapeAt < 0)
    throw new ImportError(`“${table}” in ${fileName} has no column “${shapes.column}” for its shapes.`)
  const keyAt = key === null ? -1 : names.indexOf(key)
  // A key that only counts the rows says nothing of them.
  const counts = keyAt < 0 || records.every((record, i) => Number(record[keyAt]) === i + 1)
  const binary = new Set<string>()
  const tally: WkbTally = { curves: 0 }
  for (const record of records) {
    const properties: Record<string, unknown> = {}
    record.forEach((cell, c) => {
      if (c === shapeAt || (c === keyAt && counts)) return
      if (cell instanceof Uint8Array) binary.add(names[c])
      else properties[names[c]] = types[names[c]] ? typedOf(cell, types[names[c]]) : cell
    })
    rows.push({ shape: shapeAt < 0 ? null : shapeFrom(record[shapeAt], where(), tally), properties })
  }
  if (counts && key !== null) delete types[key]
  if (shapes) delete types[shapes.column]
  for (const name of binary) delete types[name]
  const remarks = tally.curves
    ? [`${tally.curves.toLocaleString('en-GB')} curves were replaced by straight edges that follow them.`]
    : []
  if (binary.size)
    remarks.push(
      `${[...binary].map((name) => `“${name}”`).join(', ')} ${binary.size === 1 ? 'holds' : 'hold'} binary values, which were left out.`,
    )
  return { rows, types, remarks }
}

function typedOf(cell: Cell, type: ValueType | 'real' | 'text'): unknown {
  if (cell === null) return null
  if (type === 'boolean')
    return typeof cell === 'string' ? cell === 'true' || cell === '1' : Number(cell) !== 0
  if (type === 'integer' && typeof cell === 'string' && /^-?\d+$/.test(cell)) return BigInt(cell)
  return cell
}

const envelopeBytes = [0, 32, 48, 48, 64]

/**
 * The shape behind a GeoPackage header (clause 2.1.3): magic, version, flags, system, envelope, then
 * well-known binary.
 */
function shapeFrom(cell: Cell, where: string, tally: WkbTally): Geometry | null {
  if (!(cell instanceof Uint8Array)) return null
  const flags = cell[3]
  const envelope = envelopeBytes[(flags >> 1) & 7]
  if (cell[0] !== 0x47 || cell[1] !== 0x50 || envelope === undefined)
    throw new ImportError(`${where} holds a shape that is not in GeoPackage form.`)
  if (flags & 0b10000) return null
  try {
    return readWkb(cell.subarray(8 + envelope), tally)
  } catch {
    throw new ImportError(`${where} holds a shape that is damaged.`)
  }
}
