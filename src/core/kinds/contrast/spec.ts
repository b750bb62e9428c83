import { z } from 'zod'
import { classingShape } from '@/core/classify/spec'
import { colouringShape } from '@/core/colour/colouring'
import { sortedKeys } from '@/core/registry/sorted-record'
import { Hex } from '@/core/scene/hex'

export const contrasts = ['difference', 'ratio', 'relative'] as const
export type Contrast = (typeof contrasts)[number]

/** How different neighbours are, as lines along their border. Widths are in points. */
export const ContrastSettings = z.object({
  field: z.string(),
  per: z.string().nullable(),
  perCount: z.number().positive(),
  /** The difference, the higher over the lower one, or the difference in percent of the mean of both. */
  contrast: z.enum(contrasts),
  /** In proportion to the contrast, or one width for each class. */
  width: z.enum(['proportional', 'classes']),
  widestPt: z.number().min(0.1).max(40),
  /** Borders with less contrast have no line; null draws all. */
  least: z.number().min(0).nullable(),
  /** Lines lie on the side of the neighbour with the higher value. */
  oneSided: z.boolean(),
  colour: Hex,
  /** Colours of the classes in place of one. */
  coloured: z.boolean(),
  ...classingShape,
  ...colouringShape,
  ownColours: z.record(z.string(), Hex).overwrite(sortedKeys).default({}),
})
export type ContrastSettings = z.infer<typeof ContrastSettings>
