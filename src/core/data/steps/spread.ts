import { z } from 'zod'
import { takeFeatures } from '@/core/geo/take-features'
import { columnFromCells, exactText, textAt, textColumn, takeRows, type Column } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import { proposeMeta, type FieldMeta } from '../field-meta'
import { freeKey, StepProblem, type Preparing, type StepKind } from './step'

const none: readonly string[] = []

const LongToWideSettings = z.object({
  /** Fields that say which rows belong together; one row is left for each of their values. */
  keys: z.array(z.string()),
  /** Fields whose values name the new fields, the first one in front. */
  names: z.array(z.string()),
  /** The field whose values go into them. */
  values: z.string(),
})
type LongToWideSettings = z.infer<typeof LongToWideSettings>

const mostFields = 400

/**
 * Long to wide: rows of one key become one row, with a field for each name that stands in them. Where a key has two
 * values of one name the first is kept, and it is said how many were not.
 */
export const longToWide: StepKind<LongToWideSettings> = {
  label: 'Long to wide',
  about: 'rows',
  settings: LongToWideSettings,
  form: [
    { name: 'keys', label: 'A row for each', control: 'fields', kind: 'any' },
    { name: 'names', label: 'Fields named by', control: 'fields', kind: 'any' },
    { name: 'values', label: 'Filled from', control: 'field', kind: 'any' },
  ],
  accepts: ({ dataset }) => dataset.fields.length > 2,
  initial: (from) => longForm(from) ?? { keys: [], names: [], values: '' },
  needs: () => [],
  words: ({ names }, name) => `a field for each ${names.map((key) => name('', key)).join(' and ') || 'name'}`,
  apply(settings, from, _, { remark }) {
    const { dataset } = from
    const columns = (keys: string[]) => keys.map((key) => columnOf(dataset, key))
    const [keys, names, values] = [
      columns(settings.keys),
      columns(settings.names),
      columnOf(dataset, settings.values),
    ]
    if (!keys.length || !names.length)
      throw new StepProblem('Choose what a row is for, and what names the fields.')
    const unit = dataset.fields.find(({ key }) =>
      /^units?([ _]of[ _]measure|[ _]?measure)?$/i.test(key),
    )?.column
    /** The unit of each name; empty where rows of it have different ones. */
    const units = new Map<string, string>()
    const rowOf = new Map<string, number>()
    const firstRows: number[] = []
    const fieldOfName = new Map<string, (string | null)[]>()
    let [twice, unnamed] = [0, 0]
    for (let row = 0; row < dataset.rowCount; row++) {
      const key = keys.map((column) => textAt(column, row) ?? '').join('\u0000')
      let at = rowOf.get(key)
      if (at === undefined) {
        at = firstRows.push(row) - 1
        rowOf.set(key, at)
      }
      const parts = names.map((column) => textAt(column, row))
      if (parts.includes(null)) {
        unnamed++
        continue
      }
      const name = parts.join(' ')
      let cells = fieldOfName.get(name)
      if (!cells) {
        if (fieldOfName.size >= mostFields)
          throw new StepProblem(
            `That would make more than ${mostFields} fields. Choose fields with fewer different values for their names.`,
          )
        fieldOfName.set(name, (cells = []))
      }
      if (unit) {
        const own = textAt(unit, row) ?? ''
        units.set(name, units.has(name) && units.get(name) !== own ? '' : own)
      }
      const value = textAt(values, row)
      if (cells[at] !== undefined && cells[at] !== null) twice += value === null ? 0 : 1
      else cells[at] = value
    }
    if (twice)
      remark(
        `${twice.toLocaleString('en-GB')} ${twice === 1 ? 'value has' : 'values have'} the same key and name as one before and ${twice === 1 ? 'was' : 'were'} left out.`,
      )
    if (unnamed) remark(`${unnamed.toLocaleString('en-GB')} rows name no field and were left out.`)
    const first = Int32Array.from(firstRows)
    const fields = settings.keys.map((key, i) => ({ key, column: takeRows(keys[i], first) }))
    const origins = new Map([...from.origins].filter(([key]) => settings.keys.includes(key)))
    const made = new Map<string, FieldMeta>([...from.made].filter(([key]) => settings.keys.includes(key)))
    const { geometry } = dataset
    for (const [name, cells] of [...fieldOfName].sort(([a], [b]) => collator.compare(a, b))) {
      const key = freeKey(fields, name)
      const full = Array.from(first, (_, at) => cells[at] ?? null)
      const column = values.kind === 'number' ? asBefore(values, full) : columnFromCells(full)
      fields.push({ key, column })
      made.set(key, metaOf(name, column, units.get(name)))
    }
    return {
      ...from,
      dataset: {
        rowCount: first.length,
        fields,
        geometry: geometry.kind === 'none' ? geometry : takeFeatures(geometry, first),
      },
      origins,
      made,
    }
  },
}

