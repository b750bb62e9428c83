import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { fontFamilyIds, type FontFamily } from '@/core/scene/fonts'
import { Fill } from '../fill'

/** What a stretch of a text has of its own; what is not said is as the text. */
export const RunLook = z.object({
  family: z.enum(fontFamilyIds as [FontFamily, ...FontFamily[]]).optional(),
  weight: z.union([z.literal(300), z.literal(400), z.literal(600), z.literal(700)]).optional(),
  italic: z.boolean().optional(),
  sizePt: z.number().min(2).max(400).optional(),
  colour: Hex.optional(),
  letterSpacingPt: z.number().min(-5).max(50).optional(),
  /** Raised or lowered, and smaller. */
  script: z.enum(['super', 'sub']).optional(),
})
export type RunLook = z.infer<typeof RunLook>

/** A stretch of a text from one letter up to another (counted as JavaScript does, from 0), with its look. */
export const Span = z.object({
  from: z.number().int().nonnegative(),
  to: z.number().int().nonnegative(),
  look: RunLook,
})
export type Span = z.infer<typeof Span>

export const hyphenLanguages = {
  'en-gb': 'English, British',
  'en-us': 'English, American',
  de: 'German',
  fr: 'French',
  es: 'Spanish',
  it: 'Italian',
  nl: 'Dutch',
} as const
export type HyphenLanguage = keyof typeof hyphenLanguages

export const alignments = ['left', 'centre', 'right', 'justified'] as const
export type Alignment = (typeof alignments)[number]

/** How paragraphs are set in their space. Lengths in mm. */
export const SettingOfParagraphs = z.object({
  align: z.enum(alignments),
  /** How single paragraphs are set, from the first on; null and what is not said is as the text. */
  alignEach: z.array(z.enum(alignments).nullable()).max(2000).default([]),
  /** Distance of baselines as a multiple of the type size. */
  leading: z.number().min(0.7).max(3),
  paragraphGapMm: z.number().min(0).max(100).default(0),
  indentMm: z.number().min(0).max(100).default(0),
  columns: z.number().int().min(1).max(8).default(1),
  gutterMm: z.number().min(0).max(100).default(4),
  hyphenate: z
    .enum(Object.keys(hyphenLanguages) as [HyphenLanguage, ...HyphenLanguage[]])
    .nullable()
    .default(null),
  /** The first letter is as high as so many lines; 0 for none. */
  initialLines: z.number().int().min(0).max(8).default(0),
})
export type SettingOfParagraphs = z.infer<typeof SettingOfParagraphs>

/** What is drawn around and under letters. */
export const Effects = z.object({
  halo: z
    .object({ colour: Hex, widthPt: z.number().min(0.1).max(20) })
    .nullable()
    .default(null),
  /** A light around the letters that fades within `radiusMm`; `strength` is how opaque it is at the letters. */
  glow: z
    .object({ colour: Hex, radiusMm: z.number().min(0.1).max(60), strength: z.number().min(0).max(1) })
    .nullable()
    .default(null),
  shadow: z
    .object({
      colour: Hex,
      opacity: z.number().min(0).max(1),
      dx: z.number().min(-50).max(50),
      dy: z.number().min(-50).max(50),
      softMm: z.number().min(0).max(20),
    })
    .nullable()
    .default(null),
  /** A gradient in place of the colour of the letters. */
  fill: Fill.nullable().default(null),
})
export type Effects = z.infer<typeof Effects>

export const noEffects: Effects = { halo: null, glow: null, shadow: null, fill: null }

/** The ground on which a text stands. */
export const Ground = z.object({
  paddingMm: z.number().min(0).max(100),
  background: Hex.nullable(),
  opacity: z.number().min(0).max(1),
  border: z.object({ colour: Hex, widthPt: z.number().min(0).max(20) }),
  cornerMm: z.number().min(0).max(100),
})
export type Ground = z.infer<typeof Ground>

export const noGround: Ground = {
  paddingMm: 0,
  background: null,
  opacity: 1,
  border: { colour: '#1b1b1b', widthPt: 0 },
  cornerMm: 0,
}
