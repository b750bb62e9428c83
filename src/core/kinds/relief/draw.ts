import { featureCount } from '@/core/geo/geometry'
import { generalise } from '@/core/geo/generalise'
import { featureOutline } from '@/core/geo/outlines'
import { projectGeometry } from '@/core/geo/projected'
import { solid } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import { gridOnPaper, paintedNode } from '../cells-on-paper/grid'
import type { DrawContext } from '../kind'
import { reliefPainter } from './painter'
import type { ReliefPlan } from './plan'
import type { ReliefSettings } from './spec'

/** A relief in the map's projection, and the lakes of another dataset over it. */
export function drawRelief(plan: ReliefPlan, settings: ReliefSettings, context: DrawContext): Node[] {
  const { raster } = context.dataset
  const grid = raster && plan ? gridOnPaper(raster.edge, context) : null
  if (!raster || !plan || !grid) return []
  return [
    paintedNode(grid, reliefPainter(plan, settings, { raster, grid, context })),
    ...lakes(settings, context),
  ]
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
