import type { Geometry } from 'geojson'
import { open } from 'shapefile'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { nameFromFile } from '../text'
import { checkShp } from './check-shp'
import { readDbf } from './dbf'
import { vectorDatasets, type FileSays, type Row } from '../vector'
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
  const files = await unzip(bytes, fileName, (name) => /\.(shp|dbf|prj|cpg)$/i.test(name))
  const stems = [...files.keys()].filter((name) => /\.shp$/i.test(name)).map((name) => name.slice(0, -4))
  if (!stems.length) throw new ImportError(`${fileName} holds no shapefile (.shp).`)
  const part = (stem: string, extension: string): Uint8Array | undefined =>
    [...files].find(([name]) => name.toLowerCase() === `${stem}.${extension}`.toLowerCase())?.[1]
  const datasets: Imported[] = []
  for (const stem of stems) {
    const [shp, dbf, prj, cpg] = ['shp', 'dbf', 'prj', 'cpg'].map((extension) => part(stem, extension))
    const encoding = options.encoding ?? encodingOf(cpg ? new TextDecoder().decode(cpg) : 'windows-1252')
    const { rows, types } = await rowsOf(shp as Uint8Array, dbf, {
      name: `${stem}.shp in ${fileName}`,
      stem,
      encoding,
    })
    const crs = options.crs ?? (prj ? new TextDecoder().decode(prj) : null)
    datasets.push(
      ...vectorDatasets(rows, nameFromFile(stem), fileName, {
        crs,
        guessed: { encoding, crs: options.crs },
        types,
      }),
    )
  }
  return datasets
}

/** Shapes with the rows of their table, which stand in the same order. */
async function rowsOf(
  shp: Uint8Array,
  dbf: Uint8Array | undefined,
  { name, stem, encoding }: { name: string; stem: string; encoding: string },
): Promise<{ rows: Row[]; types: FileSays['types'] }> {
  const count = checkShp(shp, name)
  const table = dbf && readDbf(dbf, `${stem}.dbf`, decoderOf(encoding))
  if (table && table.rows.length !== count)
    throw new ImportError(
      `${name} holds ${count} shapes, but ${stem}.dbf ${table.rows.length} rows: from row ${Math.min(count, table.rows.length) + 1} on they do not belong together.`,
    )
  const rows: Row[] = []
  try {
    const source = await open(bufferOf(shp))
    for (let next = await source.read(); !next.done; next = await source.read()) {
      const row = rows.length
      rows.push({
        shape: (next.value.geometry as Geometry | null) ?? null,
        properties: table?.rows[row] ?? {},
      })
    }
  } catch {
    throw new ImportError(`${name} is damaged at shape ${rows.length + 1}.`)
  }
  if (rows.length !== count)
    throw new ImportError(`${name} is damaged: only ${rows.length} of its ${count} shapes can be read.`)
  return {
    rows: table ? rows.filter((_, row) => !table.deleted.has(row)) : rows,
    types: table?.types,
  }
}

function decoderOf(encoding: string): TextDecoder {
  try {
    return new TextDecoder(encoding)
  } catch {
    throw new ImportError(`“${encoding}” is not an encoding that is known here.`)
  }
}

const bufferOf = (bytes: Uint8Array): ArrayBuffer => Uint8Array.from(bytes).buffer
