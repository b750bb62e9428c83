import { featureCount } from '@/core/geo/geometry'
import { generalise } from '@/core/geo/generalise'
import { featureOutline } from '@/core/geo/outlines'
import { projectGeometry } from '@/core/geo/projected'
import { solid } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import { gridOnPaper, paintedNode } from '../cells-on-paper/grid'
import type { Raster } from '@/core/data/raster'
import { finestMetres, middleOfRaster } from '@/core/data/raster-ground'
import { groundPerProjected } from '@/core/projection/ground'
import type { DrawContext } from '../kind'
import { heightsInView } from './in-view'
import { reliefPainter } from './painter'
import type { ReliefPlan } from './plan'
import type { ReliefSettings } from './spec'
import { stretched } from './tints'

/** A relief in the map's projection, and the lakes of another dataset over it. */
export function drawRelief(plan: ReliefPlan, settings: ReliefSettings, context: DrawContext): Node[] {
  const { raster } = context.dataset
  const grid = raster && plan ? gridOnPaper(raster.edge, context, leastCell(settings, raster, context)) : null
  if (!raster || !plan || !grid) return []
  const shown = { ...settings, tints: tintsInView(settings, raster, context) }
  return [
    paintedNode(grid, reliefPainter(plan, shown, { raster, grid, context })),
    ...lakes(settings, context),
  ]
}

/** So many cells on paper to one of the raster show all that its curves have. */
const cellsToCurve = 4

/** Cells on paper that are small enough for a raster, mm; 0, as small as can be, where colours have hard edges. */
function leastCell(
  { tints, water }: ReliefSettings,
  raster: Raster,
  { projection, to }: Pick<DrawContext, 'projection' | 'to'>,
): number {
  if (tints?.stepped || (water && water.upTo !== null)) return 0
  const ground = groundPerProjected(projection, middleOfRaster(raster)) || 1
  return ((finestMetres(raster) / ground) * to.mmPerMetre) / cellsToCurve
}

/** The tints with the heights that they have in a window. */
function tintsInView(
  { tints, band }: ReliefSettings,
  raster: Raster,
  context: DrawContext,
): ReliefSettings['tints'] {
  const range = tints?.inView ? heightsInView(raster, band, context) : null
  return tints && range ? { ...tints, stops: stretched(tints.stops, range.low, range.high) } : tints
}

function lakes(
  { water }: ReliefSettings,
  { projection, to, window, toleranceMm, datasetOf }: DrawContext,
): Node[] {
  const of = water?.datasetId ? datasetOf(water.datasetId) : null
  if (!water || of?.geometry.kind !== 'areas') return []
  const projected = generalise(projectGeometry(of.geometry, projection), toleranceMm / to.mmPerMetre)
  if (projected.kind !== 'areas') return []
  const all = Array.from({ length: featureCount(projected) }, (_, f) => f)
  return [path(featureOutline(projected, all, to, window).outline, { fill: solid(water.colour) })]
}
