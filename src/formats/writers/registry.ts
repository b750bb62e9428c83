import { writeGeopackage } from './geopackage'
import { writeCsv, writeFlatgeobuf, writeGeojson, writeTopojson, writeXlsx } from './plain'
import type { WriteRequest } from './rows'
import { writeShapefile } from './shapefile'
import { exportFormats, type ExportFormat } from './formats'

/** How every format is written, one line each. */
const writers: Record<ExportFormat, (request: WriteRequest) => Uint8Array | Promise<Uint8Array>> = {
  geojson: writeGeojson,
  topojson: writeTopojson,
  gpkg: writeGeopackage,
  fgb: writeFlatgeobuf,
  shp: writeShapefile,
  csv: writeCsv,
  xlsx: writeXlsx,
}

/**
 * A dataset as the bytes of a file.
 * @throws RangeError where the format needs shapes and there are none
 */
export async function writeDataset(format: ExportFormat, request: WriteRequest): Promise<Uint8Array> {
  if (exportFormats[format].shapes && request.dataset.geometry.kind === 'none')
    throw new RangeError(
      `${exportFormats[format].label} is for datasets with shapes; “${request.name}” is a table.`,
    )
  return writers[format](request)
}
