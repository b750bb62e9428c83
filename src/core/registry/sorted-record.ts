/**
 * The same record with its keys in alphabetical order, for `.overwrite()` on a record of the document: the
 * order in which entries were added and taken away again leaves no trace in what is saved.
 */
export function sortedKeys<R extends Record<string, unknown>>(record: R): R {
  return Object.fromEntries(Object.entries(record).sort(([a], [b]) => (a < b ? -1 : 1))) as R
}
