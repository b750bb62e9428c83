import { z } from 'zod'
import { takeRows, textAt, textColumn, type Column } from '../column'
import { Aggregate, aggregateColumn } from '../aggregate'
import { fieldOf, type Dataset } from '../dataset'
import { looseMatches, matchKeys, proposeKeys, type Match } from '../join'
import { sortedKeys } from '@/core/registry/sorted-record'
import { freeKey, otherOf, StepProblem, type Others, type Preparing, type StepKind } from './step'

export const JoinSettings = z.object({
  datasetId: z.string(),
  /** Pairs of fields that must be equal. */
  keys: z.array(z.object({ key: z.string(), otherKey: z.string() })).min(1),
  /** Keys of this dataset that were matched by hand with keys of the other. */
  mended: z.record(z.string(), z.string()).overwrite(sortedKeys),
  /** Ways in which keys that differ count as the same. */
  accepts: z.array(z.enum(looseMatches)).max(looseMatches.length).default([]),
  /** Where several rows share a key: the first one, or figures of them all. */
  several: z.enum(['first', 'figures']),
  figures: z.array(Aggregate),
})
export type JoinSettings = z.infer<typeof JoinSettings>

/** Several key fields are compared as one, their values joined by a character that text does not hold. */
function keyColumn(dataset: Dataset, keys: string[]): Column | null {
  const columns = keys.map((key) => fieldOf(dataset, key))
  const [only] = columns
  if (columns.length === 1) return only
  if (columns.some((column) => column === null)) return null
  return textColumn(
    Array.from({ length: dataset.rowCount }, (_, row) => {
      const parts = columns.map((column) => column && textAt(column, row))
      return parts.includes(null) ? null : parts.join('\u001f')
    }),
  )
}

/** The match report of a join, or null when a dataset or field it names is gone. */
export function joinMatch(settings: JoinSettings, from: Preparing, others: Others): Match | null {
  const other = others(settings.datasetId)
  const keys = keyColumn(
    from.dataset,
    settings.keys.map((pair) => pair.key),
  )
  const otherKeys =
    other &&
    keyColumn(
      other.dataset,
      settings.keys.map((pair) => pair.otherKey),
    )
  return keys && otherKeys ? matchKeys(keys, otherKeys, settings.mended, settings.accepts) : null
}

/**
 * Adds the fields of another dataset to the rows whose keys are equal; a field whose name is taken gets a
 * number.
 */
export const join: StepKind<JoinSettings> = {
  label: 'Join',
  about: 'fields',
  settings: JoinSettings,
  form: [
    { name: 'datasetId', label: 'Table', control: 'dataset', geometry: 'any' },
    { name: 'keys', label: 'Keys', control: 'keys', of: 'datasetId' },
    {
      name: 'several',
      label: 'Rows sharing a key',
      control: 'choice',
      options: [
        { value: 'first', label: 'take the first' },
        { value: 'figures', label: 'take figures of all' },
      ],
    },
    {
      name: 'figures',
      label: 'Figures',
      control: 'aggregates',
      of: 'datasetId',
      when: { name: 'several', is: ['figures'] },
    },
  ],
  accepts: () => true,
  initial(from, others) {
    const ranked = [...others].sort(
      (a, b) => Number(a.dataset.geometry.kind !== 'none') - Number(b.dataset.geometry.kind !== 'none'),
    )
    const best = ranked
      .map((other) => ({ other, pair: proposeKeys(from.dataset.fields, other.dataset.fields) }))
      .find(({ pair }) => pair)
    const other = best?.other ?? ranked[0]
    return {
      datasetId: other?.datasetId ?? '',
      keys: [
        best?.pair ?? {
          key: from.dataset.fields[0]?.key ?? '',
          otherKey: other?.dataset.fields[0]?.key ?? '',
        },
      ],
      mended: {},
      accepts: [],
      several: 'first',
      figures: [],
    }
  },
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId, keys }, name) =>
    `${name(datasetId)} by ${keys.map(({ key }) => name('', key)).join(' and ')}`,
  apply(settings, from, others) {
    const other = otherOf(others, settings.datasetId)
    const match = joinMatch(settings, from, others)
    if (!match) throw new StepProblem('A key field is gone. Choose another one.')
    const origins = new Map(from.origins)
    const made = new Map([...from.made, ...other.made])
    const fields = [...from.dataset.fields]
    const add = (field: string, column: Column, meta: { label: string } | null) => {
      const key = freeKey(fields, field)
      fields.push({ key, column })
      origins.set(key, other.origins.get(field) ?? { datasetId: settings.datasetId, key: field })
      if (meta) origins.set(key, { datasetId: from.datasetId, key })
    }
    if (settings.several === 'first') {
      const own = new Set(settings.keys.map((pair) => pair.otherKey))
      for (const field of other.dataset.fields)
        if (!own.has(field.key)) add(field.key, takeRows(field.column, match.rows), null)
    } else {
      // Rows of the other table are grouped by the row of this one that they belong to.
      const back = joinMatch(
        {
          ...settings,
          keys: settings.keys.map(({ key, otherKey }) => ({ key: otherKey, otherKey: key })),
          mended: Object.fromEntries(Object.entries(settings.mended).map(([a, b]) => [b, a])),
        },
        other,
        () => from,
      )
      if (!back) throw new StepProblem('A key field is gone. Choose another one.')
      for (const figure of settings.figures)
        add(
          figure.op === 'sum' ? figure.field : `${figure.field}_${figure.op.replace(' ', '_')}`,
          aggregateColumn(other.dataset, back.rows, from.dataset.rowCount, figure),
          figure.op === 'sum' ? null : { label: '' },
        )
    }
    return { ...from, dataset: { ...from.dataset, fields }, origins, made }
  },
}
