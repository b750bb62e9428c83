import { gridPlace, rasterAt } from '@/core/data/raster'
import { fromDegrees } from '@/core/projection/reference'
import type { Node } from '@/core/scene/scene'
import type { DrawContext } from '../kind'
import { paintCells } from '../paint-cells'
import { colourOfValue, type RasterPlan } from './plan'
import type { RasterSettings } from './spec'

/**
 * The raster brought into the map's projection: for each cell on paper the value at its place on the ground.
 */
export function drawRaster(plan: RasterPlan, settings: RasterSettings, context: DrawContext): Node[] {
  const { raster } = context.dataset
  if (!raster || !plan) return []
  const three = settings.look === 'colours' && raster.bands >= 3
  // A thousand shades are enough for a ramp.
  const shades = Array.from({ length: 1024 }, (_, i) =>
    colourOfValue(plan, plan.low + ((plan.high - plan.low) * i) / 1023),
  )
  const span = plan.high - plan.low
  const toSystem = fromDegrees(raster.crs)
  return paintCells(
    {
      edge: raster.edge,
      place: (lon, lat) => gridPlace(raster, ...toSystem(lon, lat)),
      shade(i, j) {
        const value = rasterAt(raster, three ? 0 : settings.band, i, j)
        if (Number.isNaN(value)) return null
        if (three) return [value, rasterAt(raster, 1, i, j), rasterAt(raster, 2, i, j)]
        const share = span > 0 ? (value - plan.low) / span : 0
        return shades[Math.round(1023 * Math.min(1, Math.max(0, share)))]
      },
    },
    context,
  )
}
