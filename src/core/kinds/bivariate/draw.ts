import { solid } from '@/core/scene/paint'
import type { Node } from '@/core/scene/scene'
import { asidePaint, drawAreas, outsidePaint, type AreaClass } from '../area-drawing'
import type { DrawContext } from '../kind'
import type { BivariatePlan } from './plan'
import type { BivariateSettings } from './spec'

export function drawBivariate(
  plan: BivariatePlan,
  settings: BivariateSettings,
  context: DrawContext,
): Node[] {
  const members = new Map<number, number[]>()
  plan.cellOf.forEach((cell, feature) => {
    const list = members.get(cell)
    if (list) list.push(feature)
    else members.set(cell, [feature])
  })
  const aside = [...settings.across.setAside, ...settings.up.setAside]
  const classes: AreaClass[] = [
    ...plan.cells
      .flatMap((row, r) =>
        row.map((colour, c): Omit<AreaClass, 'members'> => ({
          name: `class ${c + 1} across, ${r + 1} up`,
          fill: solid(colour),
        })),
      )
      .map((one, cell) => ({ ...one, members: members.get(cell) ?? [] })),
    {
      name: `class ${settings.missing.label}`,
      fill: asidePaint(settings.missing),
      members: members.get(-1) ?? [],
    },
    { name: 'class outside all classes', fill: outsidePaint, members: members.get(-2) ?? [] },
    ...aside.map((apart, i) => ({
      name: `class ${apart.label}`,
      fill: asidePaint(apart),
      members: members.get(-3 - i) ?? [],
    })),
  ]
  return drawAreas(classes, settings, context)
}
