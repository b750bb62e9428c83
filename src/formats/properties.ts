import { columnFromCells, numberColumn, textColumn, type Column } from '@/core/data/column'
import type { Field } from '@/core/data/dataset'

/**
 * Columns from the property objects of features: keys in order of first appearance; nested values are left
 * out.
 */
export function fieldsFromProperties(rows: (Record<string, unknown> | null | undefined)[]): Field[] {
  const keys = new Set<string>()
  for (const row of rows) for (const key of Object.keys(row ?? {})) keys.add(key)
  return [...keys].flatMap((key) => {
    const values = rows.map((row) => row?.[key] ?? null)
    if (values.some((v) => typeof v === 'object' && v !== null)) return []
    return [{ key, column: columnOf(values) }]
  })
}

function columnOf(values: unknown[]): Column {
  const present = values.filter((v) => v !== null)
  if (present.length && present.every((v) => typeof v === 'number'))
    return numberColumn(values as (number | null)[])
  if (present.every((v) => typeof v === 'string')) return columnFromCells(values as (string | null)[])
  return textColumn(values.map((v) => (v === null ? null : String(v))))
}
