import { columnFromCells, exactText, numberColumn, type Column, type ValueType } from '@/core/data/column'
import type { Field } from '@/core/data/dataset'
import { ImportError } from './import-error'
import { limits } from './limits'

/** Fields, and sentences on what they could not be taken as. */
export type ReadFields = { fields: Field[]; remarks: string[] }

/**
 * Columns from the property objects of features: keys in order of first appearance. What a file says to be text
 * stays text, whatever it looks like; lists and objects become JSON.
 * @param types what the file says of its fields; others are found out from their values
 * @param loose the file knows text only, so that numbers are recognised as in a table
 */
export function fieldsFromProperties(
  rows: (Record<string, unknown> | null | undefined)[],
  {
    types = {},
    loose = false,
  }: { types?: Record<string, ValueType | 'real' | 'text'>; loose?: boolean } = {},
): ReadFields {
  const keys = new Set<string>(Object.keys(types))
  for (const row of rows) {
    for (const key of Object.keys(row ?? {})) keys.add(key)
    if (keys.size > limits.columns || keys.size * rows.length > limits.cells)
      throw new ImportError(`There are too many columns: ${keys.size.toLocaleString('en-GB')} and more.`)
  }
  const nested: string[] = []
  const mixed: string[] = []
  const fields = [...keys].map((key): Field => {
    const values = rows.map((row) => (row && Object.hasOwn(row, key) ? (row[key] ?? null) : null))
    if (loose && values.every((v) => v === null || typeof v === 'string'))
      return { key, column: columnFromCells(values as (string | null)[]) }
    const column = columnOf(values, types[key])
    if (column.type === 'json') nested.push(key)
    else if (column.kind === 'text' && values.some((v) => typeof v === 'number')) {
      if (values.some((v) => typeof v === 'string' && !/^-?\d+$/.test(v))) mixed.push(key)
    }
    return { key, column }
  })
  const list = (names: string[]) => names.map((name) => `“${name}”`).join(', ')
  const remarks = [
    ...(nested.length
      ? [
          `${list(nested)} ${nested.length === 1 ? 'holds' : 'hold'} lists or objects; they are kept as JSON text.`,
        ]
      : []),
    ...(mixed.length
      ? [
          `${list(mixed)} ${mixed.length === 1 ? 'holds' : 'hold'} numbers in some rows and text in others, and became text.`,
        ]
      : []),
  ]
  return { fields, remarks }
}

function columnOf(values: unknown[], said?: ValueType | 'real' | 'text'): Column {
  const present = values.filter((v) => v !== null)
  if (present.some((v) => typeof v === 'object'))
    return exactText(
      values.map((v) => (v === null || typeof v === 'string' ? v : jsonOf(v))),
      'json',
    )
  if (
    present.every((v) => typeof v === 'number') &&
    (present.length || said === 'integer' || said === 'real')
  )
    return wholeOrNot(values as (number | null)[], said)
  if (present.every((v) => typeof v === 'bigint' || (typeof v === 'number' && Number.isSafeInteger(v)))) {
    const exact = present.every((v) => Number.isSafeInteger(Number(v)))
    return exact && present.length
      ? { ...numberColumn(values.map((v) => (v === null ? null : Number(v)))), type: 'integer' }
      : exactText(
          values.map((v) => (v === null ? null : String(v))),
          present.length ? 'integer' : kindOfText(said),
        )
  }
  const all = (type: string) => present.length > 0 && present.every((v) => typeof v === type)
  const type = all('boolean') ? 'boolean' : kindOfText(said)
  return exactText(
    values.map((v) => (v === null ? null : String(v))),
    type,
  )
}

const jsonOf = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) => (typeof inner === 'bigint' ? String(inner) : inner))

const kindOfText = (said?: string): ValueType | undefined =>
  said === undefined || said === 'text' || said === 'real' || said === 'integer'
    ? undefined
    : (said as ValueType)

function wholeOrNot(values: (number | null)[], said?: string): Column {
  const whole = said ? said === 'integer' : values.every((v) => v === null || Number.isSafeInteger(v))
  return {
    ...numberColumn(values),
    ...(whole && values.some((v) => v !== null) && { type: 'integer' as const }),
  }
}
