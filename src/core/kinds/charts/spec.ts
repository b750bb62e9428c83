import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { NumberFormat, plainFormat } from '@/core/classify/number-format'

export const chartForms = ['pie', 'ring', 'bars', 'stack'] as const
export type ChartForm = (typeof chartForms)[number]

/** A small chart of several fields at each place. Sizes are in millimetres, widths of lines in points. */
export const ChartSettings = z.object({
  form: z.enum(chartForms),
  /** What the parts are, in order. */
  parts: z
    .array(z.object({ field: z.string(), colour: Hex }))
    .min(1)
    .max(12),
  /**
   * For pies and rings: whether their area tells the total, or all are alike. Bars always are in proportion.
   */
  sized: z.boolean(),
  /** A total with the width of its pie; a value with the height of its bar. */
  anchor: z.object({ value: z.number().positive(), sizeMm: z.number().min(0.2).max(200) }),
  leastMm: z.number().min(0).max(50),
  /** Of a ring, the part of its width that is empty. */
  hole: z.number().min(0.1).max(0.9),
  barWidthMm: z.number().min(0.2).max(30),
  opacity: z.number().min(0).max(1),
  outline: z.object({ colour: Hex, widthPt: z.number().min(0).max(20) }),
  /** How the legend shows sizes, and for which values; none takes round ones. */
  legend: z
    .object({
      form: z.enum(['nested', 'concentric', 'beside', 'list']),
      values: z.array(z.number().positive()),
    })
    .default({ form: 'nested', values: [] }),
  numbers: NumberFormat.default(plainFormat),
})
export type ChartSettings = z.infer<typeof ChartSettings>

export const chartFormWords = {
  pie: 'pies',
  ring: 'rings',
  bars: 'bars side by side',
  stack: 'stacked bars',
} as const
