import { SaidError } from '@/core/said/said-error'
import type { Sink } from './byte-source'
import type { Dataset } from '@/core/data/dataset'
import type { Asks, Guessed, LayerCard, ShapeNote } from '@/core/data/reading'

export type { Guessed, ReadOptions, ShapeNote } from '@/core/data/reading'

/** A file that cannot be read, said in words for the person who chose it: what, where, and what to do. */
export class ImportError extends SaidError {
  override name = 'ImportError'
}

/** The coordinates are not degrees, and the file does not say what they are: the person has to. */
export class UnknownSystemError extends ImportError {
  override name = 'UnknownSystemError'
}

/** The file holds several layers, and the person has to say which are wanted. */
export class ManyLayersError extends ImportError {
  override name = 'ManyLayersError'
  constructor(
    fileName: string,
    readonly layers: LayerCard[],
  ) {
    super(
      `${fileName} holds ${layers.length} layers: ${layers.map(({ name }) => name).join(', ')}. Choose which to bring in.`,
    )
  }
}

/** What the person is asked for by an error, if anything. */
export function askedBy(error: unknown): Asks | null {
  if (error instanceof UnknownSystemError) return { what: 'system' }
  return error instanceof ManyLayersError ? { what: 'layers', layers: error.layers } : null
}

/** How much of a file is wanted; readers that cannot stop early read all of it. */
export type Extent = { mostRows?: number }

/** How a file is read that may be larger than memory. */
export type Reading = Extent & {
  /** `share` is between 0 and 1. */
  progress: (share: number, doing: string) => void
  /** Where a reader puts what is too large to be held. */
  openSink: () => Sink
}

/** One dataset found in a file, with what is to be said of it. */
export type Imported = {
  name: string
  dataset: Dataset
  guessed: Guessed
  notes: ShapeNote[]
  /** Sentences on what was lost, changed or taken for granted. */
  remarks?: string[]
  /** What it was in, where that is another format than the file's own. */
  format?: string
  /** What the words around a table say of it: in what its figures are counted, and whose they are. */
  said?: { many: string; credit: string }
  /** The fine cells of its raster, as a file of tiles. */
  tiles?: Sink
}
