import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { classingShape } from '@/core/classify/spec'
import { sortedKeys } from '@/core/registry/sorted-record'
import { areaLookShape } from '../area-drawing'
import { colouringShape } from '@/core/colour/colouring'

export const ChoroplethSettings = z.object({
  field: z.string(),
  /** The field that values are divided by; null for none. */
  per: z.string().nullable(),
  /** Values are given for so many of the denominator: 1, 100, 1,000… */
  perCount: z.number().positive(),
  ...classingShape,
  ...colouringShape,
  /** Colours of single classes chosen by hand, by the number of the class from below. */
  ownColours: z.record(z.string(), Hex).overwrite(sortedKeys).default({}),
  /**
   * Which values are not reliable: `field` is the margin of error in the field's own unit, or the coefficient
   * of variation in percent; above so many percent they are shown as such.
   */
  uncertainty: z
    .object({
      field: z.string(),
      measure: z.enum(['margin', 'variation']),
      over: z.number().min(0),
      show: z.enum(['hatch', 'fade']),
    })
    .nullable()
    .default(null),
  ...areaLookShape,
})
export type ChoroplethSettings = z.infer<typeof ChoroplethSettings>
