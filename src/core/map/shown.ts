import { FormulaError, formulaValues } from '@/core/data/formula'
import type { Dataset } from '@/core/data/dataset'
import { createMemory } from '@/core/memory/memory'
import type { Prepared } from '@/core/data/prepare'
import { keepRows } from '@/core/data/steps/filter'
import type { Layer } from './spec'

type Kept = { dataset: Dataset; problem: string | null }

const rememberRows = createMemory<Dataset, Kept>('filtered rows', { maxBytes: 64 * 2 ** 20 })
const subsets = new WeakMap<Prepared, WeakMap<Dataset, Prepared>>()

const kept = ({ filter }: Pick<Layer, 'filter'>, dataset: Dataset): Kept =>
  rememberRows(dataset, filter, () => reckon(filter, dataset))

function reckon(filter: string, dataset: Dataset): Kept {
  try {
    const values = formulaValues(filter, dataset)
    const rows = Int32Array.from(
      [...values.keys()].filter(
        (row) => values[row] === true || (typeof values[row] === 'number' && values[row] !== 0),
      ),
    )
    return { dataset: dataset.raster ? dataset : keepRows(dataset, rows), problem: null }
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error
    return { dataset, problem: error.message }
  }
}

/**
 * The rows that a layer shows: all, or those for which its filter is true. A filter that cannot be used keeps
 * all.
 */
export function shown(layer: Pick<Layer, 'filter'>, prepared: Prepared): Prepared {
  if (!layer.filter.trim()) return prepared
  const { dataset } = kept(layer, prepared.dataset)
  if (dataset === prepared.dataset) return prepared
  return withRows(prepared, dataset)
}

/** A dataset with other rows in it, the same object each time. */
function withRows(from: Prepared, dataset: Dataset): Prepared {
  const known = subsets.get(from) ?? new WeakMap<Dataset, Prepared>()
  subsets.set(from, known)
  const subset = known.get(dataset) ?? { ...from, dataset }
  known.set(dataset, subset)
  return subset
}

/** The rows that a layer shows of the datasets at hand; null while its own is not. */
export function shownOf(
  layer: Pick<Layer, 'filter' | 'datasetId'>,
  datasets: Map<string, Prepared>,
): Prepared | null {
  const prepared = datasets.get(layer.datasetId)
  return prepared ? shown(layer, prepared) : null
}

/** What is wrong with a layer's filter; null where it can be used. */
export const filterProblem = (layer: Pick<Layer, 'filter'>, { dataset }: Prepared): string | null =>
  layer.filter.trim() ? kept(layer, dataset).problem : null
