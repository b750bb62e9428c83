import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { classingShape } from '@/core/classify/spec'
import { Colouring } from '@/core/colour/colouring'

/** Lines whose width, colour or both tell a number. Widths and distances are in millimetres. */
export const LineSettings = z.object({
  /** The number that widths are in proportion to; null draws all alike. */
  width: z
    .object({
      field: z.string(),
      value: z.number().positive(),
      widthMm: z.number().min(0.05).max(60),
      leastMm: z.number().min(0).max(10),
    })
    .nullable(),
  /** The number whose classes are the colours; null draws all in one. */
  colour: z
    .object({
      field: z.string(),
      per: z.string().nullable(),
      perCount: z.number().positive(),
      ...classingShape,
      colouring: Colouring,
    })
    .nullable(),
  plainWidthMm: z.number().min(0.05).max(60),
  plainColour: Hex,
  dashed: z.boolean(),
  /** A wider line under each; null for none. */
  casing: z.object({ colour: Hex, widthMm: z.number().min(0.05).max(20) }).nullable(),
  /** A soft shade under each, of several strokes that grow fainter outwards. */
  shadow: z
    .object({ colour: Hex, widthMm: z.number().min(0.1).max(20), opacity: z.number().min(0).max(1) })
    .nullable()
    .default(null),
  /** Strokes laid on each line, one on the other: their width as a share of the line's. */
  over: z
    .array(z.object({ colour: Hex, share: z.number().min(0.02).max(1), dashed: z.boolean() }))
    .max(4)
    .default([]),
  /** To the right of its direction. */
  offsetMm: z.number().min(-20).max(20),
  missing: z.object({ colour: Hex, label: z.string() }),
  opacity: z.number().min(0).max(1),
  ends: z.enum(['round', 'butt']),
  /** Values whose widths the legend shows; none takes round ones. */
  legendValues: z.array(z.number().positive()).default([]),
  numbers: classingShape.numbers,
})
export type LineSettings = z.infer<typeof LineSettings>
