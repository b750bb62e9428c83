import type { Geometry } from 'geojson'
import { open } from 'shapefile'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { nameFromFile } from '../text'
import { vectorDatasets, type Row } from '../vector'
import { unzip } from '../zip/unzip'

/** Names that code page files use, as the platform calls them. */
const encodings: [RegExp, string][] = [
  [/^utf-?8$|^65001$/i, 'utf-8'],
  [/^(cp|ansi|windows-?)?\s*125(\d)$/i, 'windows-125$2'],
  [/^(iso[-_ ]?)?8859[-_]?(\d+)$/i, 'iso-8859-$2'],
  [/^8859(\d+)$/, 'iso-8859-$1'],
  [/^1252$/, 'windows-1252'],
]

const encodingOf = (cpg: string): string => {
  const encoding = encodings.find(([pattern]) => pattern.test(cpg.trim()))
  return encoding ? cpg.trim().replace(...encoding) : 'utf-8'
}

/**
 * Reads every shapefile of a zip archive. The reference system comes from the .prj, the encoding from the
 * .cpg.
 * @throws ImportError; one that asks for the reference system where there is no .prj and coordinates are not
 * degrees
 */
export async function readShapefile(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
): Promise<Imported[]> {
  const files = unzip(bytes, fileName, (name) => /\.(shp|dbf|prj|cpg)$/i.test(name))
  const stems = [...files.keys()].filter((name) => /\.shp$/i.test(name)).map((name) => name.slice(0, -4))
  if (!stems.length) throw new ImportError(`${fileName} holds no shapefile (.shp).`)
  const part = (stem: string, extension: string): Uint8Array | undefined =>
    [...files].find(([name]) => name.toLowerCase() === `${stem}.${extension}`.toLowerCase())?.[1]
  const datasets: Imported[] = []
  for (const stem of stems) {
    const [shp, dbf, prj, cpg] = ['shp', 'dbf', 'prj', 'cpg'].map((extension) => part(stem, extension))
    const encoding = options.encoding ?? encodingOf(cpg ? new TextDecoder().decode(cpg) : 'windows-1252')
    const rows: Row[] = []
    try {
      const source = await open(bufferOf(shp as Uint8Array), dbf ? bufferOf(dbf) : undefined, { encoding })
      for (let next = await source.read(); !next.done; next = await source.read())
        rows.push({
          shape: (next.value.geometry as Geometry | null) ?? null,
          properties: tidyProperties(next.value.properties ?? {}),
        })
    } catch (error) {
      throw new ImportError(`${stem}.shp in ${fileName} is damaged: ${(error as Error).message}.`)
    }
    const crs = options.crs ?? (prj ? new TextDecoder().decode(prj) : null)
    datasets.push(
      ...vectorDatasets(rows, nameFromFile(stem), fileName, { crs, guessed: { encoding, crs: options.crs } }),
    )
  }
  return datasets
}

const bufferOf = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer

/** Dates become text as they are written; text loses the blanks that fill its field up. */
function tidyProperties(properties: Record<string, unknown>): Record<string, unknown> {
  const tidy = (value: unknown): unknown => {
    if (value instanceof Date) return value.toISOString().slice(0, 10)
    return typeof value === 'string' ? value.replace(/\0/g, '').trimEnd() || null : value
  }
  return Object.fromEntries(Object.entries(properties).map(([key, value]) => [key, tidy(value)]))
}
