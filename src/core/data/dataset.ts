import type { Geometry } from '@/core/geo/geometry'
import type { Column } from './column'

export type Field = { key: string; column: Column }

/** A table whose rows may have shapes. Row `i` of every field belongs to feature `i` of the geometry. */
export type Dataset = { rowCount: number; fields: Field[]; geometry: Geometry }

export const fieldOf = (dataset: Dataset, key: string): Column | null => dataset.fields.find((field) => field.key === key)?.column ?? null

/** What the geometry of a dataset is called on screen, for one and for many. */
export const shapeWords = { areas: ['area', 'areas'], lines: ['line', 'lines'], points: ['point', 'points'], none: ['row', 'rows'] } as const
