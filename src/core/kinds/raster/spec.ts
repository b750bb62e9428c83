import { z } from 'zod'

export const rasterLooks = ['greys', 'heights', 'colours'] as const

/** One band in greys or height tints between two values, or three bands as red, green and blue. */
export const RasterSettings = z.object({
  look: z.enum(rasterLooks),
  /** Counted from 0. */
  band: z.number().int().nonnegative(),
  /** The values at the dark and the light end; null takes the lowest and the highest there are. */
  low: z.number().nullable(),
  high: z.number().nullable(),
  reversed: z.boolean(),
})
export type RasterSettings = z.infer<typeof RasterSettings>
