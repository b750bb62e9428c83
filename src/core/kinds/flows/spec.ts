import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { sortedKeys } from '@/core/registry/sorted-record'
import { classingShape } from '@/core/classify/spec'
import { NumberFormat, plainFormat } from '@/core/classify/number-format'

/**
 * Lines between places, one for each row of a table of origins and destinations. Widths and sizes are in
 * millimetres.
 */
export const FlowSettings = z.object({
  from: z.string(),
  to: z.string(),
  field: z.string(),
  /** The areas or points that rows refer to, and the field that names them; null shows nothing. */
  places: z.object({ datasetId: z.string(), key: z.string() }).nullable(),
  /** So wide is a flow of this value; all others in proportion. */
  anchor: z.object({ value: z.number().positive(), widthMm: z.number().min(0.05).max(60) }),
  leastMm: z.number().min(0).max(10),
  /** One width for each class of values; they run evenly up to that of the anchor. Null is in proportion. */
  graded: z
    .object({ ...classingShape })
    .nullable()
    .default(null),
  /** Smaller flows are left out. */
  threshold: z.number(),
  /** How far a line bends to its right, as a share of its length; 0 is straight. */
  bend: z.number().min(0).max(0.6),
  arrows: z.boolean(),
  colour: z.discriminatedUnion('by', [
    z.object({ by: z.literal('nothing'), fill: Hex }),
    z.object({ by: z.literal('direction'), east: Hex, west: Hex }),
    /** The places' region that a flow comes from. */
    z.object({
      by: z.literal('region'),
      field: z.string(),
      colours: z.record(z.string(), Hex).overwrite(sortedKeys),
    }),
  ]),
  opacity: z.number().min(0).max(1),
  /** Values whose widths the legend shows; none takes round ones. */
  legendValues: z.array(z.number().positive()).default([]),
  numbers: NumberFormat.default(plainFormat),
})
export type FlowSettings = z.infer<typeof FlowSettings>
