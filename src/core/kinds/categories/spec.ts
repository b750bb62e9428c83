import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { sortedKeys } from '@/core/registry/sorted-record'
import { areaLookShape } from '../area-drawing'
import { plainShapes } from '../marks/shapes'

/** What one category looks like where it was changed by hand. */
const Own = z.object({
  colour: Hex.nullable(),
  /** Degrees of its lines; null is flat. */
  hatchDeg: z.number().min(-360).max(360).nullable(),
  /** What its lines are. */
  pattern: z.enum(['lines', 'crossed', 'dots']).default('lines'),
  /** The category that it is shown with. */
  with: z.string().nullable(),
  label: z.string().nullable(),
  /** The shape of its points; null takes that of all, or the next one where shapes differ. */
  shape: z.enum(plainShapes).nullable().default(null),
})
export type Own = z.infer<typeof Own>

/** Kinds of areas, lines or points. Widths of lines are in points, sizes in millimetres. */
export const CategorySettings = z.object({
  field: z.string(),
  /** An unordered set of colours, by id. */
  set: z.string(),
  /** Colours in the order of the categories, or so that those that touch differ. */
  assign: z.enum(['order', 'neighbours']),
  order: z.enum(['count', 'alphabet']),
  /** Categories with fewer features than this are shown as one; 0 shows all. */
  fewest: z.number().int().min(0),
  other: z.object({ colour: Hex, label: z.string().min(1) }),
  own: z.record(z.string(), Own).overwrite(sortedKeys),
  lineWidthPt: z.number().min(0.05).max(40),
  dot: z.object({
    shape: z.enum(plainShapes),
    sizeMm: z.number().min(0.2).max(50),
    /** Whether every category has a shape of its own besides its colour. */
    varied: z.boolean().default(false),
  }),
  ...areaLookShape,
})
export type CategorySettings = z.infer<typeof CategorySettings>