/** What a new field is: what its unit says comes before what its name may mean. */
function metaOf(name: string, column: Column, unit: string | undefined): FieldMeta {
  const proposed = { ...proposeMeta(name, column), label: name }
  if (!unit || column.kind !== 'number') return proposed
  if (/^%|percent|per cent/i.test(unit))
    return { ...proposed, unit: '%', role: 'share', ...(unit.length > 1 && { note: unit }) }
  return { ...proposed, unit, role: /\bper\b/i.test(unit) ? 'rate' : proposed.role }
}

const collator = new Intl.Collator('en', { numeric: true })

const columnOf = (dataset: Dataset, key: string): Column => {
  const column = fieldOf(dataset, key)
  if (!column) throw new StepProblem(`There is no field “${key}” to work with.`)
  return column
}

/** Numbers that were taken as words, as numbers again. */
const asBefore = (before: Column, words: (string | null)[]): Column => ({
  kind: 'number',
  values: Float64Array.from(words, (word) => (word === null ? NaN : Number(word))),
  ...(before.type && { type: before.type }),
})

/**
 * What a table in long form is made of: a name or code that stands in many rows, a field of few different values
 * (what is told) and perhaps one of years, and the field with the values. Null where it does not look like one.
 */
export function longForm({ dataset, made }: Pick<Preparing, 'dataset' | 'made'>): LongToWideSettings | null {
  const { rowCount, fields } = dataset
  if (rowCount < 8) return null
  const looked = fields.map(({ key, column }) => ({
    key,
    column,
    different: differentIn(column, rowCount),
    role: (made.get(key) ?? proposeMeta(key, column)).role,
  }))
  const constant = looked.filter(({ different }) => different <= 1).map(({ key }) => key)
  const rest = looked.filter(({ key }) => !constant.includes(key))
  const values = rest.filter(
    ({ column, role }) => column.kind === 'number' && role !== 'date' && role !== 'code',
  )
  // Of several the one that is called so, else the last.
  const value = values.find(({ key }) => /^(obs_?)?value$/i.test(key)) ?? values[values.length - 1]
  if (!value) return null
  const years = rest.find(
    ({ key, column, different }) =>
      key !== value.key &&
      different < rowCount / 2 &&
      (/^(year|time|period|time_period|date)$/i.test(key) || isYears(column, rowCount)),
  )
  const texts = rest.filter(({ column, key }) => column.kind === 'text' && key !== years?.key)
  const subject = [...texts]
    .sort((a, b) => b.different - a.different)
    .find(({ different }) => different < rowCount)
  if (!subject) return null
  // What goes with the subject, such as its code, makes no more rows; what is told has few different values.
  const telling = texts.filter(
    ({ key, column, different }) =>
      key !== subject.key &&
      !/flag|status|note|comment|unit|obs_|conf_|decimals|mult/i.test(key) &&
      different > 1 &&
      different <= 60 &&
      !follows(column, subject.column, rowCount),
  )
  // A unit that follows from what is told says nothing more.
  const told = telling.filter(
    (one, i) =>
      !telling.some(
        (other, j) =>
          j !== i &&
          follows(one.column, other.column, rowCount) &&
          (j < i || !follows(other.column, one.column, rowCount)),
      ),
  )
  const names = [...told.map(({ key }) => key), ...(years ? [years.key] : none)]
  if (!names.length || subject.different * 1.5 > rowCount) return null
  return { keys: [subject.key], names, values: value.key }
}

