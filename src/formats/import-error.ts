import type { Dataset } from '@/core/data/dataset'
import type { Guessed, ShapeNote } from '@/core/data/reading'

export type { Guessed, ReadOptions, ShapeNote } from '@/core/data/reading'

/** A file that cannot be read, said in words for the person who chose it: what, where, and what to do. */
export class ImportError extends Error {
  override name = 'ImportError'
}

/** The coordinates are not degrees, and the file does not say what they are: the person has to. */
export class UnknownSystemError extends ImportError {
  override name = 'UnknownSystemError'
}

/** One dataset found in a file, with what is to be said of it. */
export type Imported = { name: string; dataset: Dataset; guessed: Guessed; notes: ShapeNote[] }
