import { z } from 'zod'
import { Hex } from '@/core/scene/hex'

export const rasterLooks = ['greys', 'heights', 'colours'] as const

const Band = z.number().int().nonnegative()

/** One band in greys or height tints between two values, or three bands as red, green and blue. */
export const RasterSettings = z.object({
  look: z.enum(rasterLooks),
  /** Counted from 0. */
  band: Band,
  /** The bands that are shown as red, green and blue. */
  colours: z.tuple([Band, Band, Band]).default([0, 1, 2]),
  /** The values at either end; null takes the lowest and the highest there are, of colours 0 and 255. */
  low: z.number().nullable(),
  high: z.number().nullable(),
  reversed: z.boolean(),
  /**
   * How opaque cells are, from the lowest value to the highest: shares at both ends, and how the way between bends,
   * from −1 (opaque late) over 0 (evenly) to 1 (opaque early). Null is opaque throughout.
   */
  opacity: z
    .object({
      low: z.number().min(0).max(1),
      high: z.number().min(0).max(1),
      bend: z.number().min(-1).max(1),
    })
    .nullable()
    .default(null),
  /** How much is left of the colour: 0 is grey, 1 is all of it. */
  saturation: z.number().min(0).max(1).default(1),
  /** Whether values are mixed between the middles of cells, or each cell is flat. */
  cells: z.enum(['smooth', 'flat']).default('smooth'),
  /** The colour of cells without a value; null leaves them clear. */
  empty: Hex.nullable().default(null),
})
export type RasterSettings = z.infer<typeof RasterSettings>
