import { borderOutline, featureOutline } from '@/core/geo/outlines'
import { solid, stroke, type Stroke } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import { isNear } from '@/core/geo/paper'
import type { DrawContext } from '../kind'
import { paperPlaces } from '../marks/places'
import { symbolOutline } from '../marks/shapes'
import type { PlainSettings } from './spec'

export const plainStroke = ({ stroke: s }: PlainSettings): Stroke | null =>
  s.widthPt > 0
    ? stroke(s.colour, pointsToMm(s.widthPt), {
        dashMm: s.dashed ? [1.2, 0.9] : [],
        cap: s.dashed ? 'butt' : 'round',
      })
    : null

/** Lines from the undermost to the topmost: the casing, then the line. */
export function plainStrokes(settings: PlainSettings): Stroke[] {
  const line = plainStroke(settings)
  const { casing } = settings
  return [
    ...(casing
      ? [
          stroke(casing.colour, pointsToMm(settings.stroke.widthPt + 2 * casing.widthPt), {
            cap: settings.stroke.dashed ? 'butt' : 'round',
          }),
        ]
      : []),
    ...(line ? [line] : []),
  ]
}

const all = (count: number): number[] => Array.from({ length: count }, (_, f) => f)

export function drawPlain(_: null, settings: PlainSettings, context: DrawContext): Node[] {
  const { projected, to, window, featureName, dataset } = context
  if (projected.kind === 'points') return drawDots(settings, context)
  if (projected.kind === 'none') return []
  const line = plainStroke(settings)
  const { outline, offsets, kept } = featureOutline(projected, all(dataset.rowCount), to, window)
  if (!kept.length) return []
  const features = { offsets, names: kept.map(featureName) }
  // One path after the other: a line never lies over the casing of one that it meets.
  if (projected.kind === 'lines')
    return plainStrokes(settings).map((one) => path(outline, { strokes: [one], features }))
  const fill = settings.fill ? [path(outline, { fill: solid(settings.fill), features })] : []
  return line ? [...fill, path(borderOutline(projected, 'all', to, { window }), { strokes: [line] })] : fill
}

function drawDots(settings: PlainSettings, context: DrawContext): Node[] {
  const size = pointsToMm(settings.dotPt)
  if (!(size > 0)) return []
  const { window, dataset } = context
  const line = plainStroke(settings)
  const style = { fill: settings.fill ? solid(settings.fill) : null, strokes: line ? [line] : [] }
  return paperPlaces(all(dataset.rowCount), context)
    .filter(({ x, y }) => isNear(window, x, y, size))
    .map(({ x, y }) =>
      path(symbolOutline(settings.dotShape, x, { y, sizeMm: size, barWidthMm: size / 3 }), style),
    )
}
