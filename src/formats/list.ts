/**
 * Every format of data, one line each: what it is called, the endings of files that are brought in, and how it is
 * saved (`holds`: any rows, only those with shapes, or the cells of a raster). Readers stand in `registry.ts`, writers
 * in `writers/registry.ts`.
 */
export const formats = {
  geojson: {
    label: 'GeoJSON',
    reads: ['.geojson', '.json'],
    saves: { extension: '.geojson', holds: 'shapes' },
  },
  lines: {
    label: 'GeoJSON by lines',
    reads: ['.geojsonl', '.ndjson'],
    saves: { extension: '.ndjson', holds: 'shapes' },
  },
  topojson: { label: 'TopoJSON', reads: ['.topojson'], saves: { extension: '.topojson', holds: 'shapes' } },
  csv: { label: 'CSV', reads: ['.csv', '.tsv', '.txt'], saves: { extension: '.csv', holds: 'rows' } },
  shp: { label: 'Shapefile', reads: ['.zip'], saves: { extension: '.zip', holds: 'shapes' } },
  gpkg: { label: 'GeoPackage', reads: ['.gpkg'], saves: { extension: '.gpkg', holds: 'rows' } },
  fgb: { label: 'FlatGeobuf', reads: ['.fgb'], saves: { extension: '.fgb', holds: 'shapes' } },
  parquet: {
    label: 'Parquet',
    reads: ['.parquet', '.geoparquet'],
    saves: { extension: '.parquet', holds: 'rows' },
  },
  xlsx: { label: 'Workbook', reads: ['.xlsx'], saves: { extension: '.xlsx', holds: 'rows' } },
  ods: { label: 'OpenDocument sheet', reads: ['.ods'], saves: null },
  jsonstat: { label: 'JSON-stat', reads: ['.jsonstat'], saves: null },
  px: { label: 'PX', reads: ['.px'], saves: null },
  sdmx: { label: 'SDMX-JSON', reads: ['.sdmx'], saves: null },
  sdmxml: { label: 'SDMX-ML', reads: ['.xml'], saves: null },
  kml: { label: 'KML', reads: ['.kml'], saves: { extension: '.kml', holds: 'shapes' } },
  gpx: { label: 'GPX', reads: ['.gpx'], saves: null },
  geotiff: { label: 'GeoTIFF', reads: ['.tif', '.tiff'], saves: { extension: '.tif', holds: 'cells' } },
  picture: { label: 'Picture with a world file', reads: ['.png', '.jpg', '.jpeg'], saves: null },
} as const

type Formats = typeof formats
export type FormatId = keyof Formats
/** Those that datasets are saved in. */
export type ExportFormat = { [F in FormatId]: Formats[F]['saves'] extends null ? never : F }[FormatId]

export const formatIds = Object.keys(formats) as FormatId[]
export const exportFormatIds = formatIds.filter((id) => formats[id].saves !== null) as [
  ExportFormat,
  ...ExportFormat[],
]
export const importExtensions: string[] = formatIds.flatMap((id) => [...formats[id].reads])

/** How a format is saved. */
export const savedAs = (
  id: ExportFormat,
): { label: string; extension: string; holds: 'rows' | 'shapes' | 'cells' } => ({
  label: formats[id].label,
  ...formats[id].saves,
})
