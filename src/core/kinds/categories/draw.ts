import { featureOutline } from '@/core/geo/outlines'
import { solid, stroke, type Paint } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import { isNear } from '@/core/geo/paper'
import { asidePaint, drawAreas } from '../area-drawing'
import type { DrawContext } from '../kind'
import { paperPlaces } from '../marks/places'
import { symbolOutline } from '../marks/shapes'
import type { Category, CategoryPlan } from './plan'
import type { CategorySettings } from './spec'

/** Flat, or lines of the colour on white that read well down to a few millimetres. */
/** How wide the strokes of a hatch are, or its dots, mm. */
const hatchWidthMm = { lines: 0.35, crossed: 0.28, dots: 0.65 }

export const categoryPaint = ({
  colour,
  hatchDeg,
  pattern,
}: Pick<Category, 'colour' | 'hatchDeg' | 'pattern'>): Paint =>
  hatchDeg === null
    ? solid(colour)
    : {
        type: 'hatch',
        colour,
        background: '#ffffff',
        angleDeg: hatchDeg,
        spacingMm: pattern === 'lines' ? 1 : 1.3,
        widthMm: hatchWidthMm[pattern],
        ...(pattern !== 'lines' && { form: pattern }),
      }

export function drawCategories(plan: CategoryPlan, settings: CategorySettings, context: DrawContext): Node[] {
  const members: number[][] = plan.categories.map(() => [])
  const missing: number[] = []
  plan.of.forEach((c, f) => (c < 0 ? missing : members[c]).push(f))
  const { projected, to, window, featureName } = context
  if (projected.kind === 'areas')
    return drawAreas(
      [
        ...plan.categories.map((category, i) => ({
          name: category.label,
          fill: categoryPaint(category),
          members: members[i],
        })),
        { name: settings.missing.label, fill: asidePaint(settings.missing), members: missing },
      ],
      settings,
      context,
    )
  if (projected.kind === 'lines')
    return plan.categories.flatMap(({ label, colour }, i) => {
      const { outline, offsets, kept } = featureOutline(projected, members[i], to, window)
      return kept.length
        ? [
            group(label, [
              path(outline, {
                strokes: [stroke(colour, pointsToMm(settings.lineWidthPt))],
                features: { offsets, names: kept.map(featureName) },
              }),
            ]),
          ]
        : []
    })
  const { sizeMm } = settings.dot
  const line =
    settings.outline.widthPt > 0
      ? [stroke(settings.outline.colour, pointsToMm(settings.outline.widthPt))]
      : []
  // The commonest first, so that rare ones lie on top.
  return plan.categories.flatMap(({ label, colour, shape }, i) => {
    const dots = paperPlaces(members[i], context).filter(({ x, y }) => isNear(window, x, y, sizeMm))
    return dots.length
      ? [
          group(
            label,
            dots.map(({ feature, x, y }) =>
              path(symbolOutline(shape, x, { y, sizeMm, barWidthMm: sizeMm / 3 }), {
                fill: solid(colour),
                strokes: line,
                features: { offsets: Uint32Array.of(0, 1), names: [featureName(feature)] },
              }),
            ),
          ),
        ]
      : []
  })
}
