import { z } from 'zod'
import { reaches } from '@/core/grid/potential'
import { surfaceLookShape } from '../surfaces/look'

/** Values that count around their place the less the farther away. */
export const PotentialSettings = z.object({
  field: z.string(),
  reach: z.enum(reaches),
  /** Where a value counts half, km. */
  spanKm: z.number().positive().max(20_000),
  /** Where it counts half, minutes, where lines have a speed. */
  spanMin: z.number().positive().max(100_000),
  /** Lines of another dataset that distances go along; null goes straight. */
  along: z
    .object({
      datasetId: z.string(),
      /** Speed in km/h; null counts kilometres. */
      speed: z.string().nullable(),
      /** Ends that lie so near to another line are joined to it. */
      toleranceM: z.number().min(0).max(10_000),
    })
    .nullable(),
  exponent: z.number().min(0.1).max(10),
  cellKm: z.number().positive().max(5000).nullable(),
  ...surfaceLookShape,
})
export type PotentialSettings = z.infer<typeof PotentialSettings>
