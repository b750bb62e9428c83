import type { Geometry, Position } from 'geojson'
import { textAt } from '@/core/data/column'
import { namedFields, shapeMaker, type WriteRequest, type Written } from './rows'

const escaped = (text: string): string =>
  text
    // Characters that XML cannot hold, even escaped.
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;')

/** KML 2.2 (OGC 07-147r2): a placemark for each row, its fields as data; always in degrees. */
export function writeKml(request: WriteRequest): Written {
  const fields = namedFields(request)
  const { shapeAt } = shapeMaker({ ...request, crs: 'EPSG:4326' })
  const title = fields.find(({ name }) => /^(name|title|label)$/i.test(name))
  const parts = [
    `<?xml version="1.0" encoding="UTF-8"?>\n<kml xmlns="http://www.opengis.net/kml/2.2"><Document><name>${escaped(request.name)}</name>\n`,
  ]
  for (let row = 0; row < request.dataset.rowCount; row++) {
    const shape = shapeAt(row)
    const name = title && textAt(title.column, row)
    const data = fields.flatMap((field) => {
      const word = textAt(field.column, row)
      return word === null
        ? []
        : [`<Data name="${escaped(field.name)}"><value>${escaped(word)}</value></Data>`]
    })
    parts.push(
      `<Placemark>${name ? `<name>${escaped(name)}</name>` : ''}<ExtendedData>${data.join('')}</ExtendedData>${shape ? shapeOf(shape) : ''}</Placemark>\n`,
    )
  }
  parts.push('</Document></kml>\n')
  return {
    bytes: new TextEncoder().encode(parts.join('')),
    remarks: request.crs === 'EPSG:4326' ? [] : ['KML is always in degrees of WGS 84, and so is this file.'],
  }
}

const places = (list: Position[]): string => list.map(([lon, lat]) => `${lon},${lat}`).join(' ')
const ring = (list: Position[]): string =>
  `<LinearRing><coordinates>${places(list)}</coordinates></LinearRing>`

function shapeOf(shape: Geometry): string {
  switch (shape.type) {
    case 'Point':
      return `<Point><coordinates>${places([shape.coordinates])}</coordinates></Point>`
    case 'LineString':
      return `<LineString><coordinates>${places(shape.coordinates)}</coordinates></LineString>`
    case 'Polygon':
      return `<Polygon>${shape.coordinates
        .map((one, i) =>
          i
            ? `<innerBoundaryIs>${ring(one)}</innerBoundaryIs>`
            : `<outerBoundaryIs>${ring(one)}</outerBoundaryIs>`,
        )
        .join('')}</Polygon>`
    case 'GeometryCollection':
      return `<MultiGeometry>${shape.geometries.map(shapeOf).join('')}</MultiGeometry>`
    default: {
      const type = shape.type.slice('Multi'.length)
      const parts = shape.coordinates.map((coordinates) => shapeOf({ type, coordinates } as Geometry))
      return `<MultiGeometry>${parts.join('')}</MultiGeometry>`
    }
  }
}
