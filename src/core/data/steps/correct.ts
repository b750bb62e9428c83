import { z } from 'zod'
import { columnFromCells, textAt, type Column } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import type { FieldMeta } from '../field-meta'
import type { StepKind } from './step'

/**
 * One cell set by hand. `row` is what the key field holds there, or the row's number counted from 1 where
 * there is no key.
 */
export const Correction = z.object({ row: z.string(), field: z.string(), value: z.string().nullable() })
export type Correction = z.infer<typeof Correction>

export const CorrectSettings = z.object({
  /** The field that tells the rows apart; empty: their number. */
  key: z.string(),
  edits: z.array(Correction),
})
export type CorrectSettings = z.infer<typeof CorrectSettings>

/**
 * The field that tells rows apart, so that corrections find their rows in a newer file too: codes first, then
 * names. Empty where none does.
 */
export function telling(dataset: Dataset, fieldMeta: (key: string) => FieldMeta): string {
  const different = (column: Column) =>
    new Set(Array.from({ length: dataset.rowCount }, (_, row) => textAt(column, row))).size ===
    dataset.rowCount
  for (const role of ['code', 'name'] as const)
    for (const { key, column } of dataset.fields)
      if (fieldMeta(key).role === role && different(column)) return key
  return ''
}

/** What a correction calls a row. */
export const rowMark = (dataset: Dataset, key: string, row: number): string => {
  const column = key ? fieldOf(dataset, key) : null
  return column ? (textAt(column, row) ?? '') : String(row + 1)
}

/** Cells set by hand, one by one. Where a number field gets words, it becomes text. */
export const correct: StepKind<CorrectSettings> = {
  label: 'Correct by hand',
  about: 'fields',
  settings: CorrectSettings,
  form: [{ name: 'edits', label: 'Cells', control: 'corrections' }],
  accepts: ({ dataset }) => dataset.fields.length > 0,
  initial: ({ dataset, made }) => ({
    key: telling(dataset, (key) => made.get(key) ?? { label: key, unit: '', role: 'total' }),
    edits: [],
  }),
  needs: () => [],
  words: ({ edits }) =>
    edits.length
      ? `${edits.length} ${edits.length === 1 ? 'cell' : 'cells'}`
      : 'double-click a cell of the table',
  apply({ key, edits }, from, _, { remark }) {
    const { dataset } = from
    const rows = new Map<string, number>()
    for (let row = dataset.rowCount - 1; row >= 0; row--) rows.set(rowMark(dataset, key, row), row)
    const lost = edits.filter((edit) => !rows.has(edit.row) || !fieldOf(dataset, edit.field))
    if (lost.length)
      remark(
        `${lost.length} of ${edits.length} no longer fit: ${lost
          .slice(0, 4)
          .map((edit) => `${edit.field} of ${edit.row}`)
          .join(', ')}${lost.length > 4 ? ' …' : ''}`,
      )
    const fields = dataset.fields.map((field) => {
      const own = edits.filter((edit) => edit.field === field.key && rows.has(edit.row))
      return own.length
        ? {
            key: field.key,
            column: corrected(
              field.column,
              own.map((edit) => [rows.get(edit.row) as number, edit.value]),
            ),
          }
        : field
    })
    return { ...from, dataset: { ...dataset, fields } }
  },
}

function corrected(column: Column, cells: [number, string | null][]): Column {
  if (column.kind === 'number' && cells.every(([, value]) => value === null || isNumber(value))) {
    const values = column.values.slice()
    for (const [row, value] of cells) values[row] = value === null ? NaN : Number(value)
    return { kind: 'number', values }
  }
  const texts = Array.from(
    { length: column.kind === 'number' ? column.values.length : column.codes.length },
    (_, row) => textAt(column, row),
  )
  for (const [row, value] of cells) texts[row] = value
  return columnFromCells(texts)
}

export const isNumber = (text: string): boolean => text.trim() !== '' && Number.isFinite(Number(text))
