import { importFormats, type FormatId } from './extensions'
import { SaidError } from '@/core/said/said-error'
import { ImportError, type Extent, type Imported, type ReadOptions } from './import-error'

type Reader = (
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
  extent: Extent,
) => Imported[] | Promise<Imported[]>

/**
 * How every format is read, one line each. Readers may use Node; they run in a job or on the command line, and
 * are loaded when a file of their format comes.
 */
const readers: Record<FormatId, () => Promise<Reader>> = {
  geojson: async () => (await import('./geojson/read')).readGeojson,
  topojson: async () => (await import('./topojson/read')).readTopojson,
  csv: async () => (await import('./csv/read')).readCsv,
  shapefile: async () => (await import('./shapefile/read')).readShapefile,
  geopackage: async () => (await import('./geopackage/read')).readGeopackage,
  flatgeobuf: async () => (await import('./flatgeobuf/read')).readFlatgeobuf,
  xlsx: async () => (await import('./xlsx/read')).readXlsx,
  kml: async () => (await import('./kml/read')).readKml,
  gpx: async () => (await import('./kml/read')).readGpx,
  geotiff: async () => (await import('./geotiff/read')).readGeotiff,
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
  given: Uint8Array,
  fileName: string,
  options: ReadOptions = {},
  extent: Extent = {},
): Promise<{ format: string; datasets: Imported[] }> {
  // Node's own kind of bytes has methods that mean other things.
  const bytes = new Uint8Array(given.buffer, given.byteOffset, given.byteLength)
  if (!bytes.length) throw new ImportError(`${fileName} is empty.`)
  const id = formatOf(bytes, fileName)
  const read = await readers[id]()
  const { label } = importFormats[id]
  try {
    return { format: label, datasets: await read(bytes, fileName, options, extent) }
  } catch (error) {
    if (error instanceof SaidError) throw error
    // What a library says of it says nothing to the person; it is kept for whoever looks after the program.
    throw new ImportError(
      `${fileName} cannot be read as ${label}: it is damaged, so that its parts do not fit together.`,
      { cause: error },
    )
  }
}
