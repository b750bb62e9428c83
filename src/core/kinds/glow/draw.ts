import type { GlowPlan } from './plan'
import { cellsAtHand, type Node, type Raster } from '@/core/scene/scene'
import { paperPlaces } from '../marks/places'
import { coloursOf, lightOf } from './light'
import { GlowSettings } from './spec'
import type { DrawContext } from '../kind'

/** A cell is never finer than print shows, and the picture never larger than this. */
const finestMm = 0.12
const mostCells = 6_000_000

export function drawGlow(
  { weights }: GlowPlan,
  { radiusMm, strength, edge, middle, core }: GlowSettings,
  context: DrawContext,
): Node[] {
  const { window, toleranceMm } = context
  const cell = Math.max(
    finestMm,
    toleranceMm,
    radiusMm / 12,
    Math.sqrt((window.width * window.height) / mostCells),
  )
  const [columns, rows] = [
    Math.max(1, Math.ceil(window.width / cell)),
    Math.max(1, Math.ceil(window.height / cell)),
  ]
  const features = [...weights.keys()].filter((f) => weights[f] > 0)
  const points = paperPlaces(features, context).map(({ feature, x, y }) => ({
    x: (x - window.x) / cell,
    y: (y - window.y) / cell,
    weight: weights[feature],
  }))
  const rgba = coloursOf(lightOf(points, columns, rows, radiusMm / cell), strength, [edge, middle, core])
  const node: Raster = {
    type: 'raster',
    box: { x: window.x, y: window.y, width: columns * cell, height: rows * cell },
    columns,
    rows,
    rgba: cellsAtHand(rgba, columns),
    smooth: true,
  }
  return [node]
}
