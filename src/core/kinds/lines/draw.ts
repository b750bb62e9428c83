import { featureOutline } from '@/core/geo/outlines'
import { polyline, trace, type Outline } from '@/core/scene/outline'
import { stroke, withOpacity } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import type { DrawContext } from '../kind'
import { moveSideways } from './offset'
import type { LinePlan } from './plan'
import type { LineSettings } from './spec'

/** Lines of an outline on paper, each x, y, x, y… */
function linesOf(outline: Outline): number[][] {
  const lines: number[][] = []
  trace(outline, {
    moveTo: (x, y) => void lines.push([x, y]),
    lineTo: (x, y) => void lines.at(-1)?.push(x, y),
    bezierCurveTo: () => undefined,
    closePath: () => undefined,
  })
  return lines
}

const shadeSteps = 6

/**
 * Strokes whose shades add up to the strength of a shadow beside the line and fade to nothing outwards, the
 * widest first.
 */
export function shadowStrokes({
  colour,
  widthMm,
  opacity,
}: NonNullable<LineSettings['shadow']>): { extraMm: number; colour: string }[] {
  // Laid over each other n layers of opacity a give 1 − (1 − a)ⁿ.
  const each = 1 - (1 - opacity) ** (1 / shadeSteps)
  return Array.from({ length: shadeSteps }, (_, i) => ({
    extraMm: (widthMm * (shadeSteps - i)) / shadeSteps,
    colour: withOpacity(colour, each),
  }))
}

export function drawLines(
  plan: LinePlan,
  settings: LineSettings,
  { projected, to, window, featureName }: DrawContext,
): Node[] {
  if (projected.kind !== 'lines') return []
  const dash = settings.dashed ? [1.6, 1.1] : []
  const shapes = plan.order.flatMap((feature) => {
    const { outline, kept, offsets } = featureOutline(projected, [feature], to, window)
    if (!kept.length) return []
    const moved =
      settings.offsetMm === 0
        ? outline
        : polyline(...linesOf(outline).map((line) => moveSideways(line, settings.offsetMm)))
    return [{ feature, outline: moved, features: { offsets, names: [featureName(feature)] } }]
  })
  const { casing, shadow } = settings
  const shade = shadow
    ? shadowStrokes(shadow).map(({ extraMm, colour }) =>
        group(
          `shade ${extraMm.toFixed(2)} mm`,
          shapes.map(({ feature, outline }) =>
            path(outline, {
              strokes: [stroke(colour, plan.widths[feature] + 2 * extraMm, { cap: 'round' })],
            }),
          ),
        ),
      )
    : []
  const under = casing
    ? shapes.map(({ feature, outline }) =>
        path(outline, {
          strokes: [stroke(casing.colour, plan.widths[feature] + 2 * casing.widthMm, { cap: settings.ends })],
        }),
      )
    : []
  const over = shapes.map(({ feature, outline, features }) => {
    const colour = plan.classOf[feature] < 0 ? settings.missing.colour : plan.colours[plan.classOf[feature]]
    return path(outline, {
      strokes: [
        stroke(withOpacity(colour ?? settings.plainColour, settings.opacity), plan.widths[feature], {
          cap: settings.dashed ? 'butt' : settings.ends,
          dashMm: dash,
        }),
      ],
      features,
    })
  })
  const laid = settings.over.map(({ colour, share, dashed }, i) =>
    group(
      `stroke ${i + 2}`,
      shapes.map(({ feature, outline }) =>
        path(outline, {
          strokes: [
            stroke(colour, plan.widths[feature] * share, {
              cap: dashed ? 'butt' : settings.ends,
              dashMm: dashed ? [1.6, 1.1] : [],
            }),
          ],
        }),
      ),
    ),
  )
  return [
    ...(shade.length && shapes.length ? [group('shade', shade)] : []),
    ...(under.length ? [group('casing', under)] : []),
    ...(over.length ? [group('lines', over), ...laid] : []),
  ]
}
