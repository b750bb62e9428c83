import type { ByteSource } from '../byte-source'
import { ImportError, type Imported, type ReadOptions, type Reading } from '../import-error'
import { importRaster } from '../raster/import-raster'
import { openGeotiff } from './open'

/**
 * Reads an elevation model or picture. Values marked as empty, and cells under a clear mask, are missing.
 * @throws ImportError; UnknownSystemError where the file does not say its reference system
 */
export async function readGeotiff(
  source: ByteSource,
  fileName: string,
  options: ReadOptions,
  reading: Reading,
): Promise<Imported[]> {
  try {
    return [await importRaster(await openGeotiff(source, fileName, options), fileName, reading)]
  } catch (error) {
    if (error instanceof ImportError) throw error
    throw new ImportError(
      `${fileName} cannot be read as a GeoTIFF: what it says of itself does not fit together.`,
      { cause: error },
    )
  }
}
