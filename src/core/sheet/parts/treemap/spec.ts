import { z } from 'zod'
import { ChoroplethSettings } from '@/core/kinds/choropleth/spec'
import { Hex } from '@/core/scene/hex'
import { treemapLayoutIds } from '@/core/treemap/layout'
import { partOrderIds } from '@/core/treemap/tree'
import { TypeStyle } from '../../type-style'

export const mostLevels = 4
export const mostColours = 60
/** More parts than this are not ordered by hand. */
export const mostNames = 1000
export const mostSubTotals = 24

/** Tiles shaded by classes of a field, as a choropleth is; a tile of several rows by what these come to. */
export const TileShade = ChoroplethSettings.omit({
  share: true,
  overYears: true,
  uncertainty: true,
  outline: true,
  mask: true,
  pencil: true,
  last: true,
})
export type TileShade = z.infer<typeof TileShade>

/** A bar as long as the whole, in sub-totals across groups, each in the order given. */
export const Strip = z.object({
  at: z.enum(['above', 'below']),
  heightMm: z.number().min(1).max(200),
  subTotals: z
    .array(
      z.object({
        name: z.string().max(200),
        of: z
          .array(
            z.object({
              path: z.array(z.string()).min(1).max(mostLevels),
              /** How much of the part is meant, 1 for all of it. */
              share: z.number().gt(0).max(1),
            }),
          )
          .max(mostNames),
      }),
    )
    .max(mostSubTotals),
  /** What is left over is called so. */
  rest: z.string().max(200),
})
export type Strip = z.infer<typeof Strip>

export const TreemapSettings = z.object({
  datasetId: z.string(),
  /** The field whose sums are areas. */
  value: z.string(),
  /** From the whole's parts down to the smallest. */
  levels: z
    .array(
      z.object({
        field: z.string(),
        order: z.enum(partOrderIds),
        /** The names of its parts in the order set by hand. */
        names: z.array(z.string()).max(mostNames).default([]),
        /** How wide the line round its parts is; it takes as much from either side. */
        lineMm: z.number().min(0).max(10),
        /** Whether its parts bear their names at the top, where they have parts themselves. */
        heading: z.boolean().default(true),
      }),
    )
    .min(1)
    .max(mostLevels),
  layout: z.enum(treemapLayoutIds),
  /** Whose parts the colours are, 0 for the first level; parts of one name have one colour. */
  colourLevel: z
    .number()
    .int()
    .min(0)
    .max(mostLevels - 1)
    .default(0),
  /** Those of the parts of that level, in their order. */
  colours: z.array(Hex).min(1).max(mostColours),
  /** Shades of classes in place of these colours; null has none. */
  shade: TileShade.nullable().default(null),
  strip: Strip.nullable().default(null),
  lineColour: Hex,
  /** Whether figures stand beneath names. */
  values: z.boolean(),
  title: z.string().max(300),
  heading: TypeStyle,
  label: TypeStyle,
})
export type TreemapSettings = z.infer<typeof TreemapSettings>
