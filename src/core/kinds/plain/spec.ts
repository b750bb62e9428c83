import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { plainShapes } from '../marks/shapes'

/** Areas, lines or points that give orientation. Sizes and widths are in points. */
export const PlainSettings = z.object({
  fill: Hex.nullable(),
  stroke: z.object({ colour: Hex, widthPt: z.number().min(0).max(20), dashed: z.boolean() }),
  /** A wider line beneath lines, so much on either side. */
  casing: z
    .object({ colour: Hex, widthPt: z.number().min(0).max(20) })
    .nullable()
    .default(null),
  /** Height of a point's symbol. */
  dotPt: z.number().min(0).max(60),
  dotShape: z.enum(plainShapes).default('circle'),
})
export type PlainSettings = z.infer<typeof PlainSettings>
