import { numbersOf } from '@/core/data/column'
import { fieldOf, type Dataset } from '@/core/data/dataset'
import { cellArea } from '@/core/grid/cells'
import { formatNumber } from '@/core/classify/labels'
import type { ChoroplethSettings } from '../choropleth/spec'
import { planChoropleth, type ChoroplethPlan } from '../choropleth/plan'
import type { KindData } from '../kind'
import { lowerFirst } from '../values'
import { gathered, valueField } from './gather'
import type { CellSettings } from './spec'

/** A cell with a high value, and what lies in it. */
export type TopCell = { value: number; points: number; members: number[]; firstShare: number }

export type CellPlan = ChoroplethPlan & {
  cells: number
  points: number
  missing: number
  unplaced: number
  /** The cells with the highest values. */
  top: TopCell[]
  largest: number
  /** Ground under one cell, m². */
  cellM2: number
}

const mostTop = 5

/** The settings as those of a choropleth of the cells. */
export const asChoropleth = (settings: CellSettings): ChoroplethSettings => ({
  ...settings,
  field: valueField,
  per: null,
  perCount: 1,
  uncertainty: null,
  share: null,
  overYears: null,
})

/** What the figure is called, and its unit. */
export function figureMeta(
  settings: CellSettings,
  { name, fieldMeta }: Pick<KindData, 'name' | 'fieldMeta'>,
) {
  const { figure, field, shareOf } = settings
  const meta = field === null ? null : fieldMeta(field)
  const label = meta ? lowerFirst(meta.label) : ''
  if (figure === 'count') return { label: `${name} in a cell`, unit: '' }
  if (figure === 'sum') return { label: `${meta?.label ?? ''} in a cell`, unit: meta?.unit ?? '' }
  if (figure === 'share') return { label: `Share of ${label} ${shareOf ?? ''}`.trim(), unit: '%' }
  const word = { mean: 'Mean', median: 'Median', 'weighted mean': 'Weighted mean' }[figure]
  return { label: `${word} ${label}`.trim(), unit: meta?.unit ?? '' }
}

/** The words of the cells' own table, without its rows. */
export function cellData(settings: CellSettings, data: KindData): KindData {
  const { label, unit } = figureMeta(settings, data)
  const role =
    settings.figure === 'count' || settings.figure === 'sum' ? ('total' as const) : ('rate' as const)
  return { ...data, dataset: noCells, fieldMeta: () => ({ label, unit, role }) }
}

const noCells: Dataset = { rowCount: 0, fields: [], geometry: { kind: 'none' } }

export function planCells(settings: CellSettings, data: KindData): CellPlan {
  const found = gathered(settings, data)
  const own = { ...cellData(settings, data), dataset: found?.dataset ?? noCells }
  const plan = planChoropleth(asChoropleth(settings), own)
  const column = fieldOf(own.dataset, 'points')
  const points = column ? numbersOf(column) : new Float64Array(0)
  const top = [...plan.values.keys()]
    .filter((c) => Number.isFinite(plan.values[c]))
    .sort((a, b) => plan.values[b] - plan.values[a] || a - b)
    .slice(0, mostTop)
    .map((c): TopCell => ({
      value: plan.values[c],
      points: points[c],
      members: [...(found?.members[c] ?? [])],
      firstShare: found?.firstShare[c] ?? NaN,
    }))
  return {
    ...plan,
    cells: plan.values.length,
    points: points.reduce((sum, n) => sum + n, 0),
    missing: found?.missing ?? 0,
    unplaced: found?.unplaced ?? 0,
    top,
    largest: top[0]?.value ?? 0,
    cellM2: found ? cellArea(found.tiling) : 0,
  }
}

export const spacingWords = ({ spacingKm }: Pick<CellSettings, 'spacingKm'>): string =>
  `${formatNumber(spacingKm, spacingKm < 10 && !Number.isInteger(spacingKm) ? 1 : 0)} km`
