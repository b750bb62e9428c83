import { asideOf, classIndex, type Classification } from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import type { Colour } from '@/core/scene/paint'
import type { KindData } from '../kind'
import { classified } from '../classified'
import { valuesOf } from '../values'
import { fadingColours, squareColours, suppressingColours } from './palettes'
import type { BivariateSettings, Variable } from './spec'

export type Side = {
  values: Float64Array
  classification: Classification | null
  labels: string[]
  generated: string[]
  decimals: number
}

/**
 * `cellOf[f]`: the cell of feature `f`, counted row by row from the lowest; −1 one of the two is missing, −2
 * one lies outside breaks set by hand, −3 − i the i-th class set aside (those of the first field, then those
 * of the second).
 */
export type BivariatePlan = {
  sides: [Side, Side]
  cells: Colour[][]
  cellOf: Int16Array
  missingCount: number
}

export function planBivariate(settings: BivariateSettings, { dataset }: KindData): BivariatePlan {
  const side = (variable: Variable): Side => {
    const values = valuesOf(variable, dataset)
    const classification = classified(variable, variable, dataset)
    const decimals = classification
      ? decimalsFor(classification.breaks.map((b) => b / variable.numbers.divideBy))
      : 0
    const generated = classification
      ? classLabels(classification.breaks, decimals, variable.labelPattern, variable.numbers)
      : []
    return { values, classification, decimals, generated, labels: inOwnWords(generated, variable.classWords) }
  }
  const up = side(settings.up)
  const rows = up.classification?.counts.length ?? 1
  // With every row upwards half as many classes: the first row has as many as that takes.
  const across = side(
    settings.form === 'suppressing' && settings.across.method !== 'manual'
      ? { ...settings.across, classes: columnsFor(rows) }
      : settings.across,
  )
  const columns = across.classification?.counts.length ?? 1
  const cells = cellColours(settings, columns, rows)
  const starts = cells.map((_, r) => cells.slice(0, r).reduce((sum, row) => sum + row.length, 0))
  let missingCount = 0
  const cellOf = Int16Array.from(across.values, (first, f) => {
    const second = up.values[f]
    if (!Number.isFinite(first) || !Number.isFinite(second)) {
      missingCount++
      return -1
    }
    const [apart, alsoApart] = [
      asideOf(first, settings.across.setAside),
      asideOf(second, settings.up.setAside),
    ]
    if (apart >= 0) return -3 - apart
    if (alsoApart >= 0) return -3 - settings.across.setAside.length - alsoApart
    const [c, r] = [
      classIndex(across.classification?.breaks ?? [], first, settings.across.inclusive),
      classIndex(up.classification?.breaks ?? [], second, settings.up.inclusive),
    ]
    if (c < 0 || r < 0) return -2
    return starts[r] + Math.min(cells[r].length - 1, Math.floor((c * cells[r].length) / columns))
  })
  return { sides: [across, up], cells, cellOf, missingCount }
}

/** Classes of the first row of a palette that halves them with every row. */
export const columnsFor = (rows: number): number => Math.max(2, 2 ** (rows - 1))

/** Colours of all pairs of classes, a row for each class of the second field, the lowest first. */
function cellColours(settings: BivariateSettings, columns: number, rows: number): Colour[][] {
  if (settings.form === 'square') return squareColours(settings.square, columns, rows)
  if (settings.form === 'fading') return fadingColours(settings.colouring, settings.ground, columns, rows)
  return suppressingColours(settings.colouring, rows)
}
