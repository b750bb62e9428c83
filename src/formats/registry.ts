import { readCsv } from './csv/read'
import { importFormats, type FormatId } from './extensions'
import { readFlatgeobuf } from './flatgeobuf/read'
import { readGeojson } from './geojson/read'
import { readGeotiff } from './geotiff/read'
import { readGeopackage } from './geopackage/read'
import { ImportError, type Imported, type ReadOptions } from './import-error'
import { readGpx, readKml } from './kml/read'
import { readShapefile } from './shapefile/read'
import { readTopojson } from './topojson/read'
import { readXlsx } from './xlsx/read'

type Reader = (bytes: Uint8Array, fileName: string, options: ReadOptions) => Imported[] | Promise<Imported[]>

/**
 * How every format is read, one line each. Readers may use Node; they run in a job or on the command line.
 */
const readers: Record<FormatId, Reader> = {
  geojson: readGeojson,
  topojson: readTopojson,
  csv: readCsv,
  shapefile: readShapefile,
  geopackage: readGeopackage,
  flatgeobuf: readFlatgeobuf,
  xlsx: readXlsx,
  kml: readKml,
  gpx: readGpx,
  geotiff: readGeotiff,
}

/** The format of a file by its name; a `.json` file is looked into. */
function formatOf(bytes: Uint8Array, fileName: string): FormatId {
  const name = fileName.toLowerCase()
  if (
    name.endsWith('.json') &&
    /"type"\s*:\s*"Topology"/.test(new TextDecoder().decode(bytes.subarray(0, 4000)))
  )
    return 'topojson'
  const id = (Object.keys(importFormats) as FormatId[]).find((format) =>
    importFormats[format].extensions.some((extension) => name.endsWith(extension)),
  )
  if (!id)
    throw new ImportError(
      `${fileName} has an ending that is not known here. ${Object.values(importFormats)
        .map((f) => f.label)
        .join(', ')} files can be brought in.`,
    )
  return id
}

/**
 * Reads a file into datasets in degrees of WGS 84.
 * @throws ImportError saying what is wrong with it.
 */
export async function readFile(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions = {},
): Promise<{ format: string; datasets: Imported[] }> {
  if (!bytes.length) throw new ImportError(`${fileName} is empty.`)
  const id = formatOf(bytes, fileName)
  return { format: importFormats[id].label, datasets: await readers[id](bytes, fileName, options) }
}
