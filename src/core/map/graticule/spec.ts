import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { fontFamilyIds, type FontFamily } from '@/core/scene/fonts'

export const intervals = [30, 20, 15, 10, 5, 2, 1, 0.5, 0.25, 0.1] as const

/** Lines of longitude and latitude. Widths and sizes of type are in points. */
export const Graticule = z.object({
  /** Degrees between two lines; null takes an interval that gives about six lines across the window. */
  everyDeg: z.number().min(0.01).max(90).nullable(),
  colour: Hex,
  widthPt: z.number().min(0.05).max(10),
  dashed: z.boolean(),
  /** Over the layers instead of beneath them. */
  over: z.boolean(),
  /** Degrees written where lines meet the edge; null writes none. */
  labels: z
    .object({
      family: z.enum(fontFamilyIds as [FontFamily, ...FontFamily[]]),
      sizePt: z.number().min(3).max(30),
      colour: Hex,
    })
    .nullable(),
})
export type Graticule = z.infer<typeof Graticule>

export const plainGraticule = (): Graticule => ({
  everyDeg: null,
  colour: '#8fa3ad',
  widthPt: 0.3,
  dashed: false,
  over: false,
  labels: { family: 'source-sans-3', sizePt: 6, colour: '#5d7079' },
})
