import { solid, type Paint } from '@/core/scene/paint'
import type { Node } from '@/core/scene/scene'
import { asidePaint, drawAreas, outsidePaint } from '../area-drawing'
import type { DrawContext } from '../kind'
import { shareOfClass } from '../pencil'
import type { ChoroplethPlan } from './plan'
import type { ChoroplethSettings } from './spec'

/** Classes from the lowest; then missing values, those outside all classes, and what was set aside. */
export function drawChoropleth(
  plan: ChoroplethPlan,
  settings: ChoroplethSettings,
  context: DrawContext,
): Node[] {
  const classCount = plan.colours.length
  const members: number[][] = Array.from({ length: classCount + 2 + settings.setAside.length }, () => [])
  plan.classOf.forEach((c, feature) => members[c < 0 ? classCount - 1 - c : c].push(feature))
  const paints = [
    ...plan.colours.map(solid),
    asidePaint(settings.missing),
    outsidePaint,
    ...settings.setAside.map(asidePaint),
  ]
  const names = [
    ...plan.labels,
    settings.missing.label,
    'outside all classes',
    ...settings.setAside.map(({ label }) => label),
  ]
  const classes = paints.map((fill, i) => ({
    name: `class ${names[i]}`,
    fill,
    members: members[i],
    share: i < classCount ? shareOfClass(i, classCount) : 1,
  }))
  const { unreliable } = plan
  const veil =
    unreliable && settings.uncertainty
      ? [
          {
            name: 'not reliable',
            fill: unreliablePaint(settings.uncertainty.show),
            members: [...unreliable.keys()].filter((f) => unreliable[f]),
          },
        ]
      : []
  return drawAreas(classes, settings, context, veil)
}

/** What lies over values that are not reliable: lines, or a veil of the paper's white. */
export const unreliablePaint = (show: 'hatch' | 'fade'): Paint =>
  show === 'hatch'
    ? { type: 'hatch', colour: '#3a3a3a', background: null, angleDeg: -45, spacingMm: 1.1, widthMm: 0.16 }
    : solid('#ffffffa6')
