import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { TypeStyle } from '../../type-style'

export const chartForms = {
  bars: 'Bars',
  lines: 'Lines',
  histogram: 'Histogram of the classes',
  scatter: 'Scatter',
  shares: 'Share bars',
  pyramid: 'Population pyramid',
} as const
export type ChartForm = keyof typeof chartForms
export const chartFormIds = Object.keys(chartForms) as [ChartForm, ...ChartForm[]]

export const ChartSettings = z.object({
  form: z.enum(chartFormIds),
  datasetId: z.string(),
  /** The field that names the rows. */
  nameField: z.string(),
  /**
   * The figures: one for bars; x and y for scatter; several for share bars; those of the years, in order, for lines;
   * left and right for the pyramid.
   */
  fields: z.array(z.string()).max(60),
  sortBy: z.string().nullable(),
  descending: z.boolean(),
  rows: z.number().int().min(1).max(2000),
  colours: z.array(Hex).min(1).max(60),
  /** The layer whose classes are shown, and whose colours the rows take over; null for none. */
  source: z.object({ panelId: z.string().nullable(), layerId: z.string() }).nullable(),
  /** Whether figures stand beside bars. */
  values: z.boolean(),
  gridlines: z.boolean(),
  title: z.string().max(300),
  heading: TypeStyle,
  label: TypeStyle,
})
export type ChartSettings = z.infer<typeof ChartSettings>
