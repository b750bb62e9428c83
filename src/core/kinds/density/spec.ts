import { z } from 'zod'
import { kernels } from '@/core/grid/kernel-density'
import { surfaceLookShape } from '../surfaces/look'

/** How dense points are, smoothed by a kernel. Lengths are in kilometres on the ground. */
export const DensitySettings = z.object({
  /** What each point stands for; null counts them. */
  weight: z.string().nullable(),
  kernel: z.enum(kernels),
  /** Null takes Silverman's rule. */
  bandwidthKm: z.number().positive().max(20_000).nullable(),
  /** Narrower where there are many points, wider where there are few. */
  adaptive: z.boolean(),
  /** Side of a cell; null takes what the bandwidth needs. */
  cellKm: z.number().positive().max(5000).nullable(),
  /** Values are for so many km². */
  perKm2: z.number().positive(),
  ...surfaceLookShape,
})
export type DensitySettings = z.infer<typeof DensitySettings>
