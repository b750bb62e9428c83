import type { Geometry as Shape } from 'geojson'
import type { Dataset } from '@/core/data/dataset'
import type { Geometry } from '@/core/geo/geometry'
import { geometryFromShapes } from '@/core/geo/shapes'
import { bandsOf, isolinesOf } from '@/core/grid/bands'
import { combined, refined, type Grid } from '@/core/grid/grid'
import type { Steps } from '@/core/grid/steps'
import type { KindData } from '../kind'
import type { SurfaceLook } from './look'
import { peakDataset } from './peaks'
import { isShown, type SurfacePlan } from './plan'
import { surfaceOf, type SurfaceSource } from './surface'

/**
 * What is drawn of a surface: areas, one for each class (or step between lines), lines, one for each level, where it
 * is doubtful, and the values themselves for tints.
 */
export type SurfaceShapes = {
  bands: Geometry | null
  lines: Geometry | null
  doubtful: Geometry | null
  tint: Grid | null
  /** The highest places as points, with what labels can say of them. */
  peaks: Dataset | null
}

/** What of the look decides the shapes. */
export const lookKey = (s: SurfaceLook): string =>
  JSON.stringify([
    s.form,
    s.lined,
    s.interval,
    s.least,
    s.smooth,
    s.method,
    s.classes,
    s.method === 'manual' ? s.manualBreaks : null,
    s.rounded,
    s.deviations,
    s.step,
    s.midpoint,
    s.locked,
    s.inclusive,
    s.setAside,
    s.uncertain?.limit ?? null,
    s.share,
    s.peaks && [s.peaks.most, s.peaks.atLeast, s.peaks.names, s.numbers],
  ])

/** Grids of so many cells are fine enough as they are. */
const fineEnough = 1_500_000

export function* makeSurfaceShapes<S extends SurfaceLook>(
  source: SurfaceSource<S>,
  plan: SurfacePlan,
  settings: S,
  data: KindData,
): Steps<SurfaceShapes> {
  const surface = surfaceOf(source, settings, data)
  const none: SurfaceShapes = { bands: null, lines: null, doubtful: null, tint: null, peaks: null }
  if (!surface || !plan.classification) return none
  const { grid, doubt } = surface
  const times = grid.values.length * settings.smooth ** 2 <= fineEnough ? settings.smooth : 1
  const fine = refined(grid, times)
  yield 0.3
  const asShapes = (made: (Shape | null)[]): Geometry | null =>
    made.some((shape) => shape) ? geometryFromShapes(made) : null
  const filled = settings.form === 'bands' || settings.form === 'shaded'
  const bands = filled ? asShapes(bandsOf(fine, bandLevels(plan, settings))) : null
  yield 0.6
  const lined = settings.lined || settings.form === 'lines' || settings.form === 'shaded'
  const lines = lined ? asShapes(isolinesOf(fine, plan.levels)) : null
  yield 0.9
  const { uncertain } = settings
  const few = source.doubt?.few ?? false
  const doubtful =
    uncertain && doubt
      ? asShapes(
          bandsOf(doubtWhere(grid, doubt, { plan, few }), [few ? 0.5 - uncertain.limit : uncertain.limit]),
        )
      : null
  const unit = source.unit(settings, data)
  const peaks = peakDataset(settings, surface, { ...plan, unit }, data)
  return { bands, lines, doubtful, tint: settings.form === 'tint' ? grid : null, peaks }
}

/** Doubt where something is shown at all, the more the higher. */
const doubtWhere = (
  grid: Grid,
  doubt: Grid,
  { plan: { least }, few }: { plan: SurfacePlan; few: boolean },
): Grid =>
  combined([grid, doubt], (value, own) => {
    if (!isShown(value, least)) return NaN
    return few ? -own : own
  })

/** The lower ends of the filled steps: the classes, or with lit lines the steps between these. */
export function bandLevels({ classification, levels, min }: SurfacePlan, { form }: SurfaceLook): number[] {
  const lowest = lowered(min)
  if (form === 'shaded') return [lowest, ...levels.filter((level) => level > lowest)]
  const breaks = classification?.breaks ?? []
  return [lowest, ...breaks.slice(1, -1)]
}

/** A hair under the lowest value, so that all ground of that value is within the first step. */
const lowered = (value: number): number => value - Math.max(1e-12, Math.abs(value) * 1e-9)
