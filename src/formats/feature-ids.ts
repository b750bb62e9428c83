export type FeatureId = string | number | bigint | null | undefined

/**
 * Rows with the identifiers of their features as a first field: `id`, or `feature_id` where a field of that name
 * says something else. Where the field says the same, or no feature has an identifier, rows stay as they are.
 */
export function withIds<R extends { properties: Record<string, unknown> }>(rows: R[], ids: FeatureId[]): R[] {
  const present = (id: FeatureId): id is string | number | bigint => id !== null && id !== undefined
  if (!ids.some(present)) return rows
  const taken = rows.some(({ properties }) => Object.hasOwn(properties, 'id'))
  const same = rows.every(({ properties }, i) => !present(ids[i]) || String(properties.id) === String(ids[i]))
  if (taken && same) return rows
  let key = taken ? 'feature_id' : 'id'
  while (taken && rows.some(({ properties }) => Object.hasOwn(properties, key))) key += '_'
  return rows.map((row, i) => ({ ...row, properties: { [key]: ids[i] ?? null, ...row.properties } }))
}
