import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { TypeStyle } from '../../type-style'

/** A column: a field with what it is called for readers (empty: as the field), its decimals and how it stands. */
export const TableColumn = z.object({
  field: z.string(),
  label: z.string().max(200),
  decimals: z.number().int().min(0).max(6).nullable(),
  align: z.enum(['auto', 'left', 'centre', 'right']),
})
export type TableColumn = z.infer<typeof TableColumn>

export const TableSettings = z.object({
  datasetId: z.string(),
  columns: z.array(TableColumn).min(1).max(24),
  sortBy: z.string().nullable(),
  descending: z.boolean(),
  /** The first so many rows. */
  rows: z.number().int().min(1).max(2000),
  /** Whether a last row sums up the fields that are totals. */
  totals: z.boolean(),
  /** The layer whose colours stand before the rows; null for none. */
  swatch: z.object({ panelId: z.string().nullable(), layerId: z.string() }).nullable(),
  /** The table set in so many pieces beside each other. */
  blocks: z.number().int().min(1).max(8),
  rules: z.enum(['none', 'head', 'rows']),
  ruleColour: Hex,
  stripes: Hex.nullable(),
  /** Distance of baselines as a multiple of the type size. */
  leading: z.number().min(0.8).max(4),
  gapMm: z.number().min(0).max(50),
  head: TypeStyle,
  body: TypeStyle,
})
export type TableSettings = z.infer<typeof TableSettings>
