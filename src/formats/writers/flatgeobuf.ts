import { Builder } from 'flatbuffers'
import { ColumnType } from 'flatgeobuf/lib/mjs/flat-geobuf/column-type.js'
import { Feature as StoredFeature } from 'flatgeobuf/lib/mjs/flat-geobuf/feature.js'
import { buildHeader } from 'flatgeobuf/lib/mjs/generic/featurecollection.js'
import { buildGeometry, toGeometryType } from 'flatgeobuf/lib/mjs/generic/geometry.js'
import { parseGeometry } from 'flatgeobuf/lib/mjs/geojson/geometry.js'
import type { Geometry } from 'geojson'
import { textAt, type Column } from '@/core/data/column'
import { namedFields, shapeMaker, type WritableField, type WriteRequest } from './rows'

const magic = Uint8Array.of(0x66, 0x67, 0x62, 3, 0x66, 0x67, 0x62, 1)

/** FlatGeobuf, version 3, without an index. Types of columns are those of the fields; rows without a shape stay. */
export function writeFlatgeobuf(request: WriteRequest): Uint8Array {
  const fields = namedFields(request)
  const { shapeAt, definition } = shapeMaker(request)
  const { rowCount } = request.dataset
  const kinds = new Set<string>()
  const features: Uint8Array[] = []
  for (let row = 0; row < rowCount; row++) {
    const shape = shapeAt(row)
    if (shape) kinds.add(shape.type)
    features.push(featureOf(shape, fields, row))
  }
  const [kind] = kinds
  const columns = fields.map(({ name, column }) => ({ name, type: typeOf(column) }))
  const header = buildHeader(
    {
      // 0 where shapes are of several types: each says its own.
      geometryType: kinds.size === 1 ? toGeometryType(kind) : 0,
      columns: columns as never,
      featuresCount: rowCount,
    } as never,
    Number(definition.code?.slice(5) ?? 0),
  )
  return Buffer.concat([magic, header, ...features])
}

function typeOf(column: Column): ColumnType {
  switch (column.type) {
    case 'integer':
      return ColumnType.Long
    case 'boolean':
      return ColumnType.Bool
    case 'date':
    case 'datetime':
      return ColumnType.DateTime
    case 'json':
      return ColumnType.Json
    default:
      return column.kind === 'number' ? ColumnType.Double : ColumnType.String
  }
}

function featureOf(shape: Geometry | null, fields: WritableField[], row: number): Uint8Array {
  const builder = new Builder(256)
  const attributes = attributesOf(fields, row)
  const properties = attributes.length ? StoredFeature.createPropertiesVector(builder, attributes) : 0
  const geometry = shape ? buildGeometry(builder, parseGeometry(shape as never) as never) : 0
  StoredFeature.startFeature(builder)
  if (geometry) StoredFeature.addGeometry(builder, geometry as number)
  if (properties) StoredFeature.addProperties(builder, properties)
  builder.finishSizePrefixed(StoredFeature.endFeature(builder))
  return builder.asUint8Array().slice()
}

/** The attributes of a row: the number of a column, then its value; missing ones are left out. */
function attributesOf(fields: WritableField[], row: number): Uint8Array {
  const parts: Buffer[] = []
  fields.forEach(({ column }, i) => {
    const words = textAt(column, row)
    if (words === null) return
    const number = Buffer.alloc(2)
    number.writeUInt16LE(i)
    parts.push(number, valueOf(column, words, row))
  })
  return Buffer.concat(parts)
}

function valueOf(column: Column, words: string, row: number): Buffer {
  const eight = Buffer.alloc(8)
  switch (typeOf(column)) {
    case ColumnType.Bool:
      return Buffer.of(words === 'true' ? 1 : 0)
    case ColumnType.Long:
      eight.writeBigInt64LE(BigInt.asIntN(64, BigInt(words)))
      return eight
    case ColumnType.Double:
      eight.writeDoubleLE(column.kind === 'number' ? column.values[row] : Number(words))
      return eight
    default: {
      const text = Buffer.from(words)
      const length = Buffer.alloc(4)
      length.writeUInt32LE(text.length)
      return Buffer.concat([length, text])
    }
  }
}
