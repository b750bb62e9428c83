import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { fontFamilyIds, type FontFamily } from '@/core/scene/fonts'
import { type TextStyle } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'

/** How a piece of lettering on a sheet is set. Sizes are in points. */
export const TypeStyle = z.object({
  family: z.enum(fontFamilyIds as [FontFamily, ...FontFamily[]]),
  weight: z.union([z.literal(300), z.literal(400), z.literal(600), z.literal(700)]),
  italic: z.boolean(),
  sizePt: z.number().min(2).max(400),
  letterSpacingPt: z.number().min(-5).max(50),
  colour: Hex,
  /** The named style of the folio that it is; null for a style of its own. What stands here is then what it was. */
  named: z.string().nullable().default(null),
})
export type TypeStyle = z.infer<typeof TypeStyle>

/** A type style with a name, kept in the folio; whatever is set in it follows it. */
export const NamedTypeStyle = z.object({
  id: z.string(),
  name: z.string().min(1).max(80),
  style: TypeStyle,
})
export type NamedTypeStyle = z.infer<typeof NamedTypeStyle>

export const typeStyle = (family: FontFamily, sizePt: number, more: Partial<TypeStyle> = {}): TypeStyle => ({
  family,
  weight: 400,
  italic: false,
  sizePt,
  letterSpacingPt: 0,
  colour: '#1b1b1b',
  named: null,
  ...more,
})

export const lineStyle = ({ family, weight, italic, sizePt, letterSpacingPt }: TypeStyle): TextStyle => ({
  font: { family, weight, italic },
  sizeMm: pointsToMm(sizePt),
  letterSpacingMm: pointsToMm(letterSpacingPt),
})
