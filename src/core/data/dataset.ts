import type { Geometry } from '@/core/geo/geometry'
import type { Column } from './column'
import type { Raster } from './raster'

export type Field = { key: string; column: Column }

/**
 * A table whose rows may have shapes. Row `i` of every field belongs to feature `i` of the geometry. A
 * dataset with a raster has no shapes and a row for each band.
 */
export type Dataset = { rowCount: number; fields: Field[]; geometry: Geometry; raster?: Raster }

/** What is to be seen of a dataset. */
export const formOf = ({ geometry, raster }: Dataset): Geometry['kind'] | 'raster' =>
  raster ? 'raster' : geometry.kind

const edges = new WeakMap<Raster, Geometry>()

/** What decides the extent of a dataset: its shapes, or the edge of its raster. */
export function geometriesOf(dataset: Dataset | undefined): Geometry[] {
  if (!dataset?.raster) return dataset ? [dataset.geometry] : []
  const { edge } = dataset.raster
  const known = edges.get(dataset.raster) ?? {
    kind: 'points',
    coords: edge,
    featureStarts: Uint32Array.of(0, edge.length / 2),
  }
  edges.set(dataset.raster, known)
  return [known]
}

export const fieldOf = (dataset: Dataset, key: string): Column | null =>
  dataset.fields.find((field) => field.key === key)?.column ?? null

/** What the geometry of a dataset is called on screen, for one and for many. */
export const shapeWords = {
  areas: ['area', 'areas'],
  lines: ['line', 'lines'],
  points: ['point', 'points'],
  raster: ['band', 'bands'],
  none: ['row', 'rows'],
} as const
