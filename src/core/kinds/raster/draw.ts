import type { Raster } from '@/core/data/raster'
import type { Node } from '@/core/scene/scene'
import { gridOnPaper } from '../cells-on-paper/grid'
import { opaque, paintSamples, type Colour } from '../cells-on-paper/paint-samples'
import { sampler } from '../cells-on-paper/sample'
import type { DrawContext } from '../kind'
import { colourOfValue, type RasterPlan } from './plan'
import type { RasterSettings } from './spec'

/** A thousand shades are enough for a ramp. */
const shades = 1024
/**
 * The raster brought into the map's projection: for each cell on paper the value at its place on the ground.
 */
export function drawRaster(plan: RasterPlan, settings: RasterSettings, context: DrawContext): Node[] {
  const { raster } = context.dataset
  const grid = raster && plan ? gridOnPaper(raster.edge, context) : null
  if (!raster || !plan || !grid) return []
  const samplers = bandsShown(settings, raster).map((band) =>
    sampler({ raster, band, grid, context, between: settings.cells === 'flat' ? 'nearest' : 'lines' }),
  )
  const colour = samplers.length === 3 ? ownColours(settings) : alongRamp(settings, plan)
  const empty = settings.empty && opaque(settings.empty)
  return [
    paintSamples(grid, samplers, (values, rgba, at) => {
      const isThere = values[0] === values[0] && values[values.length - 1] === values[values.length - 1]
      if (isThere) colour(values, rgba, at)
      else if (empty) rgba.set(empty, at)
    }),
  ]
}

/** The bands that are looked at: three for a picture in colours, where there are as many. */
export const bandsShown = ({ look, band, colours }: RasterSettings, { bands }: Raster): number[] =>
  look === 'colours' && colours.every((one) => one < bands) && bands >= 2 ? [...colours] : [band]

/** The luminance of a colour in television's weights, which is what is left of it without saturation (ITU-R BT.709). */
const greyOf = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b

function ownColours({ low, high, reversed, saturation }: RasterSettings): Colour {
  const [from, to] = [low ?? 0, high ?? 255]
  const scale = to > from ? 255 / (to - from) : 1
  const one = (value: number): number => {
    const shade = Math.min(255, Math.max(0, (value - from) * scale))
    return reversed ? 255 - shade : shade
  }
  return (values, rgba, at) => {
    const [r, g, b] = [one(values[0]), one(values[1]), one(values[2])]
    const grey = greyOf(r, g, b)
    rgba[at] = grey + (r - grey) * saturation
    rgba[at + 1] = grey + (g - grey) * saturation
    rgba[at + 2] = grey + (b - grey) * saturation
    rgba[at + 3] = 255
  }
}

/** How opaque a value is whose place between the lowest and the highest is a share. */
export const opacityAt = (opacity: RasterSettings['opacity'], share: number): number =>
  opacity ? opacity.low + (opacity.high - opacity.low) * share ** (8 ** -opacity.bend) : 1

function alongRamp({ saturation, opacity }: RasterSettings, plan: NonNullable<RasterPlan>): Colour {
  const span = plan.high - plan.low
  const table = new Uint8ClampedArray(4 * shades)
  for (let i = 0; i < shades; i++) {
    const [r, g, b] = colourOfValue(plan, plan.low + (span * i) / (shades - 1))
    const grey = greyOf(r, g, b)
    const clear = 255 * opacityAt(opacity, i / (shades - 1))
    table.set([...[r, g, b].map((part) => grey + (part - grey) * saturation), clear], 4 * i)
  }
  return (values, rgba, at) => {
    const share = span > 0 ? (values[0] - plan.low) / span : 0
    const from = 4 * Math.round((shades - 1) * Math.min(1, Math.max(0, share)))
    for (let k = 0; k < 4; k++) rgba[at + k] = table[from + k]
  }
}