function differentIn(column: Column, rowCount: number): number {
  const seen = new Set<string>()
  for (let row = 0; row < rowCount; row++) {
    const word = textAt(column, row)
    if (word !== null) seen.add(word)
  }
  return seen.size
}

function isYears(column: Column, rowCount: number): boolean {
  for (let row = 0; row < rowCount; row++)
    if (!/^(1[6-9]|20|21)\d\d$/.test(textAt(column, row) ?? '')) return false
  return true
}

/** Whether the value of one column is the same wherever that of another is. */
function follows(column: Column, from: Column, rowCount: number): boolean {
  const known = new Map<string, string | null>()
  for (let row = 0; row < rowCount; row++) {
    const [a, b] = [textAt(from, row) ?? '', textAt(column, row)]
    if (!known.has(a)) known.set(a, b)
    else if (known.get(a) !== b) return false
  }
  return true
}

const WideToLongSettings = z.object({
  fields: z.array(z.string()),
  name: z.string().min(1).max(60),
  value: z.string().min(1).max(60),
})

/** Wide to long: a row for each of some fields, with its name in one field and its value in another. */
export const wideToLong: StepKind<z.infer<typeof WideToLongSettings>> = {
  label: 'Wide to long',
  about: 'rows',
  settings: WideToLongSettings,
  form: [
    { name: 'fields', label: 'A row for each of', control: 'fields', kind: 'any', many: true },
    { name: 'name', label: 'Their names in', control: 'text' },
    { name: 'value', label: 'Their values in', control: 'text' },
  ],
  accepts: ({ dataset }) => dataset.fields.length > 1,
  initial: ({ dataset }) => ({
    fields: dataset.fields.filter(({ column }) => column.kind === 'number').map(({ key }) => key),
    name: 'name',
    value: 'value',
  }),
  needs: () => [],
  words: ({ fields }) => `a row for each of ${fields.length} fields`,
  apply({ fields: chosen, name, value }, from) {
    const { dataset } = from
    const taken = chosen.map((key) => ({ key, column: columnOf(dataset, key) }))
    if (!taken.length) throw new StepProblem('Choose the fields that become rows.')
    const count = dataset.rowCount * taken.length
    if (count > 5_000_000) throw new StepProblem(`That would be ${count.toLocaleString('en-GB')} rows.`)
    const rows = Int32Array.from({ length: count }, (_, i) => Math.floor(i / taken.length))
    const fields = dataset.fields
      .filter(({ key }) => !chosen.includes(key))
      .map(({ key, column }) => ({ key, column: takeRows(column, rows) }))
    const label = (key: string) => from.made.get(key)?.label ?? key
    const nameKey = freeKey(fields, name)
    fields.push({
      key: nameKey,
      column: textColumn(Array.from(rows, (_, i) => label(taken[i % taken.length].key))),
    })
    const numeric = taken.every(({ column }) => column.kind === 'number')
    const cells = Array.from(rows, (row, i) => textAt(taken[i % taken.length].column, row))
    const column: Column = numeric
      ? { kind: 'number', values: Float64Array.from(cells, (cell) => (cell === null ? NaN : Number(cell))) }
      : exactText(cells)
    fields.push({ key: freeKey(fields, value), column })
    const { geometry } = dataset
    return {
      ...from,
      dataset: {
        rowCount: count,
        fields,
        geometry: geometry.kind === 'none' ? geometry : takeFeatures(geometry, rows),
      },
      origins: new Map([...from.origins].filter(([key]) => !chosen.includes(key))),
      made: new Map([...from.made].filter(([key]) => !chosen.includes(key))),
    }
  },
}
