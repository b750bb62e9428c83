import { textAt, type Column } from './column'
import type { Dataset } from './dataset'
import type { FieldMeta } from './field-meta'

/** Rows with what is known of their fields. */
type Rows = { dataset: Dataset; fieldMeta: (key: string) => FieldMeta }

const namingColumns = ({ dataset, fieldMeta }: Rows): Column[] =>
  (['name', 'code'] as const).flatMap(
    (role) => dataset.fields.find((field) => fieldMeta(field.key).role === role)?.column ?? [],
  )

const nameColumns = new WeakMap<Rows, Column[]>()

/** A name for each row: its name field, else its code, else its number. */
export function rowName(rows: Rows, row: number): string {
  const columns = nameColumns.get(rows) ?? namingColumns(rows)
  nameColumns.set(rows, columns)
  return named(columns, row)
}

function named(columns: Column[], row: number): string {
  for (const column of columns) {
    const text = textAt(column, row)
    if (text) return text
  }
  return `${row + 1}`
}

const keysOf = new WeakMap<Dataset, { columns: Column[]; keys: string[] }>()

/**
 * A key for each row that stays with it when rows come or go: its name or code, numbered where several rows
 * share one.
 */
export function rowKeys(rows: Rows): string[] {
  const columns = namingColumns(rows)
  const known = keysOf.get(rows.dataset)
  // Another field may have come to be the name meanwhile.
  if (known && known.columns.length === columns.length && columns.every((c, i) => c === known.columns[i]))
    return known.keys
  const used = new Map<string, number>()
  const keys = Array.from({ length: rows.dataset.rowCount }, (_, row) => {
    const name = named(columns, row)
    const times = (used.get(name) ?? 0) + 1
    used.set(name, times)
    return times > 1 ? `${name} (${times})` : name
  })
  keysOf.set(rows.dataset, { columns, keys })
  return keys
}
