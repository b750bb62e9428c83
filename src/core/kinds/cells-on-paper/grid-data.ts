import type { KindData } from '../kind'

/**
 * A raster of tenths of a degree from 30° W and 50° N on, as a kind sees it; for tests.
 * @param value of a column and row
 */
export function gridData(
  columns: number,
  rows: number,
  value: (column: number, row: number) => number,
): KindData {
  const [east, south] = [-30 + columns / 10, 50 - rows / 10]
  return {
    dataset: {
      rowCount: 1,
      fields: [],
      geometry: { kind: 'none' },
      raster: {
        crs: '',
        columns,
        rows,
        bands: 1,
        transform: Float64Array.of(-30, 0.1, 0, 50, 0, -0.1),
        values: Float32Array.from({ length: columns * rows }, (_, i) =>
          value(i % columns, Math.floor(i / columns)),
        ),
        edge: Float64Array.of(-30, 50, east, 50, east, south, -30, south),
        fileSize: Uint32Array.of(columns, rows),
      },
    },
    name: 'Rain',
    fieldMeta: () => ({ label: '', unit: '', role: 'total' }),
    datasetOf: () => null,
    datasetIds: [],
  }
}
