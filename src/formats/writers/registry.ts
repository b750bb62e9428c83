import { writeFlatgeobuf } from './flatgeobuf'
import { writeGeotiff } from './geotiff'
import { writeGeopackage } from './geopackage'
import { writeKml } from './kml'
import { writeParquet } from './parquet'
import { writeCsv, writeGeojson, writeGeojsonLines, writeTopojson, writeXlsx } from './plain'
import type { WriteRequest, Written } from './rows'
import { SaidError } from '@/core/said/said-error'
import { writeShapefile } from './shapefile'
import { savedAs, type ExportFormat } from '../list'

type Plain = Uint8Array

/** How every format is written, one line each. */
const writers: Record<ExportFormat, (request: WriteRequest) => Plain | Written | Promise<Plain | Written>> = {
  geojson: writeGeojson,
  lines: writeGeojsonLines,
  topojson: writeTopojson,
  gpkg: writeGeopackage,
  fgb: writeFlatgeobuf,
  shp: writeShapefile,
  csv: writeCsv,
  xlsx: writeXlsx,
  parquet: writeParquet,
  kml: writeKml,
  geotiff: writeGeotiff,
}

/**
 * A dataset as the bytes of a file, with what is to be said of them.
 * @throws SaidError where the format needs shapes and there are none
 */
export async function writeDataset(format: ExportFormat, request: WriteRequest): Promise<Written> {
  if (savedAs(format).holds === 'shapes' && request.dataset.geometry.kind === 'none')
    throw new SaidError(`${savedAs(format).label} is for datasets with shapes; “${request.name}” is a table.`)
  const written = await writers[format](request)
  return written instanceof Uint8Array ? { bytes: written, remarks: [] } : written
}
