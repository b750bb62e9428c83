import { formatIds, formats, type FormatId } from './list'
import { SaidError } from '@/core/said/said-error'
import { withSafeColumns } from './columns'
import { bytesSource, memorySink, type ByteSource } from './byte-source'
import { ImportError, type Imported, type ReadOptions, type Reading } from './import-error'

type ReaderOf<From> = (
  from: From,
  fileName: string,
  options: ReadOptions,
  reading: Reading,
) => Imported[] | Promise<Imported[]>
/** Most take the bytes of a whole file; what may be larger than memory is read where it lies. */
type Reader = ReaderOf<Uint8Array> | { where: ReaderOf<ByteSource> }

/**
 * How every format is read, one line each. Readers may use Node; they run in a job or on the command line, and
 * are loaded when a file of their format comes.
 */
const readers: Record<FormatId, () => Promise<Reader>> = {
  geojson: async () => (await import('./geojson/read')).readGeojson,
  lines: async () => (await import('./geojson/read')).readGeojson,
  topojson: async () => (await import('./topojson/read')).readTopojson,
  csv: async () => (await import('./csv/read')).readCsv,
  shp: async () => (await import('./zip/read')).readZip,
  gpkg: async () => (await import('./geopackage/read')).readGeopackage,
  fgb: async () => (await import('./flatgeobuf/read')).readFlatgeobuf,
  parquet: async () => (await import('./parquet/read')).readParquet,
  ods: async () => (await import('./ods/read')).readOds,
  jsonstat: async () => (await import('./statistics/json-stat')).readJsonStat,
  px: async () => (await import('./statistics/px')).readPx,
  sdmx: async () => (await import('./statistics/sdmx-json')).readSdmxJson,
  sdmxml: async () => (await import('./statistics/sdmx-ml')).readSdmxMl,
  xlsx: async () => (await import('./xlsx/read')).readXlsx,
  kml: async () => (await import('./kml/read')).readKml,
  gpx: async () => (await import('./kml/read')).readGpx,
  geotiff: async () => ({ where: (await import('./geotiff/read')).readGeotiff }),
  picture: async () => (await import('./raster/lone-picture')).readLonePicture,
}

/** What a `.json` file is, by what stands in its beginning. */
const insideJson: [FormatId, RegExp][] = [
  ['topojson', /"type"\s*:\s*"Topology"/],
  ['jsonstat', /"class"\s*:\s*"(dataset|collection)"|"version"\s*:\s*"2\.0"[^}]*"(id|size|dimension)"\s*:/],
  ['sdmx', /"(dataSets|structures?)"\s*:|sdmx-json/],
]

/** The format of a file by its name; a `.json` file is looked into. */
function formatOf(bytes: Uint8Array, fileName: string): FormatId {
  const name = fileName.toLowerCase()
  if (name.endsWith('.json')) {
    const start = new TextDecoder().decode(bytes.subarray(0, 4000))
    const found = insideJson.find(([, sign]) => sign.test(start))
    if (found) return found[0]
  }
  // Of two endings that fit the longer one is meant.
  const id = formatIds
    .flatMap((format) => formats[format].reads.map((ending) => ({ format, ending: ending as string })))
    .filter(({ ending }) => name.endsWith(ending))
    .sort((one, other) => other.ending.length - one.ending.length)[0]?.format
  if (!id)
    throw new ImportError(
      `${fileName} has an ending that is not known here. What can be brought in: ${formatIds
        .map((format) => formats[format].label)
        .join(', ')}.`,
    )
  return id
}

/** The largest file that is read whole. */
const mostWhole = 2 ** 31

/**
 * Reads a file into datasets in degrees of WGS 84.
 * @param given its bytes, or where they lie
 * @throws ImportError saying what is wrong with it.
 */
export async function readFile(
  given: Uint8Array | ByteSource,
  fileName: string,
  options: ReadOptions = {},
  how: Partial<Reading> = {},
): Promise<{ format: string; datasets: Imported[] }> {
  // Node's own kind of bytes has methods that mean other things.
  const source = ArrayBuffer.isView(given)
    ? bytesSource(new Uint8Array(given.buffer, given.byteOffset, given.byteLength))
    : given
  if (!source.size) throw new ImportError(`${fileName} is empty.`)
  const id = formatOf(source.read(0, Math.min(source.size, 4000)), fileName)
  const reader = await readers[id]()
  const { label } = formats[id]
  const reading: Reading = { progress: () => undefined, openSink: memorySink, ...how }
  try {
    if (typeof reader !== 'function')
      return { format: label, datasets: toldApart(await reader.where(source, fileName, options, reading)) }
    if (source.size > mostWhole)
      throw new ImportError(`${fileName} is larger than the 2 GB that are read of a ${label} file.`)
    const bytes = source.read(0, source.size)
    const datasets = toldApart(await reader(bytes, fileName, options, reading))
    return { format: datasets[0]?.format ?? label, datasets }
  } catch (error) {
    if (error instanceof SaidError) throw error
    // What a library says of it says nothing to the person; it is kept for whoever looks after the program.
    throw new ImportError(
      `${fileName} cannot be read as ${label}: it is damaged, so that its parts do not fit together.`,
      { cause: error },
    )
  }
}

/** Datasets of one file under names that differ: those that would be called alike are counted. */
function toldApart(datasets: Imported[]): Imported[] {
  const taken = new Set<string>()
  return datasets.map(withSafeColumns).map((one) => {
    let { name } = one
    for (let n = 2; taken.has(name); n++) name = `${one.name} ${n}`
    taken.add(name)
    return name === one.name ? one : { ...one, name }
  })
}
