import { z } from 'zod'
import { areaOfPoints } from '@/core/geo/points-in-areas'
import { Aggregate, aggregateColumn, figureMeta } from '../aggregate'
import { fieldOf } from '../dataset'
import { proposeMeta, type FieldMeta } from '../field-meta'
import { keyFrom } from './derive'
import { freeKey, otherOf, StepProblem, type StepKind } from './step'

export const CountPointsSettings = z.object({
  datasetId: z.string(),
  label: z.string(),
  figures: z.array(Aggregate),
})
export type CountPointsSettings = z.infer<typeof CountPointsSettings>

/**
 * Counts the points of another dataset in each area, with sums or means of their fields on wish. A point on a
 * border counts once.
 */
export const countPoints: StepKind<CountPointsSettings> = {
  label: 'Count points',
  about: 'shapes',
  settings: CountPointsSettings,
  form: [
    { name: 'datasetId', label: 'Points', control: 'dataset', geometry: ['points'] },
    { name: 'label', label: 'Count called', control: 'text' },
    { name: 'figures', label: 'Figures', control: 'aggregates', of: 'datasetId' },
  ],
  accepts: ({ dataset }) => dataset.geometry.kind === 'areas',
  initial: (_, others) => ({
    datasetId: others.find((o) => o.dataset.geometry.kind === 'points')?.datasetId ?? '',
    label: 'Points',
    figures: [],
  }),
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId }, name) => `${name(datasetId)} in each area`,
  apply({ datasetId, label, figures }, from, others) {
    const other = otherOf(others, datasetId)
    const { geometry } = from.dataset
    if (geometry.kind !== 'areas' || other.dataset.geometry.kind !== 'points')
      throw new StepProblem('It takes areas here and points in the other dataset.')
    const groups = areaOfPoints(geometry, other.dataset.geometry)
    const fields = [...from.dataset.fields]
    const origins = new Map(from.origins)
    const made = new Map(from.made)
    const add = (wanted: string, figure: Aggregate, meta: FieldMeta) => {
      const key = freeKey(fields, wanted)
      fields.push({ key, column: aggregateColumn(other.dataset, groups, from.dataset.rowCount, figure) })
      origins.set(key, { datasetId: from.datasetId, key })
      made.set(key, meta)
    }
    add(keyFrom(label), { field: '', op: 'count', weight: null }, { label, unit: '', role: 'total' })
    for (const figure of figures) {
      const column = fieldOf(other.dataset, figure.field)
      const meta = column
        ? (other.made.get(figure.field) ?? proposeMeta(figure.field, column))
        : { label: figure.field, unit: '', role: 'total' as const }
      add(`${figure.field}_${figure.op.replace(' ', '_')}`, figure, figureMeta(meta, figure.op))
    }
    return { ...from, dataset: { ...from.dataset, fields }, origins, made }
  },
}
