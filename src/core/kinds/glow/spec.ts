import { z } from 'zod'
import { Hex } from '@/core/scene/hex'

/** Points as light on dark ground: round gradients that add up. Sizes are in millimetres. */
export const GlowSettings = z.object({
  /** How far the light of a point reaches. */
  radiusMm: z.number().min(0.1).max(30),
  /** What a point's light is in proportion to; null gives all the same. */
  field: z.string().nullable(),
  /**
   * So much light of single points is shown at its middle, 0 to 1; more of them on one place come nearer to
   * the core's colour.
   */
  strength: z.number().min(0.01).max(1),
  edge: Hex,
  middle: Hex,
  core: Hex,
})
export type GlowSettings = z.infer<typeof GlowSettings>
