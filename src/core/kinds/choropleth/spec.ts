import { z } from 'zod'
import { maxClasses, methodIds, minClasses } from '@/core/classify/classify'
import { schemeIds } from '@/core/colour/schemes'

const Hex = z.string().regex(/^#[0-9a-f]{6}$/i)

export const ChoroplethSettings = z.object({
  field: z.string(),
  /** The field that values are divided by; null for none. */
  per: z.string().nullable(),
  /** Values are given for so many of the denominator: 1, 100, 1,000… */
  perCount: z.number().positive(),
  method: z.enum(methodIds),
  classes: z.number().int().min(minClasses).max(maxClasses),
  manualBreaks: z.array(z.number()),
  rounded: z.boolean(),
  scheme: z.enum(schemeIds),
  reversed: z.boolean(),
  missing: z.object({ colour: Hex, hatched: z.boolean(), label: z.string() }),
  outline: z.object({ colour: Hex, widthPt: z.number().min(0).max(20), coastColour: Hex, coastWidthPt: z.number().min(0).max(20) }),
})
export type ChoroplethSettings = z.infer<typeof ChoroplethSettings>
