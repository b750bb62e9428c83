import { solid, stroke } from '@/core/scene/paint'
import { pointsToMm } from '@/core/scene/units'
import { asidePaint } from '../area-drawing'
import type { KindData, LegendEntry, LegendItem, LegendLines } from '../kind'
import { pencilSwatch } from '../pencil'
import { categoryPaint } from './draw'
import type { Category, CategoryPlan } from './plan'
import type { CategorySettings } from './spec'

export function categoryLegend(
  plan: CategoryPlan,
  settings: CategorySettings,
  { dataset, fieldMeta }: KindData,
): LegendEntry {
  const edge =
    settings.outline.widthPt > 0 && settings.outline.colour.toLowerCase() !== '#ffffff'
      ? stroke(settings.outline.colour, pointsToMm(settings.outline.widthPt))
      : null
  const swatch = (category: Category): LegendItem['swatch'] => {
    if (dataset.geometry.kind === 'lines')
      return { shape: 'line', fill: null, stroke: stroke(category.colour, pointsToMm(settings.lineWidthPt)) }
    if (dataset.geometry.kind === 'points')
      return {
        shape: 'symbol',
        symbol: category.shape,
        sizeMm: settings.dot.sizeMm,
        fill: solid(category.colour),
        stroke: edge,
      }
    const hatchEdge = category.hatchDeg === null ? null : stroke('#9a9a9a', 0.1)
    const fill = categoryPaint(category)
    if (settings.pencil && fill.type === 'solid') return pencilSwatch(fill.colour, settings.pencil, 1, edge)
    return { shape: 'box', fill, stroke: edge ?? hatchEdge }
  }
  const items = plan.categories.map((category): LegendItem => ({
    key: `category-${category.key}`,
    label: category.label,
    swatch: swatch(category),
  }))
  if (plan.missingCount && dataset.geometry.kind === 'areas')
    items.push({
      key: 'missing',
      apart: true,
      label: settings.missing.label,
      swatch: { shape: 'box', fill: asidePaint(settings.missing), stroke: edge ?? stroke('#9a9a9a', 0.1) },
    })
  return { heading: fieldMeta(settings.field).label, items }
}

/** Which line a feature has: its category, or that of features without one. */
export const categoryLines = ({ categories, of }: CategoryPlan): LegendLines => ({
  keys: [...categories.map(({ key }) => `category-${key}`), 'missing'],
  of: (feature) => (of[feature] < 0 ? 'missing' : `category-${categories[of[feature]].key}`),
})
