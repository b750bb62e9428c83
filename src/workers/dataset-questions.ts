import type { Prepared } from '@/core/data/prepare'
import { proposalsFor, type Proposal } from '@/core/data/proposals'

/** What is asked of datasets by themselves. `datasets` are those at hand when a question comes. */
export function datasetQuestions(datasets: () => Map<string, Prepared>) {
  /** What could be done next with one of them; `onMaps` are those that some map shows already. */
  function nextFor(datasetId: string, onMaps: string[]): Proposal[] {
    const prepared = datasets().get(datasetId)
    return prepared ? proposalsFor(prepared, datasets(), new Set(onMaps)) : []
  }
  return { nextFor }
}
