import { z } from 'zod'
import { reaches } from '@/core/grid/potential'
import { surfaceLookShape } from '../surfaces/look'

/** Values that count around their place the less the farther away. */
export const PotentialSettings = z.object({
  field: z.string(),
  reach: z.enum(reaches),
  /** Where a value counts half, km. */
  spanKm: z.number().positive().max(20_000),
  exponent: z.number().min(0.1).max(10),
  cellKm: z.number().positive().max(5000).nullable(),
  ...surfaceLookShape,
})
export type PotentialSettings = z.infer<typeof PotentialSettings>
