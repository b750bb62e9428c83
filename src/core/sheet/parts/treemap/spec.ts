import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { treemapLayoutIds } from '@/core/treemap/layout'
import { partOrderIds } from '@/core/treemap/tree'
import { TypeStyle } from '../../type-style'

export const mostLevels = 4
export const mostColours = 60
/** More parts than this are not ordered by hand. */
export const mostNames = 1000

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
      }),
    )
    .min(1)
    .max(mostLevels),
  layout: z.enum(treemapLayoutIds),
  /** Those of the parts of the first level, in their order. */
  colours: z.array(Hex).min(1).max(mostColours),
  lineColour: Hex,
  /** Whether figures stand beneath names. */
  values: z.boolean(),
  title: z.string().max(300),
  heading: TypeStyle,
  label: TypeStyle,
})
export type TreemapSettings = z.infer<typeof TreemapSettings>
