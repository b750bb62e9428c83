import { parquetWriteBuffer } from 'hyparquet-writer'
import { Geometry as WellKnown } from 'wkx'
import { cellOf, typedCellOf, type Column } from '@/core/data/column'
import { namedFields, shapeMaker, type WriteRequest } from './rows'

/** A Parquet file; with shapes a GeoParquet file (version 1.1), its shapes in well-known binary. */
export function writeParquet(request: WriteRequest): Uint8Array {
  const { dataset } = request
  const rows = Array.from({ length: dataset.rowCount }, (_, row) => row)
  const columns = namedFields(request).map(({ name, column }) => ({
    name,
    nullable: true,
    ...columnOf(column, rows),
  }))
  const spatial = dataset.geometry.kind !== 'none'
  const { shapeAt, definition } = shapeMaker(request)
  const types = new Set<string>()
  const shapes = spatial
    ? rows.map((row) => {
        const shape = shapeAt(row)
        if (!shape) return null
        types.add(shape.type)
        return new Uint8Array(WellKnown.parseGeoJSON(shape).toWkb())
      })
    : []
  const free = (name: string): string => (columns.some((one) => one.name === name) ? free(`${name}_`) : name)
  const key = free('geometry')
  const geo = {
    version: '1.1.0',
    primary_column: key,
    columns: {
      [key]: {
        encoding: 'WKB',
        geometry_types: [...types].sort(),
        ...(definition.code && definition.fromDegrees
          ? {
              crs: {
                type: 'ProjectedCRS',
                name: definition.name,
                id: { authority: 'EPSG', code: Number(definition.code.slice(5)) },
              },
            }
          : {}),
      },
    },
  }
  return new Uint8Array(
    parquetWriteBuffer({
      columnData: [
        ...columns,
        ...(spatial ? [{ name: key, data: shapes, type: 'BYTE_ARRAY' as const, nullable: true }] : []),
      ],
      kvMetadata: spatial ? [{ key: 'geo', value: JSON.stringify(geo) }] : [],
    } as never),
  )
}

function columnOf(column: Column, rows: number[]): { data: unknown[]; type: string } {
  switch (column.type) {
    case 'integer':
      return {
        type: 'INT64',
        data: rows.map((row) => {
          const cell = cellOf(column, row)
          return cell === null ? null : BigInt(cell)
        }),
      }
    case 'boolean':
      return { type: 'BOOLEAN', data: rows.map((row) => typedCellOf(column, row)) }
    case 'datetime':
      return momentsOf(column, rows, 'TIMESTAMP')
    default:
      return column.kind === 'number'
        ? { type: 'DOUBLE', data: rows.map((row) => cellOf(column, row)) }
        : { type: 'STRING', data: rows.map((row) => cellOf(column, row)) }
  }
}

/** Moments as such, where all of them are; else as the words that stand there. */
function momentsOf(column: Column, rows: number[], type: string): { data: unknown[]; type: string } {
  const words = rows.map((row) => cellOf(column, row))
  const dates = words.map((word) => (word === null ? null : new Date(String(word).replace(' ', 'T'))))
  return dates.every((date) => date === null || !Number.isNaN(date.getTime()))
    ? { type, data: dates }
    : { type: 'STRING', data: words }
}
