import type { PrepStep } from '@/core/data/steps/registry'
import { editFolio } from '../../shell/folio-store'

/** Changes the steps of a dataset under a name for the history; edits with the same `merge` key become one. */
export const editSteps = (
  datasetId: string,
  name: string,
  recipe: (steps: PrepStep[]) => void,
  merge?: string,
) =>
  editFolio(
    name,
    (draft) => {
      const entry = draft.datasets.find((d) => d.id === datasetId)
      if (entry) recipe(entry.steps as PrepStep[])
    },
    merge,
  )
