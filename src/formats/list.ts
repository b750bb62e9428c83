/**
 * Every format of data, one line each: what it is called, the endings of files that are brought in, and how it is
 * saved (`shapes`: only datasets that have some). Readers stand in `registry.ts`, writers in `writers/registry.ts`.
 */
export const formats = {
  geojson: { label: 'GeoJSON', reads: ['.geojson', '.json'], saves: { extension: '.geojson', shapes: true } },
  lines: {
    label: 'GeoJSON by lines',
    reads: ['.geojsonl', '.ndjson'],
    saves: { extension: '.ndjson', shapes: true },
  },
  topojson: { label: 'TopoJSON', reads: ['.topojson'], saves: { extension: '.topojson', shapes: true } },
  csv: { label: 'CSV', reads: ['.csv', '.tsv', '.txt'], saves: { extension: '.csv', shapes: false } },
  shp: { label: 'Shapefile', reads: ['.zip'], saves: { extension: '.zip', shapes: true } },
  gpkg: { label: 'GeoPackage', reads: ['.gpkg'], saves: { extension: '.gpkg', shapes: false } },
  fgb: { label: 'FlatGeobuf', reads: ['.fgb'], saves: { extension: '.fgb', shapes: true } },
  parquet: {
    label: 'Parquet',
    reads: ['.parquet', '.geoparquet'],
    saves: { extension: '.parquet', shapes: false },
  },
  xlsx: { label: 'Workbook', reads: ['.xlsx'], saves: { extension: '.xlsx', shapes: false } },
  ods: { label: 'OpenDocument sheet', reads: ['.ods'], saves: null },
  jsonstat: { label: 'JSON-stat', reads: ['.jsonstat'], saves: null },
  px: { label: 'PX', reads: ['.px'], saves: null },
  sdmx: { label: 'SDMX-JSON', reads: ['.sdmx'], saves: null },
  kml: { label: 'KML', reads: ['.kml'], saves: { extension: '.kml', shapes: true } },
  gpx: { label: 'GPX', reads: ['.gpx'], saves: null },
  geotiff: { label: 'GeoTIFF', reads: ['.tif', '.tiff'], saves: null },
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
export const savedAs = (id: ExportFormat): { label: string; extension: string; shapes: boolean } => ({
  label: formats[id].label,
  ...formats[id].saves,
})
