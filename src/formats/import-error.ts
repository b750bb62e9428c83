/** A file that cannot be read, said in words for the person who chose it: what, where, and what to do. */
export class ImportError extends Error {
  override name = 'ImportError'
}

/** One dataset found in a file. */
export type Imported = { name: string; dataset: import('@/core/data/dataset').Dataset }
