import { gpx, kml } from '@tmcw/togeojson'
import { DOMParser, onWarningStopParsing } from '@xmldom/xmldom'
import type { Feature } from 'geojson'
import { ImportError, type Imported } from '../import-error'
import { decodeText, nameFromFile } from '../text'
import { readXml } from '../xml/sax'
import { bySort, vectorDatasets, type Row } from '../vector'

/** The whole document, after it was read through once piece by piece, which says where it breaks. */
function parseXml(bytes: Uint8Array, fileName: string): unknown {
  const text = decodeText(bytes).replace(/^\uFEFF/, '')
  readXml(new TextEncoder().encode(text), fileName, {})
  try {
    return new DOMParser({ onError: onWarningStopParsing }).parseFromString(text, 'text/xml')
  } catch {
    throw new ImportError(`${fileName} is not complete XML.`)
  }
}

function datasetsOf(features: Feature[], fileName: string): Imported[] {
  const rows = features.flatMap(({ geometry, properties }): Row[] => {
    const plain = Object.fromEntries(
      Object.entries(properties ?? {}).filter(
        ([key, value]) =>
          typeof value !== 'object' &&
          !/^(styleUrl|styleHash|stroke|fill|icon|_gpxType|visibility)/.test(key),
      ),
    )
    const parts = geometry?.type === 'GeometryCollection' ? bySort(geometry) : [geometry]
    return parts.map((shape) => ({ shape, properties: plain }))
  })
  if (!rows.length) throw new ImportError(`${fileName} holds no features.`)
  return vectorDatasets(rows, nameFromFile(fileName), fileName, { crs: null })
}

function featuresOf(convert: typeof kml | typeof gpx, bytes: Uint8Array, fileName: string): Feature[] {
  const document = parseXml(bytes, fileName)
  try {
    // The library's document type is the browser's; it walks that of this parser as well.
    return convert(document as never).features as Feature[]
  } catch {
    throw new ImportError(`${fileName} is XML, but a shape in it cannot be understood.`)
  }
}

/** @throws ImportError */
export const readKml = (bytes: Uint8Array, fileName: string): Imported[] =>
  datasetsOf(featuresOf(kml, bytes, fileName), fileName)

/** @throws ImportError */
export const readGpx = (bytes: Uint8Array, fileName: string): Imported[] =>
  datasetsOf(featuresOf(gpx, bytes, fileName), fileName)
