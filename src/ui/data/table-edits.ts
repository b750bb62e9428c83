'use client'
import { nanoid } from 'nanoid'
import type { DatasetEntry } from '@/core/data/entry'
import type { Prepared } from '@/core/data/prepare'
import { rowMark, telling, type CorrectSettings } from '@/core/data/steps/correct'
import type { PrepStep } from '@/core/data/steps/registry'
import type { TableLayout } from '@/core/data/table-layout'
import { editFolio } from '../shell/folio-store'

function editEntry(id: string, name: string, recipe: (entry: DatasetEntry) => void, merge?: string): void {
  editFolio(
    name,
    (draft) => {
      const entry = draft.datasets.find((d) => d.id === id)
      if (entry) recipe(entry as DatasetEntry)
    },
    merge,
  )
}

export const editLayout = (
  entry: DatasetEntry,
  name: string,
  change: Partial<TableLayout>,
  merge?: string,
): void => editEntry(entry.id, name, (e) => void Object.assign(e.table, change), merge)

/** Sets a cell by hand: in the last step where that is a correction, else in a new one behind the others. */
export function correctCell(
  { entry, dataset, fieldMeta }: Prepared,
  row: number,
  field: string,
  value: string | null,
): void {
  editEntry(entry.id, `Set ${fieldMeta(field).label} by hand`, ({ steps }) => {
    const last = steps.at(-1)
    const step: Extract<PrepStep, { type: 'correct' }> =
      last?.type === 'correct' && last.on
        ? last
        : {
            type: 'correct',
            id: nanoid(8),
            on: true,
            settings: { key: telling(dataset, fieldMeta), edits: [] },
          }
    if (step !== last) steps.push(step)
    const mark = rowMark(dataset, step.settings.key, row)
    step.settings.edits = [
      ...step.settings.edits.filter((edit) => edit.row !== mark || edit.field !== field),
      { row: mark, field, value },
    ]
  })
}

/** Steps that neither move nor drop rows, so that the cells set before them are still to be found. */
const rowsStay = ['correct', 'join', 'derive', 'count-points']

/** Tells which cells were set by hand. */
export function byHand({ entry, dataset }: Prepared): (row: number, field: string) => boolean {
  const steps = entry.steps.filter((step) => step.on)
  const from = steps.findLastIndex((step) => !rowsStay.includes(step.type)) + 1
  const marked: { settings: CorrectSettings; cells: Set<string> }[] = steps.flatMap((step, i) =>
    step.type === 'correct' && (i >= from || step.settings.key)
      ? [
          {
            settings: step.settings,
            cells: new Set(step.settings.edits.map((edit) => `${edit.field} ${edit.row}`)),
          },
        ]
      : [],
  )
  return (row, field) =>
    marked.some(({ settings, cells }) => cells.has(`${field} ${rowMark(dataset, settings.key, row)}`))
}
