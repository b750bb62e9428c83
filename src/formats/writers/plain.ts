import ExcelJS from 'exceljs'
import Papa from 'papaparse'
import { topology } from 'topojson-server'
import { serialize } from 'flatgeobuf/lib/mjs/geojson.js'
import { cellOf } from '@/core/data/column'
import { featureCollection, namedFields, type WriteRequest } from './rows'

const text = (words: string): Uint8Array => new TextEncoder().encode(words)

/** GeoJSON; in another system than WGS 84 with the “crs” member that files from before RFC 7946 have. */
export function writeGeojson(request: WriteRequest): Uint8Array {
  const { collection, definition } = featureCollection(request)
  const crs =
    definition.fromDegrees && definition.code
      ? { crs: { type: 'name', properties: { name: `urn:ogc:def:crs:EPSG::${definition.code.slice(5)}` } } }
      : {}
  return text(
    JSON.stringify({ type: 'FeatureCollection', name: request.name, ...crs, features: collection.features }) +
      '\n',
  )
}

export function writeTopojson(request: WriteRequest): Uint8Array {
  const { collection } = featureCollection(request)
  return text(JSON.stringify(topology({ [request.name]: collection })) + '\n')
}

/**
 * A table with a header, missing values left blank; cells that a spreadsheet would carry out as formulas get
 * an apostrophe.
 */
export function writeCsv(request: WriteRequest): Uint8Array {
  const fields = namedFields(request)
  const rows = Array.from({ length: request.dataset.rowCount }, (_, row) =>
    fields.map(({ column }) => cellOf(column, row)),
  )
  return text(
    Papa.unparse(
      { fields: fields.map(({ name }) => name), data: rows },
      { escapeFormulae: /^[=+@\t\r]|^-[^\d.]/, newline: '\n' },
    ) + '\n',
  )
}

export async function writeXlsx(request: WriteRequest): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook()
  const sheet = workbook.addWorksheet(request.name.replace(/[*?:\\/[\]]/g, ' ').slice(0, 31) || 'Data')
  const fields = namedFields(request)
  sheet.addRow(fields.map(({ name }) => name)).font = { bold: true }
  sheet.views = [{ state: 'frozen', ySplit: 1 }]
  for (let row = 0; row < request.dataset.rowCount; row++)
    sheet.addRow(fields.map(({ column }) => cellOf(column, row)))
  return new Uint8Array(await workbook.xlsx.writeBuffer())
}

export function writeFlatgeobuf(request: WriteRequest): Uint8Array {
  const { collection, definition } = featureCollection(request)
  // The format has no features without a shape.
  return serialize(
    { ...collection, features: collection.features.filter(({ geometry }) => geometry !== null) } as never,
    Number(definition.code?.slice(5) ?? 0),
  )
}
