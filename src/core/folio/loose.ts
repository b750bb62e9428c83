/** What was stored, before it is known to be a folio. */
export type Loose = Record<string, unknown>

export const isRecord = (value: unknown): value is Loose =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** Each thing of a list as it has to become; what is no thing, or no list, stays as it is, to be refused in words. */
export const eachOf = (list: unknown, become: (one: Loose) => unknown): unknown =>
  Array.isArray(list) ? list.map((one: unknown) => (isRecord(one) ? become(one) : one)) : list
