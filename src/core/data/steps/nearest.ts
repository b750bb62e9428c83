import { z } from 'zod'
import { nearestFeatures } from '@/core/geo/nearest'
import { insidePoints } from '@/core/geo/reshape'
import { takeRows } from '../column'
import { fieldOf } from '../dataset'
import { freeKey, metaIn, otherOf, StepProblem, type Preparing, type StepKind } from './step'

const NearestSettings = z.object({
  datasetId: z.string(),
  /** The field of the other dataset that says which one is nearest. */
  name: z.string(),
  /** Where areas are measured from. */
  measure: z.enum(['inside', 'border']),
})

/**
 * Distance along the ground to the nearest feature of another dataset, in kilometres, and its name: 0 where one lies
 * in the other or touches it.
 */
export const nearest: StepKind<z.infer<typeof NearestSettings>> = {
  label: 'Nearest',
  about: 'shapes',
  settings: NearestSettings,
  form: [
    { name: 'datasetId', label: 'Of', control: 'dataset', geometry: ['points', 'lines', 'areas'] },
    { name: 'name', label: 'Named by', control: 'field', kind: 'any', of: 'datasetId' },
    {
      name: 'measure',
      label: 'Measured from',
      control: 'choice',
      options: [
        { value: 'inside', label: 'a point inside' },
        { value: 'border', label: 'the border' },
      ],
    },
  ],
  accepts: ({ dataset }) => dataset.geometry.kind !== 'none',
  initial(_, others) {
    const shapes = others.filter(({ dataset }) => dataset.geometry.kind !== 'none' && !dataset.raster)
    const other = shapes.find(({ dataset }) => dataset.geometry.kind === 'points') ?? shapes[0]
    return { datasetId: other?.datasetId ?? '', name: other ? nameField(other) : '', measure: 'inside' }
  },
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId }, name) => `distance to ${name(datasetId)}`,
  apply({ datasetId, name, measure }, from, others, { tell, remark }) {
    const other = otherOf(others, datasetId)
    const { geometry } = from.dataset
    const to = other.dataset.geometry
    if (geometry.kind === 'none' || to.kind === 'none')
      throw new StepProblem('Both datasets must have shapes.')
    const { features, metres } = nearestFeatures(
      geometry.kind === 'areas' && measure === 'inside' ? insidePoints(geometry) : geometry,
      to,
      tell,
    )
    const fields = [...from.dataset.fields]
    const origins = new Map(from.origins)
    const made = new Map(from.made)
    const distance = freeKey(fields, 'distance_km')
    fields.push({
      key: distance,
      column: { kind: 'number', values: metres.map((m) => Math.round(m) / 1000) },
    })
    origins.set(distance, { datasetId: from.datasetId, key: distance })
    made.set(distance, { label: 'Distance to the nearest', unit: 'km', role: 'index' })
    const named = fieldOf(other.dataset, name)
    if (named) {
      const key = freeKey(fields, 'nearest')
      fields.push({ key, column: takeRows(named, features) })
      origins.set(key, { datasetId: from.datasetId, key })
      made.set(key, { label: 'Nearest', unit: '', role: metaIn(other, name).role })
    }
    const without = features.reduce((n, f) => n + (f < 0 ? 1 : 0), 0)
    if (without)
      remark(
        `${without.toLocaleString('en-GB')} ${without === 1 ? 'row has' : 'rows have'} no distance: nothing to measure between.`,
      )
    return { ...from, dataset: { ...from.dataset, fields }, origins, made }
  },
}

/** The field that names the rows of a dataset, as far as can be told. */
const nameField = (from: Preparing): string => {
  const { fields } = from.dataset
  const roleOf = ({ key }: { key: string }) => metaIn(from, key).role
  return (
    (
      fields.find((field) => roleOf(field) === 'name') ??
      fields.find((field) => roleOf(field) === 'code') ??
      fields[0]
    )?.key ?? ''
  )
}
