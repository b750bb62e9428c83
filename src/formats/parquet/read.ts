import { parquetMetadataAsync, parquetReadObjects } from 'hyparquet'
import { compressors } from 'hyparquet-compressors'
import type { Geometry } from 'geojson'
import { z } from 'zod'
import type { ValueType } from '@/core/data/column'
import { checkFooter, checkPages } from './check'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { limits } from '../limits'
import { nameFromFile } from '../text'
import { vectorDatasets, type Row } from '../vector'
import { readWkb, type WkbTally } from '../wkb'

/** What a GeoParquet file says of its shapes (version 1.1); more is not read. */
const Geo = z.object({
  primary_column: z.string(),
  columns: z.record(z.string(), z.object({ encoding: z.string(), crs: z.unknown().optional() }).loose()),
})

/**
 * Reads a Parquet file: a table, or shapes where it is a GeoParquet file with well-known binary.
 * @throws ImportError
 */
export async function readParquet(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
): Promise<Imported[]> {
  const damaged = (cause: unknown) =>
    new ImportError(
      `${fileName} cannot be read as Parquet: it is damaged, or packed in a way that is not known here.`,
      {
        cause,
      },
    )
  const file = Uint8Array.from(bytes).buffer
  const checked = async <T>(work: () => Promise<T> | T): Promise<T> => {
    try {
      return await work()
    } catch (error) {
      throw damaged(error)
    }
  }
  const metadata = await checked(() => {
    checkFooter(bytes)
    return parquetMetadataAsync(file, { geoparquet: false })
  })
  const rowCount = Number(metadata.num_rows)
  if (rowCount > limits.rows)
    throw new ImportError(`${fileName} has more than ${limits.rows.toLocaleString('en-GB')} rows.`)
  if (!rowCount) throw new ImportError(`${fileName} holds no rows.`)
  const geo = geoOf(metadata.key_value_metadata)
  const records = (await checked(() => {
    checkPages(bytes, metadata)
    return parquetReadObjects({ file, metadata, compressors, utf8: false })
  })) as Record<string, unknown>[]
  if (records.length !== rowCount) throw damaged(`${records.length} of ${rowCount} rows came out`)
  const shapes = geo?.primary_column
  if (shapes && !/^WKB$/i.test(geo.columns[shapes]?.encoding ?? ''))
    throw new ImportError(
      `${fileName} holds its shapes in the form “${geo.columns[shapes]?.encoding}”. Save it with WKB.`,
    )
  const tally: WkbTally = { curves: 0 }
  const binary = new Set<string>()
  const rows = records.map((record, row): Row => {
    const properties = Object.create(null) as Record<string, unknown>
    for (const [key, value] of Object.entries(record)) {
      if (key === shapes) continue
      if (value instanceof Uint8Array) binary.add(key)
      else properties[key] = plainOf(value)
    }
    return { shape: shapes ? shapeOf(record[shapes], { row, fileName, tally }) : null, properties }
  })
  const types = Object.fromEntries(
    metadata.schema.flatMap(({ name, num_children: children, converted_type, logical_type, type }) => {
      if (children || name === shapes || binary.has(name)) return []
      const found = typeOf({ converted: converted_type, logical: logical_type?.type, type })
      return found ? [[name, found] as const] : []
    }),
  )
  const crs = options.crs ?? systemOf(geo && shapes ? geo.columns[shapes].crs : undefined)
  return vectorDatasets(rows, nameFromFile(fileName), fileName, {
    crs,
    guessed: { crs: crs ?? undefined },
    types,
    remarks: [
      ...(binary.size
        ? [`${[...binary].map((key) => `“${key}”`).join(', ')} held binary values, which were left out.`]
        : []),
      ...(tally.curves ? [`${tally.curves} curves were replaced by straight edges that follow them.`] : []),
    ],
  })
}

function geoOf(pairs: { key: string; value?: string }[] | undefined): z.infer<typeof Geo> | null {
  const text = pairs?.find(({ key }) => key === 'geo')?.value
  if (!text) return null
  try {
    return Geo.parse(JSON.parse(text))
  } catch {
    return null
  }
}

/** The EPSG code of a system in PROJJSON; null takes coordinates for degrees, as the format does. */
function systemOf(crs: unknown): string | null {
  const { id } = (crs ?? {}) as { id?: { authority?: string; code?: number | string } }
  if (!id?.code || id.authority !== 'EPSG') return null
  return String(id.code) === '4326' ? null : `EPSG:${id.code}`
}

function shapeOf(
  cell: unknown,
  { row, fileName, tally }: { row: number; fileName: string; tally: WkbTally },
): Geometry | null {
  if (cell === null || cell === undefined) return null
  try {
    return readWkb(cell as Uint8Array, tally)
  } catch {
    throw new ImportError(`${fileName}: the shape of row ${row + 1} is damaged.`)
  }
}

function typeOf({
  converted,
  logical,
  type,
}: {
  converted?: string
  logical?: string
  type?: string
}): ValueType | 'real' | 'text' | undefined {
  if (logical === 'DATE' || converted === 'DATE') return 'date'
  if (logical === 'TIMESTAMP' || converted?.startsWith('TIMESTAMP')) return 'datetime'
  if (logical === 'TIME' || converted?.startsWith('TIME_')) return 'time'
  if (logical === 'DECIMAL' || converted === 'DECIMAL') return 'real'
  if (logical === 'JSON' || converted === 'JSON') return 'json'
  if (type === 'BOOLEAN') return 'boolean'
  if (type === 'INT32' || type === 'INT64') return 'integer'
  return type === 'DOUBLE' || type === 'FLOAT' ? 'real' : 'text'
}

/** Days and times as ISO 8601 has them, big numbers that are not big as numbers. */
function plainOf(value: unknown): unknown {
  if (value instanceof Date) {
    if (Number.isNaN(value.getTime())) return null
    return value
      .toISOString()
      .replace(/T00:00:00\.000Z$/, '')
      .replace(/\.000Z$/, 'Z')
  }
  return typeof value === 'bigint' && Number.isSafeInteger(Number(value)) ? Number(value) : (value ?? null)
}
