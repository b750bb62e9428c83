import {
  empiricalVariogram,
  fittedVariogram,
  type Variogram,
  type VariogramBin,
} from '@/core/grid/interpolate/kriging'
import type { KindData } from '../kind'
import { interpolations, type Interpolation, type InterpolatedSettings } from './spec'
import { missOf, samplesOf, variogramOf } from './source'

/** How unlike samples are by their distance, the model that fits best and the one that is used. */
export type VariogramView = { bins: VariogramBin[]; fitted: Variogram; used: Variogram }

export function variogramView(settings: InterpolatedSettings, data: KindData): VariogramView | null {
  const found = samplesOf(settings, data)
  if (!found || found.samples.values.length < 3) return null
  const bins = empiricalVariogram(found.samples)
  if (!bins.length) return null
  return { bins, fitted: fittedVariogram(bins, settings.model), used: variogramOf(settings, bins) }
}

/** How far each method misses what it does not know, the best first; NaN where it cannot be used. */
export function missesOf(
  settings: InterpolatedSettings,
  data: KindData,
): { way: Interpolation; miss: number }[] {
  const found = samplesOf(settings, data)
  if (!found) return []
  return interpolations
    .filter((way) => way !== 'pycnophylactic')
    .map((way) => ({ way, miss: missOf(way, found.samples, settings) }))
    .sort((a, b) => (Number.isNaN(a.miss) ? 1 : 0) - (Number.isNaN(b.miss) ? 1 : 0) || a.miss - b.miss)
}
