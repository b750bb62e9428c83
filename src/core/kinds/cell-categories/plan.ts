import { unordered } from '@/core/colour/schemes'
import { kindsOfCells, mostKinds } from '@/core/data/raster-kinds'
import type { Colour } from '@/core/scene/paint'
import type { KindData } from '../kind'
import type { CellCategorySettings } from './spec'

export type CellCategory = {
  key: string
  label: string
  colour: Colour
  shown: boolean
  /** Held cells, and the ground under them. */
  cells: number
  km2: number
  /** The values that are shown as this. */
  values: number[]
}

export type CellCategoryPlan = {
  categories: CellCategory[]
  /** Held cells without a value. */
  missing: number
  /** Different values, where there are too many of them to be kinds. */
  tooMany: number
}

const hexOf = (code: number): Colour => `#${(code & 0xffffff).toString(16).padStart(6, '0')}`

/** What each value is shown as. */
export function planCellCategories(
  settings: CellCategorySettings,
  { dataset: { raster } }: KindData,
): CellCategoryPlan {
  if (!raster || settings.band >= raster.bands) return { categories: [], missing: 0, tooMany: 0 }
  const kinds = kindsOfCells(raster, settings.band)
  if (kinds.different > mostKinds) return { categories: [], missing: kinds.missing, tooMany: kinds.different }
  const colours = unordered[settings.set ?? '']?.colours ?? unordered.market.colours
  const { palette } = raster
  const has = new Set(kinds.values.map(String))
  const target = (key: string): string => {
    const other = settings.own[key]?.with
    return other && other !== key && has.has(other) && !settings.own[other]?.with ? other : key
  }
  const made = new Map<string, CellCategory>()
  kinds.values.forEach((value, i) => {
    const key = target(String(value))
    const own = settings.own[key]
    const inFile = settings.set === null && palette && Number(key) in palette
    const category = made.get(key) ?? {
      key,
      label: own?.label ?? key,
      colour:
        own?.colour ??
        (inFile ? hexOf(palette[Number(key)]) : colours[[...has].indexOf(key) % colours.length]),
      shown: own?.shown ?? true,
      ...{ cells: 0, km2: 0, values: [] },
    }
    category.cells += kinds.cells[i]
    category.km2 += kinds.km2[i]
    category.values.push(value)
    made.set(key, category)
  })
  const categories = [...made.values()].sort((a, b) =>
    settings.order === 'ground' ? b.km2 - a.km2 : Number(a.key) - Number(b.key),
  )
  return { categories, missing: kinds.missing, tooMany: 0 }
}
