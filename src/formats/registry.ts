import { readCsv } from './csv/read'
import { readGeojson } from './geojson/read'
import { ImportError, type Imported } from './import-error'
import { readTopojson } from './topojson/read'

type Format = { label: string; extensions: string[]; read: (bytes: Uint8Array, fileName: string) => Imported[] }

/** Every format that can be brought in, one line each. */
const formats: Record<string, Format> = {
  geojson: { label: 'GeoJSON', extensions: ['.geojson', '.json'], read: readGeojson },
  topojson: { label: 'TopoJSON', extensions: ['.topojson'], read: readTopojson },
  csv: { label: 'CSV', extensions: ['.csv', '.tsv', '.txt'], read: readCsv },
}

export const importExtensions = Object.values(formats).flatMap((format) => format.extensions)

/** The format of a file by its name; a `.json` file is looked into. */
function formatOf(bytes: Uint8Array, fileName: string): Format {
  const name = fileName.toLowerCase()
  if (name.endsWith('.json') && /"type"\s*:\s*"Topology"/.test(new TextDecoder().decode(bytes.subarray(0, 4000)))) return formats.topojson
  const format = Object.values(formats).find(({ extensions }) => extensions.some((extension) => name.endsWith(extension)))
  if (!format) throw new ImportError(`${fileName} has an ending that is not known here. ${Object.values(formats).map((f) => f.label).join(', ')} files can be brought in.`)
  return format
}

/**
 * Reads a file into datasets.
 * @throws ImportError saying what is wrong with it.
 */
export function readFile(bytes: Uint8Array, fileName: string): { format: string; datasets: Imported[] } {
  if (!bytes.length) throw new ImportError(`${fileName} is empty.`)
  const format = formatOf(bytes, fileName)
  return { format: format.label, datasets: format.read(bytes, fileName) }
}
