import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { classingShape } from '@/core/classify/spec'
import { Colouring } from '@/core/colour/colouring'
import { SymbolPicture } from '../marks/pictures'
import { firstPicture, shapes } from '../marks/shapes'
import { sortedKeys } from '@/core/registry/sorted-record'

/**
 * What of a symbol grows with the value: its area, its height, or its height so that its area looks right.
 */
export const sizings = ['area', 'height', 'perceptual'] as const

/** A second thing that the colour of a symbol tells. */
const ColourBy = z.discriminatedUnion('by', [
  z.object({ by: z.literal('nothing') }),
  z.object({
    by: z.literal('value'),
    field: z.string(),
    per: z.string().nullable(),
    perCount: z.number().positive(),
    ...classingShape,
    colouring: Colouring,
  }),
  z.object({
    by: z.literal('category'),
    field: z.string(),
    colours: z.record(z.string(), Hex).overwrite(sortedKeys),
  }),
])
export type ColourBy = z.infer<typeof ColourBy>

/** Sizes are in millimetres on paper, widths of lines in points. */
export const SymbolSettings = z.object({
  field: z.string(),
  per: z.string().nullable(),
  perCount: z.number().positive(),
  ...classingShape,
  shape: z.enum(shapes),
  /** What symbols look like where their shape is a picture. */
  picture: SymbolPicture.default(firstPicture),
  /** Pushed apart until they no longer touch, with a line to each place; null leaves them on their places. */
  displace: z
    .object({
      gapMm: z.number().min(0).max(10),
      leader: z.object({ colour: Hex, widthPt: z.number().min(0).max(5) }),
    })
    .nullable()
    .default(null),
  scaling: z.enum(sizings),
  /** The power of the value that heights follow where areas are to look right. */
  exponent: z.number().min(0.3).max(1),
  /**
   * A value with its size; or the sizes of the least and the largest value, which keeps order but no ratios.
   */
  anchor: z.discriminatedUnion('by', [
    z.object({ by: z.literal('value'), value: z.number().positive(), sizeMm: z.number().min(0.1).max(200) }),
    z.object({
      by: z.literal('ends'),
      smallestMm: z.number().min(0.1).max(200),
      largestMm: z.number().min(0.1).max(200),
    }),
  ]),
  /** Values over zero are never drawn smaller. */
  leastMm: z.number().min(0).max(50),
  /** One size for each class, the classes on the bench; sizes run evenly between those of the ends. */
  graded: z.boolean(),
  barWidthMm: z.number().min(0.1).max(50),
  fill: Hex,
  opacity: z.number().min(0).max(1),
  outline: z.object({ colour: Hex, widthPt: z.number().min(0).max(20) }),
  /** Values under zero. */
  negative: z.object({ fill: Hex, hollow: z.boolean() }),
  colour: ColourBy,
  /** What stands in for a colour where the second thing is not known. */
  missing: z.object({ colour: Hex, label: z.string() }),
  legend: z.object({
    form: z.enum(['nested', 'concentric', 'beside', 'list']),
    /** Values that the legend shows; empty takes round ones. */
    values: z.array(z.number().positive()),
  }),
})
export type SymbolSettings = z.infer<typeof SymbolSettings>
