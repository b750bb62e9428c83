/** The formats that datasets are saved in. `shapes`: only where there are any. */
export const exportFormats = {
  geojson: { label: 'GeoJSON', extension: '.geojson', shapes: true },
  topojson: { label: 'TopoJSON', extension: '.topojson', shapes: true },
  gpkg: { label: 'GeoPackage', extension: '.gpkg', shapes: false },
  fgb: { label: 'FlatGeobuf', extension: '.fgb', shapes: true },
  shp: { label: 'Shapefile', extension: '.zip', shapes: true },
  csv: { label: 'CSV', extension: '.csv', shapes: false },
  xlsx: { label: 'Workbook', extension: '.xlsx', shapes: false },
} as const

export type ExportFormat = keyof typeof exportFormats
export const exportFormatIds = Object.keys(exportFormats) as [ExportFormat, ...ExportFormat[]]
