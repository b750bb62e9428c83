import { classIndex } from '@/core/classify/classify'
import type { Node } from '@/core/scene/scene'
import { shareOn } from '../choropleth/plan'
import { gridOnPaper } from '../cells-on-paper/grid'
import { opaque, paintSamples } from '../cells-on-paper/paint-samples'
import { sampler } from '../cells-on-paper/sample'
import type { DrawContext } from '../kind'
import type { CellClassPlan } from './plan'
import type { CellClassSettings } from './spec'

/** Values outside breaks set by hand are shown in a colour that cannot be overlooked. */
const outside = [194, 24, 91, 255]

/** Each cell on paper in the colour of the class, or the shade, of its place on the ground. */
export function drawCellClasses(
  plan: CellClassPlan,
  settings: CellClassSettings,
  context: DrawContext,
): Node[] {
  const { raster } = context.dataset
  const grid = raster && plan ? gridOnPaper(raster.edge, context) : null
  if (!raster || !plan || !grid) return []
  const colours = plan.colours.map(opaque)
  const missing = settings.missing && opaque(settings.missing.colour)
  const { breaks, inclusive } = plan.classification
  const share = plan.scale && shareOn(plan.scale)
  const index = share
    ? (value: number) => Math.min(colours.length - 1, Math.floor(share(value) * colours.length))
    : (value: number) => classIndex(breaks, value, inclusive)
  const between = settings.cells === 'flat' ? 'nearest' : 'lines'
  return [
    paintSamples(
      grid,
      [sampler({ raster, band: settings.band, grid, context, between })],
      ([value], rgba, at) => {
        const colour = value === value ? (colours[index(value)] ?? outside) : missing
        if (colour) rgba.set(colour, at)
      },
    ),
  ]
}
