import { z } from 'zod'
import { variogramModels } from '@/core/grid/interpolate/kriging'
import { surfaceLookShape } from '../surfaces/look'

export const interpolations = [
  'inverse-distance',
  'natural-neighbours',
  'thin-plate',
  'kriging',
  'pycnophylactic',
] as const
export type Interpolation = (typeof interpolations)[number]

export const VariogramSpec = z.object({
  nugget: z.number().min(0),
  sill: z.number().min(0),
  /** Kilometres. */
  rangeKm: z.number().positive(),
})

/** A surface through values at points, or over areas whose totals it keeps. */
export const InterpolatedSettings = z.object({
  field: z.string(),
  way: z.enum(interpolations),
  /** Of inverse distance. */
  power: z.number().min(0.1).max(10),
  /** How many samples each place is reckoned from, for inverse distance and kriging. */
  nearest: z.number().int().min(3).max(64),
  /** Of the spline: 0 goes through all samples. */
  smoothing: z.number().min(0).max(1),
  model: z.enum(variogramModels),
  /** A variogram set by hand; null takes the one that fits best. */
  variogram: VariogramSpec.nullable(),
  /** Whether the standard error of kriging is shown in place of the values. */
  showError: z.boolean(),
  cellKm: z.number().positive().max(5000).nullable(),
  ...surfaceLookShape,
})
export type InterpolatedSettings = z.infer<typeof InterpolatedSettings>
