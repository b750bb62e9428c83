import { z } from 'zod'
import { neighbourPairs } from '@/core/geo/neighbours'
import { cellOf, exactText, isMissing, numbersOf, takeRows, textAt, textColumn, type Column } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import { seriesOf } from '../series'
import { keyFrom } from './derive'
import { freeKey, metaIn, StepProblem, type StepKind } from './step'

const CompleteSettings = z.object({
  field: z.string(),
  by: z.enum(['field', 'neighbours']),
  /** The field that missing values are taken from. */
  other: z.string(),
})
type CompleteSettings = z.infer<typeof CompleteSettings>

const asItCame = 'as it came'

/**
 * Fills what is missing in a field: from another field of the same row, or with the mean of the areas that share a
 * border. Only values that came with the data count as neighbours' values, not completed ones. A field of its own
 * says of each row how it came by its value.
 */
export const complete: StepKind<CompleteSettings> = {
  label: 'Complete',
  about: 'fields',
  settings: CompleteSettings,
  form: [
    { name: 'field', label: 'Missing in', control: 'field', kind: 'any' },
    {
      name: 'by',
      label: 'Filled with',
      control: 'choice',
      options: [
        { value: 'field', label: 'another field' },
        { value: 'neighbours', label: 'the mean of its neighbours' },
      ],
    },
    {
      name: 'other',
      label: 'Taken from',
      control: 'field',
      kind: 'any',
      when: { name: 'by', is: ['field'] },
    },
  ],
  accepts: ({ dataset }) => dataset.fields.length > 0,
  initial({ dataset }) {
    const gaps = (column: Column) => holes(column, dataset.rowCount).length
    const numeric = dataset.fields.filter(({ column }) => column.kind === 'number')
    const field = (numeric.find(({ column }) => gaps(column)) ?? numeric[0] ?? dataset.fields[0]).key
    const series = seriesOf(dataset.fields, field)?.years.map(({ key }) => key) ?? []
    const at = series.indexOf(field)
    const other = series[at - 1] ?? series[at + 1] ?? numeric.find(({ key }) => key !== field)?.key ?? ''
    return { field, by: dataset.geometry.kind === 'areas' ? 'neighbours' : 'field', other }
  },
  needs: () => [],
  words: ({ field, by, other }, name) =>
    `${name('', field)} from ${by === 'field' ? name('', other) : 'its neighbours'}`,
  apply({ field, by, other }, from, _, { remark, note }) {
    const { dataset } = from
    const column = fieldOf(dataset, field)
    if (!column) throw new StepProblem(`The field “${field}” is gone. Choose another one.`)
    const missing = holes(column, dataset.rowCount)
    const { filled, how } =
      by === 'field'
        ? fromField(column, missing, { dataset, other, label: metaIn(from, other).label })
        : fromNeighbours(column, missing, dataset)
    const left = missing.filter((row) => isMissing(filled, row)).length
    note(filledWords(missing.length, left))
    const doubts = doubtsOf(left, metaIn(from, field), by)
    if (doubts.length) remark(doubts.join(' '))
    const label = `${metaIn(from, field).label}: where from`
    const key = freeKey(dataset.fields, keyFrom(`${field} where from`))
    const marks = Array.from({ length: dataset.rowCount }, (_row, row) => {
      if (!isMissing(column, row)) return asItCame
      return isMissing(filled, row) ? null : how
    })
    return {
      ...from,
      dataset: {
        ...dataset,
        fields: [
          ...dataset.fields.map((one) => (one.key === field ? { key: field, column: filled } : one)),
          { key, column: textColumn(marks) },
        ],
      },
      origins: new Map(from.origins).set(key, { datasetId: from.datasetId, key }),
      made: new Map(from.made).set(key, { label, unit: '', role: 'category' }),
    }
  },
}

const holes = (column: Column, rowCount: number): number[] =>
  Array.from({ length: rowCount }, (_, row) => row).filter((row) => isMissing(column, row))

type Filled = { filled: Column; how: string }

function fromField(
  column: Column,
  missing: number[],
  { dataset, other, label }: { dataset: Dataset; other: string; label: string },
): Filled {
  const source = fieldOf(dataset, other)
  if (!source) throw new StepProblem('Choose the field that values are taken from.')
  if (column.kind === 'number' && source.kind !== 'number')
    throw new StepProblem(`“${label}” holds words; numbers cannot be completed from it.`)
  const how = `from ${label}`
  if (column.kind === 'number') {
    const values = column.values.slice()
    const others = numbersOf(source)
    for (const row of missing) values[row] = others[row]
    // Whole numbers completed with others are whole no longer.
    const whole = column.type === 'integer' && missing.every((row) => !(values[row] % 1))
    return { filled: { kind: 'number', values, ...(whole && { type: 'integer' as const }) }, how }
  }
  const cells = Array.from({ length: dataset.rowCount }, (_, row) => textAt(column, row))
  for (const row of missing) cells[row] = textAt(source, row)
  return { filled: exactText(cells, column.type === source.type ? column.type : undefined), how }
}

function fromNeighbours(column: Column, missing: number[], { geometry }: Dataset): Filled {
  if (geometry.kind !== 'areas')
    throw new StepProblem('Only areas have neighbours. Take values from another field.')
  if (column.kind !== 'number') throw new StepProblem('Words have no mean. Take them from another field.')
  const { a, b } = neighbourPairs(geometry)
  const sum = new Float64Array(column.values.length)
  const count = new Uint32Array(column.values.length)
  const add = (row: number, neighbour: number) => {
    const value = cellOf(column, neighbour)
    if (typeof value !== 'number') return
    sum[row] += value
    count[row]++
  }
  for (let pair = 0; pair < a.length; pair++) {
    add(a[pair], b[pair])
    add(b[pair], a[pair])
  }
  const values = takeRows(
    column,
    Int32Array.from(sum, (_, row) => row),
  ) as typeof column
  for (const row of missing) if (count[row]) values.values[row] = sum[row] / count[row]
  return { filled: { kind: 'number', values: values.values }, how: 'mean of its neighbours' }
}

const n = (count: number) => count.toLocaleString('en-GB')

function filledWords(missing: number, left: number): string {
  if (!missing) return 'Nothing is missing in this field.'
  return `${n(missing - left)} of ${n(missing)} missing ${missing === 1 ? 'value was' : 'values were'} filled in.`
}

function doubtsOf(left: number, { role }: { role: string }, by: CompleteSettings['by']): string[] {
  return [
    ...(left ? [`${n(left)} ${left === 1 ? 'is' : 'are'} still missing.`] : []),
    // A large area does not have as many residents as the small ones around it.
    ...(role === 'total' && by === 'neighbours'
      ? [
          'The field is a total, which depends on the size of areas: the mean of neighbours suits rates and shares.',
        ]
      : []),
  ]
}
