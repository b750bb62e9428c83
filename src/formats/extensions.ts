/** The formats that can be brought in, with the endings of their files. Readers stand in `registry.ts`. */
export const importFormats = {
  geojson: { label: 'GeoJSON', extensions: ['.geojson', '.json', '.geojsonl', '.ndjson'] },
  topojson: { label: 'TopoJSON', extensions: ['.topojson'] },
  csv: { label: 'CSV', extensions: ['.csv', '.tsv', '.txt'] },
  shapefile: { label: 'Shapefile', extensions: ['.zip'] },
  geopackage: { label: 'GeoPackage', extensions: ['.gpkg'] },
  flatgeobuf: { label: 'FlatGeobuf', extensions: ['.fgb'] },
  xlsx: { label: 'Workbook', extensions: ['.xlsx'] },
  kml: { label: 'KML', extensions: ['.kml'] },
  geotiff: { label: 'GeoTIFF', extensions: ['.tif', '.tiff'] },
  gpx: { label: 'GPX', extensions: ['.gpx'] },
} as const

export type FormatId = keyof typeof importFormats
export const importExtensions: string[] = Object.values(importFormats).flatMap((format) => [
  ...format.extensions,
])
