import { z } from 'zod'
import { sortedKeys } from '@/core/registry/sorted-record'
import { Hex } from '@/core/scene/hex'

/** What one kind of ground looks like where it was changed by hand. */
const Own = z.object({
  colour: Hex.nullable(),
  label: z.string().max(200).nullable(),
  /** The value that it is shown as. */
  with: z.string().nullable(),
  /** Whether it is painted, and has a line in the legend. */
  shown: z.boolean(),
})
export type Own = z.infer<typeof Own>

/** Cells of a raster whose values name kinds of ground. */
export const CellCategorySettings = z.object({
  /** Counted from 0. */
  band: z.number().int().nonnegative(),
  what: z.string().max(120),
  /** An unordered set of colours, by id; where the file has colours of its own, null takes those. */
  set: z.string().nullable(),
  order: z.enum(['value', 'ground']),
  /** Changes by hand, by the value. */
  own: z.record(z.string(), Own).overwrite(sortedKeys),
  missing: z.object({ colour: Hex, label: z.string().max(200) }).nullable(),
})
export type CellCategorySettings = z.infer<typeof CellCategorySettings>
