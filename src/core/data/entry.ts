import { z } from 'zod'
import { sortedKeys } from './sorted-record'
import { FieldMeta } from './field-meta'
import { PrepStep } from './steps/registry'

/** A dataset as a folio refers to it: where its rows come from, the steps that prepare them, and what its fields are called. */
export const DatasetEntry = z.object({
  id: z.string(),
  name: z.string(),
  geometry: z.enum(['areas', 'lines', 'points', 'none']),
  /** The stored rows and shapes, which never change; steps work on copies. */
  source: z.object({ contentId: z.string(), fileName: z.string(), format: z.string() }),
  steps: z.array(PrepStep),
  fields: z.record(z.string(), FieldMeta).overwrite(sortedKeys),
  credit: z.string(),
})
export type DatasetEntry = z.infer<typeof DatasetEntry>
