import { fieldOf } from '@/core/data/dataset'
import { firstAreaLook } from '../first-look'
import type { KindData, MapKind } from '../kind'
import { marksAt } from '../marks/places'
import { symbolReach } from '../marks/shapes'
import { drawCategories } from './draw'
import { categoryLegend, categoryLines } from './legend'
import { planCategories, type CategoryPlan } from './plan'
import { categorySentence } from './sentence'
import { CategorySettings } from './spec'

const texts = ({ dataset, fieldMeta }: KindData): string[] =>
  dataset.fields
    .filter(
      ({ key, column }) =>
        column.kind !== 'number' && !['code', 'name', 'date'].includes(fieldMeta(key).role),
    )
    .map(({ key }) => key)

const firstCategories = (field: string, data: KindData): CategorySettings => ({
  field,
  set: 'harbour',
  assign: 'order',
  order: 'count',
  fewest: 0,
  other: { colour: '#b8b8b8', label: 'other' },
  own: {},
  lineWidthPt: 1.2,
  dot: { shape: 'circle', sizeMm: 2, varied: false },
  ...firstAreaLook(data),
})

/** How many different words a field has. */
function differentIn({ dataset }: KindData, field: string): number {
  const column = fieldOf(dataset, field)
  return column?.kind === 'text' ? column.dictionary.length : 0
}

/** More colours than this are not told apart. */
const most = 12

/** Areas, lines or points by their kind. */
export const categories: MapKind<CategorySettings, CategoryPlan> = {
  label: 'Categories',
  thematic: true,
  comparesAreas: true,
  fits: 'Fit for colours',
  settings: CategorySettings,
  accepts: (data) => data.dataset.geometry.kind !== 'none' && texts(data).length > 0,
  suggests: (data) =>
    texts(data)
      .map((field) => ({ field, count: differentIn(data, field) }))
      .filter(({ count }) => count > 1 && count <= most)
      .slice(0, 2)
      .map(({ field, count }) => ({
        settings: firstCategories(field, data),
        shows: data.fieldMeta(field).label,
        because: `${count} kinds are told apart by colour.`,
        fit: data.dataset.geometry.kind === 'points' ? 0.82 : 0.72,
      })),
  initial: (data) => firstCategories(texts(data)[0] ?? '', data),
  plan: planCategories,
  shapes: null,
  marks: (plan, { dot }, context) =>
    context.dataset.geometry.kind === 'points'
      ? marksAt(
          [...plan.of.keys()].filter((f) => plan.of[f] >= 0),
          context,
          (f) => symbolReach(plan.categories[plan.of[f]]?.shape ?? dot.shape, dot.sizeMm, dot.sizeMm / 3),
        )
      : [],
  draw: drawCategories,
  legend: categoryLegend,
  legendLines: categoryLines,
  sentence: categorySentence,
  classings: () => [],
  classification: () => null,
  shared: null,
  years: null,
  showField: null,
  needs: ({ mask }) => (mask ? [mask.datasetId] : []),
  remap: (settings, data) =>
    data.dataset.fields.some(({ key }) => key === settings.field)
      ? settings
      : { ...settings, field: texts(data)[0] ?? '', own: {} },
  read: (plan, settings, _, feature) => ({
    value: plan.categories[plan.of[feature]]?.label ?? settings.missing.label,
    detail: plan.of[feature] < 0 ? 'no value' : `${plan.categories[plan.of[feature]].count} like it`,
  }),
  fonts: () => [],
  chip: ({ categories: list }) => list.slice(0, 6).map(({ colour }) => colour),
  caution: (plan, settings) => {
    const counts = plan.categories.map(({ count }) => count).sort((a, b) => b - a)
    // With so many the thirteenth commonest is the first that goes with the others.
    return counts.length > most
      ? {
          words: `${counts.length} colours cannot be told apart.`,
          remedies: [
            { label: 'group the rare ones', settings: { ...settings, fewest: counts[most - 1] + 1 } },
          ],
        }
      : null
  },
}
