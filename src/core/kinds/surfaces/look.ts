import { z } from 'zod'
import { classingShape, firstClassing } from '@/core/classify/spec'
import { Colouring, colouringShape } from '@/core/colour/colouring'
import { sortedKeys } from '@/core/registry/sorted-record'
import { Hex } from '@/core/scene/hex'
import { Pencil } from '../pencil'

export const surfaceForms = ['bands', 'lines', 'tint', 'shaded'] as const
export type SurfaceForm = (typeof surfaceForms)[number]

/** Ground on which lines have another colour: the areas of a dataset, or the cells of a raster with some value. */
export const LineGround = z.object({
  datasetId: z.string(),
  value: z.number().nullable(),
  colour: Hex,
  label: z.string().max(200),
})
export type LineGround = z.infer<typeof LineGround>

/** Lines of one value each. Widths are in points. */
export const LineLook = z.object({
  colour: Hex,
  widthPt: z.number().min(0).max(10),
  /** Every so many lines one is heavier, counted from zero; 0 makes all alike. */
  indexEvery: z.number().int().min(0).max(20),
  indexWidthPt: z.number().min(0).max(10),
  /** Numbers in gaps of the lines: on none, on the heavier ones, or on all. */
  numbered: z.enum(['none', 'index', 'all']),
  numberPt: z.number().min(3).max(40),
  /** Whether numbers have their head uphill; else they stand upright. */
  uphill: z.boolean(),
  /** Paper between two numbers of a line. */
  apartMm: z.number().min(5).max(500),
  /** Other colours on some ground, such as rock and ice; of several that hold a place the first counts. */
  on: z.array(LineGround).max(8).default([]),
})

/** The highest places of a surface, marked and named by labels. */
export const PeakLook = z.object({
  /** So many at most, those that stand out most. */
  most: z.number().int().min(1).max(50),
  /** How far a peak stands out from what is around it, as a share of the whole range of values. */
  atLeast: z.number().min(0).max(1),
  /** Whose nearest feature names a peak. */
  names: z.object({ datasetId: z.string(), field: z.string() }).nullable(),
  /** Across; 0 sets no mark. */
  markMm: z.number().min(0).max(10),
})
export type PeakLook = z.infer<typeof PeakLook>

/** How a surface of values is shown, whatever it was reckoned from. */
export const surfaceLookShape = {
  ...classingShape,
  ...colouringShape,
  ownColours: z.record(z.string(), Hex).overwrite(sortedKeys).default({}),
  /** Filled between lines, lines alone, a smooth tint, or lines lit from one side on filled steps. */
  form: z.enum(surfaceForms),
  /** Lines at whole numbers of this; null has them at the ends of the classes. */
  interval: z.number().positive().nullable(),
  /** Values under this are not shown; null leaves it to the kind: all, or what is more than next to nothing. */
  least: z.number().nullable(),
  lines: LineLook,
  /** Whether lines are drawn over filled classes and tints as well. */
  lined: z.boolean(),
  light: z.object({
    /** Where the light comes from: degrees clockwise from the top of the page. */
    fromDeg: z.number().min(0).max(360),
    widestPt: z.number().min(0.1).max(20),
    lit: Hex,
    shaded: Hex,
  }),
  /** How much finer than the cells the lines are drawn: 1, 2 or 4 times. */
  smooth: z.union([z.literal(1), z.literal(2), z.literal(4)]),
  /** Areas of another dataset within which the surface is shown; null shows all of it. */
  mask: z.object({ datasetId: z.string() }).nullable(),
  /** Where the surface rests on too little: lines over it, or faded; null says nothing. */
  uncertain: z.object({ limit: z.number().min(0), show: z.enum(['hatch', 'fade']) }).nullable(),
  peaks: PeakLook.nullable().default(null),
  /** Classes drawn with strokes as if by pencil; null fills them. */
  pencil: Pencil.nullable().default(null),
}
export const SurfaceLook = z.object(surfaceLookShape)
export type SurfaceLook = z.infer<typeof SurfaceLook>

/** The look of a surface before anybody changed it. */
export const plainSurfaceLook = (classes = 6): SurfaceLook =>
  SurfaceLook.parse({
    ...firstClassing(classes),
    ...Colouring.parse({ scheme: 'reed', reversed: false }),
    form: 'bands',
    interval: null,
    least: null,
    lines: {
      colour: '#4a5a60',
      widthPt: 0.3,
      indexEvery: 0,
      indexWidthPt: 0.7,
      numbered: 'none',
      numberPt: 6,
      uphill: false,
      apartMm: 60,
    },
    lined: false,
    light: { fromDeg: 315, widestPt: 1.6, lit: '#ffffff', shaded: '#2b3a40' },
    smooth: 2,
    mask: null,
    uncertain: null,
    peaks: null,
    pencil: null,
  })
