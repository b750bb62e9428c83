import { z } from 'zod'
import { fontFamilyIds, type FontFamily } from '@/core/scene/fonts'

const Hex = z.string().regex(/^#[0-9a-f]{6}$/i)

/** Areas, lines or points that give orientation. Sizes and widths are in points. */
export const PlainSettings = z.object({
  fill: Hex.nullable(),
  stroke: z.object({ colour: Hex, widthPt: z.number().min(0).max(20), dashed: z.boolean() }),
  /** Diameter of a point's dot. */
  dotPt: z.number().min(0).max(60),
  label: z
    .object({
      field: z.string(),
      family: z.enum(fontFamilyIds as [FontFamily, ...FontFamily[]]),
      sizePt: z.number().min(3).max(72),
      /** Only points whose value of this field is at least `atLeast` are shown and named; null shows all. */
      rankField: z.string().nullable(),
      atLeast: z.number(),
    })
    .nullable(),
})
export type PlainSettings = z.infer<typeof PlainSettings>
