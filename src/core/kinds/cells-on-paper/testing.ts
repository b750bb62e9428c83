import type { Dataset } from '@/core/data/dataset'
import type { PaperTransform } from '@/core/geo/paper'
import { adviseEqualArea } from '@/core/projection/adviser'
import { createProjection } from '@/core/projection/projection'
import type { Raster as RasterNode } from '@/core/scene/scene'
import { createFontBook } from '@/core/scene/text'
import type { DrawContext, KindData } from '../kind'

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

/** The projection and the window of paper for such a raster; for tests. */
export const projection = createProjection(adviseEqualArea([-30, 48, -26, 50]))
export const window = { x: 0, y: 0, width: 100, height: 80 }

/** What a kind is drawn with on that paper; for tests. */
export const paperOver = (dataset: Dataset, to: PaperTransform): DrawContext => ({
  ...{ dataset, projection, projected: dataset.geometry, to, window },
  fonts: createFontBook(),
  toleranceMm: 0.1,
  datasetOf: () => null,
  featureName: String,
})

/** Red, green, blue and opacity of the cell that was painted over a place; for tests. */
export function cellOver(
  { box, columns, rows, rgba }: RasterNode,
  { to }: Pick<DrawContext, 'to'>,
  [lon, lat]: [lon: number, lat: number],
): number[] {
  const [x, y] = projection.project(lon, lat)
  const column = Math.floor(((x * to.mmPerMetre + to.dx - box.x) / box.width) * columns)
  const row = Math.floor(((y * to.mmPerMetre + to.dy - box.y) / box.height) * rows)
  return [...rgba(row, row + 1).subarray(4 * column, 4 * column + 4)]
}
