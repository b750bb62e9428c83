import { generalise } from '@/core/geo/generalise'
import { featureCount } from '@/core/geo/geometry'
import { featureOutline } from '@/core/geo/outlines'
import { projectGeometry } from '@/core/geo/projected'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import { drawAreas } from '../area-drawing'
import { drawChoropleth } from '../choropleth/draw'
import type { DrawContext } from '../kind'
import type { BlocksPlan } from './plan'
import type { BlocksShapes } from './shapes'
import type { BlocksSettings } from './spec'

/** Shades, thin lines between blocks, and the outline of every body over them. */
export function drawBlocks(
  plan: BlocksPlan,
  settings: BlocksSettings,
  context: DrawContext,
  shapes: BlocksShapes,
): Node[] {
  if (!shapes) return []
  const thinned = (geometry: Parameters<typeof projectGeometry>[0]) =>
    generalise(projectGeometry(geometry, context.projection), context.toleranceMm / context.to.mmPerMetre)
  const featureName = (row: number): string => {
    const body = plan.bodies[plan.bodyOf[row]]
    return body && body.rows.length > 1 ? body.name : context.featureName(row)
  }
  const own: DrawContext = {
    ...context,
    dataset: shapes.dataset,
    projected: thinned(shapes.dataset.geometry),
    featureName,
  }
  const areas = shapes.parts
    ? [
        ...drawParts(settings, {
          ...own,
          projected: thinned(shapes.parts),
          featureName: (feature) => featureName(Math.floor(feature / settings.parts.length)),
        }),
        ...drawAreas([], settings, own),
      ]
    : drawChoropleth(plan, settings, own)
  const borders = areas.findIndex((node) => 'name' in node && node.name === 'borders')
  const lines = blockLines(settings, context, shapes)
  return borders < 0 ? [...areas, ...lines] : [...areas.slice(0, borders), ...lines, ...areas.slice(borders)]
}

/** A path for each part. */
function drawParts(settings: BlocksSettings, context: DrawContext): Node[] {
  const { projected } = context
  if (projected.kind !== 'areas') return []
  const count = settings.parts.length
  const classes = settings.parts.map(({ field, colour }, part) => ({
    name: `blocks of ${field}`,
    fill: solid(colour),
    members: Array.from({ length: featureCount(projected) / count }, (_, row) => row * count + part),
  }))
  const plain = { ...settings.outline, from: 'colour' as const, widthPt: 0, coastWidthPt: 0, level: null }
  return drawAreas(classes, { ...settings, outline: plain }, context)
}

function blockLines(
  { lines: { colour, widthPt } }: BlocksSettings,
  { projection, to, window }: DrawContext,
  shapes: NonNullable<BlocksShapes>,
): Node[] {
  if (!(widthPt > 0) || shapes.lines.kind !== 'lines') return []
  const projected = projectGeometry(shapes.lines, projection)
  const features = Array.from({ length: featureCount(projected) }, (_, f) => f)
  const { outline, kept } = featureOutline(projected, features, to, window)
  if (!kept.length) return []
  return [group('lines between blocks', [path(outline, { strokes: [stroke(colour, pointsToMm(widthPt))] })])]
}
