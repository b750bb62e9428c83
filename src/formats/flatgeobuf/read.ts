import { deserialize } from 'flatgeobuf/lib/mjs/geojson.js'
import type { Feature } from 'geojson'
import { ImportError, type Imported, type ReadOptions } from '../import-error'
import { nameFromFile } from '../text'
import { vectorDatasets, type Row } from '../vector'

/** @throws ImportError */
export async function readFlatgeobuf(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions,
): Promise<Imported[]> {
  const rows: Row[] = []
  let code: number | null = null
  try {
    for await (const feature of deserialize(bytes, {
      headerMetaFn: (header) => void (code = header.crs?.code ?? null),
    }) as AsyncGenerator<Feature>)
      rows.push({ shape: feature.geometry, properties: feature.properties ?? {} })
  } catch (error) {
    throw new ImportError(`${fileName} cannot be read as FlatGeobuf: ${(error as Error).message}.`)
  }
  if (!rows.length) throw new ImportError(`${fileName} holds no features.`)
  const crs = options.crs ?? (code ? `EPSG:${code}` : null)
  return vectorDatasets(rows, nameFromFile(fileName), fileName, { crs, guessed: { crs: crs ?? undefined } })
}
