import { z } from 'zod'
import { sortedKeys } from '@/core/registry/sorted-record'
import { FieldMeta } from './field-meta'
import { Guessed, ReadOptions, ShapeNote } from './reading'
import { plainLayout, TableLayout } from './table-layout'
import { PrepStep } from './steps/registry'

/**
 * A dataset as a folio refers to it: where its rows come from, the steps that prepare them, and what its
 * fields are called.
 */
export const DatasetEntry = z.object({
  id: z.string(),
  name: z.string(),
  geometry: z.enum(['areas', 'lines', 'points', 'raster', 'none']),
  /** The stored rows and shapes, which never change; steps work on copies. */
  source: z.object({
    contentId: z.string(),
    fileName: z.string(),
    format: z.string(),
    /** The file itself as it was brought in, for reading it anew; empty where it is not at hand. */
    uploadId: z.string(),
    /** Which of the datasets of the file this is. */
    part: z.number().int().nonnegative(),
    options: ReadOptions,
    guessed: Guessed,
    notes: z.array(ShapeNote),
    /** What else is to be said of the file: what was lost, changed or taken for granted, a sentence each. */
    remarks: z.array(z.string().max(1000)).max(200).default([]),
    /** Whether borders were looked at for gaps and overlaps; absent where there are none. */
    borders: z.enum(['waiting', 'checked', 'stopped']).optional(),
  }),
  steps: z.array(PrepStep),
  fields: z.record(z.string(), FieldMeta).overwrite(sortedKeys),
  table: TableLayout.default(plainLayout),
  credit: z.string(),
  licence: z.string(),
  /** When the data were made or published, as the source says it. */
  dated: z.string(),
  link: z.string(),
})
export type DatasetEntry = z.infer<typeof DatasetEntry>

/** A source that was not brought in from a file of its own. */
export const plainSource = (contentId: string, fileName: string, format: string): DatasetEntry['source'] => ({
  contentId,
  fileName,
  format,
  uploadId: '',
  part: 0,
  options: {},
  guessed: {},
  notes: [],
  remarks: [],
})

/** An entry of which only what is needed is said. */
export const makeEntry = (
  given: Pick<DatasetEntry, 'id' | 'name' | 'geometry' | 'source'> & Partial<DatasetEntry>,
): DatasetEntry => ({
  steps: [],
  fields: {},
  table: plainLayout(),
  credit: '',
  licence: '',
  dated: '',
  link: '',
  ...given,
})
