import { blurredCells } from '@/core/grid/blur'
import { gradientsOf, type Gradients } from '@/core/grid/relief/gradient'
import { shader, type Light } from '@/core/grid/relief/shade'
import { drain } from '@/core/grid/steps'
import type { Node } from '@/core/scene/scene'
import type { DrawContext } from '../kind'
import { gridOnPaper, paintedNode } from '../paint-cells'
import type { ReliefPlan } from './plan'
import { sampleHeights, type Sample } from './sample'
import type { ReliefSettings, Shading } from './spec'
import { inkOf, mistAt, tinter, type Ink } from './tints'

/** Four lights stand so far from each other, degrees; the one that was set is the strongest. */
const apart = 45

/** The lights of a shading: one, or four about it (after Mark 1992, from 90° to its left to 45° to its right). */
export const lightsOf = ({ lights, azimuthDeg }: Pick<Shading, 'lights' | 'azimuthDeg'>): Light[] =>
  lights === 'one'
    ? [{ azimuthDeg, weight: 1 }]
    : [-2, -1, 0, 1].map((k) => ({ azimuthDeg: azimuthDeg + k * apart, weight: k === 0 ? 1.5 : 1 }))

/** Beyond this margin, in cells, smoothing goes by what there is. */
const mostMargin = 400

/** A relief in the map's projection: heights are sampled for the paper, then shaded, tinted and put in mist. */
export function drawRelief(plan: ReliefPlan, settings: ReliefSettings, context: DrawContext): Node[] {
  const { raster } = context.dataset
  const grid = raster && plan ? gridOnPaper(raster.edge, context) : null
  if (!raster || !plan || !grid) return []
  const { shading } = settings
  const middle = sampleHeights({ raster, band: settings.band }, { ...grid, columns: 1, rows: 1 }, 1, context)
  const sigma = shading?.broad ? (shading.reachKm * 1000) / (middle.cellM || 1) : 0
  const margin = Math.min(mostMargin, Math.ceil(3 * sigma) + 2)
  const sample = sampleHeights({ raster, band: settings.band }, grid, margin, context)
  const tone = shading && tones(shading, sample, { sigma, boost: plan.boost })
  return [paintedNode(grid, painted(settings, sample, { ...grid, tone }))]
}

/** How light each cell is beside level ground, −1 to 1. */
function tones(
  shading: Shading,
  { heights, steps }: Sample,
  { sigma, boost }: { sigma: number; boost: number },
): Float32Array {
  const { broad } = shading
  const fine = gradientsOf(heights, steps)
  const ranges: Gradients | null = broad
    ? gradientsOf({ ...heights, values: drain(blurredCells(heights, sigma)) }, steps)
    : null
  const tone = shader({ ...shading, lights: lightsOf(shading) })
  return fine.right.map((right, i) => {
    const up = fine.up[i]
    if (!ranges) return tone(right, up)
    const mixed = (a: number, b: number): number => (1 - broad) * a + broad * boost * b
    return tone(mixed(right, ranges.right[i]), mixed(up, ranges.up[i]))
  })
}

/** Colours with their opacity, cell by cell: the tint, light and shade on it, and mist over all. */
function painted(
  settings: ReliefSettings,
  { heights, margin }: Sample,
  { columns, rows, tone }: { columns: number; rows: number; tone: Float32Array | null },
): Uint8ClampedArray {
  const { shading, mist } = settings
  const rgba = new Uint8ClampedArray(4 * columns * rows)
  const tint = tinter(settings.tints)
  const dark = shading && inkOf(shading.dark.colour, shading.dark.strength)
  const light = shading && inkOf(shading.light.colour, shading.light.strength)
  const fog = mist && inkOf(mist.colour, mist.opacity)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const from = (r + margin) * heights.columns + c + margin
      const height = heights.values[from]
      if (Number.isNaN(height)) continue
      let ink: Ink = tint ? tint(height) : [0, 0, 0, 0]
      const by = tone ? tone[from] : 0
      const shade = by < 0 ? dark : light
      if (shade && by) ink = over(ink, [shade[0], shade[1], shade[2], Math.abs(by) * shade[3]])
      if (mist && fog) ink = over(ink, [fog[0], fog[1], fog[2], mistAt(mist, height)])
      const to = 4 * (r * columns + c)
      rgba[to] = ink[0]
      rgba[to + 1] = ink[1]
      rgba[to + 2] = ink[2]
      rgba[to + 3] = 255 * ink[3]
    }
  return rgba
}

/** One ink over another, each with its opacity (Porter and Duff 1984). */
export function over(below: Ink, above: Ink): Ink {
  const opacity = above[3] + below[3] * (1 - above[3])
  if (!(opacity > 0)) return [0, 0, 0, 0]
  const part = (k: 0 | 1 | 2): number =>
    (above[k] * above[3] + below[k] * below[3] * (1 - above[3])) / opacity
  return [part(0), part(1), part(2), opacity]
}
