import { z } from 'zod'
import { LonLat } from '@/core/scene/bounded'
import { Hex } from '@/core/scene/hex'
import { sortedKeys } from '@/core/registry/sorted-record'
import { fontFamilyIds, type FontFamily } from '@/core/scene/fonts'

const family = z.enum(fontFamilyIds as [FontFamily, ...FontFamily[]])

export const capitalForms = ['as written', 'capitals', 'small capitals'] as const
export const beside = ['right', 'above', 'left', 'below'] as const
export const areaForms = ['as fits', 'straight', 'curved'] as const

/** What a label says: the value of a field, or what a formula gives. */
export const LabelText = z.discriminatedUnion('by', [
  z.object({ by: z.literal('field'), field: z.string() }),
  z.object({ by: z.literal('formula'), formula: z.string() }),
])

/** The labels of a layer. Sizes of type are in points, lengths on paper in millimetres. */
export const LabelSettings = z.object({
  text: LabelText,
  family,
  weight: z.union([z.literal(300), z.literal(400), z.literal(600), z.literal(700)]).default(400),
  italic: z.boolean().default(false),
  sizePt: z.number().min(2).max(144).default(7),
  /** Other sizes from some values of a field on, such as larger names for larger towns. */
  sizeBy: z
    .object({
      field: z.string(),
      steps: z.array(z.object({ atLeast: z.number(), sizePt: z.number().min(2).max(144) })).max(8),
    })
    .nullable()
    .default(null),
  colour: Hex.default('#1b1b1b'),
  halo: z
    .object({ colour: Hex, widthPt: z.number().min(0).max(10) })
    .default({ colour: '#ffffff', widthPt: 1 }),
  capitals: z.enum(capitalForms).default('as written'),
  /** Room between letters, as a share of the size of the type. */
  spacing: z.number().min(-0.1).max(2).default(0),
  /** Lines are broken at blanks to be no wider; null breaks only where the text does. */
  breakAtMm: z.number().min(2).max(400).nullable().default(null),
  leading: z.number().min(0.7).max(3).default(1.1),
  /**
   * What is set first: labels of a higher importance, then those of layers further up, then larger values of
   * a field.
   */
  importance: z.number().int().min(1).max(5).default(3),
  rankField: z.string().nullable().default(null),
  /** Only features with at least this value of the field are labelled. */
  atLeast: z.number().nullable().default(null),
  /**
   * Beside a point: which side is tried first, how far from its symbol; or on the symbol where there is room.
   */
  point: z
    .object({
      first: z.enum(beside),
      gapMm: z.number().min(0).max(50),
      within: z.boolean(),
      /** Farther off with a line to it, where there is no place beside it. */
      far: z.boolean().default(false),
    })
    .default({ first: 'right', gapMm: 0.6, within: false, far: false }),
  /**
   * In an area: straight, curved along its length, or as fits; beyond its borders, or outside with a line to
   * it, where there is no room.
   */
  area: z
    .object({ form: z.enum(areaForms), beyond: z.boolean(), outside: z.boolean() })
    .default({ form: 'as fits', beyond: false, outside: true }),
  /** Along a line: above it or on it, again and again at a distance; curved where the line is. */
  line: z
    .object({
      side: z.enum(['above', 'on']),
      curved: z.boolean(),
      repeatMm: z.number().min(10).max(1000).nullable(),
    })
    .default({ side: 'above', curved: true, repeatMm: null }),
  /** Labels moved by hand: longitude and latitude of the middle of each, by the key of its feature. */
  moved: z.record(z.string(), LonLat).overwrite(sortedKeys).default({}),
  /** Keys of features whose labels were taken away by hand. */
  without: z.array(z.string()).default([]),
})
export type LabelSettings = z.infer<typeof LabelSettings>

/** Labels as they are proposed before anybody changed them. */
export const plainLabels = (
  field: string,
  shape: 'areas' | 'lines' | 'points',
  more: Partial<LabelSettings> = {},
): LabelSettings =>
  LabelSettings.parse({
    text: { by: 'field', field },
    family: 'source-sans-3',
    ...(shape === 'lines' ? { italic: true, colour: '#3f6a7d' } : {}),
    ...more,
  })
