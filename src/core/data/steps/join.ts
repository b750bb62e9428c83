import { z } from 'zod'
import { sortedKeys } from '../sorted-record'
import { fieldOf } from '../dataset'
import { matchKeys, type Match } from '../join'
import { takeRows } from '../column'
import type { Others, Preparing } from './step'

/** Adds the fields of another dataset to the rows whose keys are equal. */
export const JoinStep = z.object({
  type: z.literal('join'),
  id: z.string(),
  on: z.boolean(),
  datasetId: z.string(),
  key: z.string(),
  otherKey: z.string(),
  /** Keys of this dataset that were matched by hand with keys of the other. */
  mended: z.record(z.string(), z.string()).overwrite(sortedKeys),
})
export type JoinStep = z.infer<typeof JoinStep>

/** The match report of a join, or null when a dataset or field it names is gone. */
export function joinMatch(step: JoinStep, from: Preparing, others: Others): Match | null {
  const other = others(step.datasetId)
  const keys = fieldOf(from.dataset, step.key)
  const otherKeys = other && fieldOf(other.dataset, step.otherKey)
  return keys && otherKeys ? matchKeys(keys, otherKeys, step.mended) : null
}

/** A field whose name is taken gets the next free number behind it. */
export function applyJoin(step: JoinStep, from: Preparing, others: Others): Preparing {
  const match = joinMatch(step, from, others)
  const other = others(step.datasetId)
  if (!match || !other) return from
  const origins = new Map(from.origins)
  const fields = [...from.dataset.fields]
  for (const field of other.dataset.fields) {
    if (field.key === step.otherKey) continue
    let key = field.key
    for (let n = 2; fields.some((f) => f.key === key); n++) key = `${field.key}_${n}`
    fields.push({ key, column: takeRows(field.column, match.rows) })
    origins.set(key, other.origins.get(field.key) ?? { datasetId: step.datasetId, key: field.key })
  }
  return { dataset: { ...from.dataset, fields }, origins }
}
