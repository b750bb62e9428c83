import { z } from 'zod'
import { Hex } from '@/core/scene/hex'

/** One dot for so many of a total. Sizes are in millimetres. */
export const DotSettings = z.object({
  /** The totals that are dotted, each in a colour of its own. */
  fields: z
    .array(z.object({ field: z.string(), colour: Hex }))
    .min(1)
    .max(8),
  /** How many of the total one dot stands for. */
  each: z.number().min(1e-9).max(1e15),
  sizeMm: z.number().min(0.05).max(10),
  /** Areas of another dataset within which dots are kept, or out of which; null for no such areas. */
  mask: z.object({ datasetId: z.string(), within: z.boolean() }).nullable(),
  /** The same seed puts the dots on the same places. */
  seed: z.number().int().min(0).max(999_999),
})
export type DotSettings = z.infer<typeof DotSettings>
