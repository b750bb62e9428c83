import { z } from 'zod'
import { classingShape } from '@/core/classify/spec'
import { colouringShape } from '@/core/colour/colouring'
import { cellShapes } from '@/core/grid/cells'
import { sortedKeys } from '@/core/registry/sorted-record'
import { Hex } from '@/core/scene/hex'
import { areaLookShape } from '../area-drawing'

export const figures = ['count', 'sum', 'mean', 'weighted mean', 'median', 'share'] as const
export type CellFigure = (typeof figures)[number]

/** Points gathered in equal cells. */
export const CellSettings = z.object({
  figure: z.enum(figures),
  /** The field that is added up, or of which the mean is taken; for shares the one that is compared. */
  field: z.string().nullable(),
  /** What each value weighs, for weighted means. */
  weight: z.string().nullable(),
  /** Points with this value are the share. */
  shareOf: z.string().nullable(),
  shape: z.enum(cellShapes),
  /** Between the middles of neighbours, kilometres on the ground. */
  spacingKm: z.number().min(0.01).max(5000),
  /** Whole cells in classes, cells sized by their value, or spikes as high as it. */
  form: z.enum(['classes', 'sized', 'spikes']),
  /** Height of the highest spike. */
  highestMm: z.number().min(1).max(300),
  /** Cells without points are shown as zero within these areas; null leaves them out. */
  empty: z.object({ datasetId: z.string() }).nullable(),
  ...classingShape,
  ...colouringShape,
  ownColours: z.record(z.string(), Hex).overwrite(sortedKeys).default({}),
  ...areaLookShape,
})
export type CellSettings = z.infer<typeof CellSettings>
