import { z } from 'zod'
import { classify as classesOf, classIndex, computedIds, methods } from '@/core/classify/classify'
import { classLabels, decimalsFor, formatNumber } from '@/core/classify/labels'
import { methodOf } from '@/core/classify/methods'
import { maxClasses, minClasses } from '@/core/classify/spec'
import { groundAreas } from '@/core/geo/measure'
import { neighbourPairs } from '@/core/geo/neighbours'
import { numbersOf, textColumn, type Column } from '../column'
import { fieldOf } from '../dataset'
import { keyFrom } from './derive'
import { freeKey, StepProblem, type StepKind } from './step'

const ClassifySettings = z.object({
  field: z.string(),
  method: z.enum(computedIds as [(typeof computedIds)[number], ...typeof computedIds]),
  classes: z.number().int().min(minClasses).max(maxClasses),
  rounded: z.boolean(),
  /** What stands in the new field: the range of the class in words, or its number from 1, the lowest. */
  written: z.enum(['ranges', 'numbers']),
  label: z.string(),
})
type ClassifySettings = z.infer<typeof ClassifySettings>

/**
 * The class of each row as a field: by the methods of the class bench, as words or as a number. What is missing
 * belongs to no class.
 */
export const classify: StepKind<ClassifySettings> = {
  label: 'Classify into a field',
  about: 'fields',
  settings: ClassifySettings,
  form: [
    { name: 'field', label: 'Field', control: 'field', kind: 'number' },
    {
      name: 'method',
      label: 'Classes by',
      control: 'choice',
      options: computedIds.map((value) => ({ value, label: methods[value].label })),
    },
    {
      name: 'classes',
      label: 'Into',
      control: 'number',
      unit: 'classes',
      min: minClasses,
      max: maxClasses,
      step: 1,
    },
    { name: 'rounded', label: 'Round breaks', control: 'check' },
    {
      name: 'written',
      label: 'Written as',
      control: 'choice',
      options: [
        { value: 'ranges', label: 'ranges in words' },
        { value: 'numbers', label: 'numbers, 1 the lowest' },
      ],
    },
    { name: 'label', label: 'Called', control: 'text' },
  ],
  accepts: ({ dataset }) => dataset.fields.some(({ column }) => column.kind === 'number'),
  initial: ({ dataset }) => ({
    field: dataset.fields.find(({ column }) => column.kind === 'number')?.key ?? '',
    method: 'natural-breaks',
    classes: 5,
    rounded: true,
    written: 'ranges',
    label: 'Class',
  }),
  needs: () => [],
  words: ({ field, classes, method }, name) =>
    `${name('', field)} in ${classes} classes by ${methods[method].label}`,
  apply({ field, method, classes, rounded, written, label }, from, _, { remark, note }) {
    const { dataset } = from
    const { geometry } = dataset
    const column = fieldOf(dataset, field)
    if (!column) throw new StepProblem(`The field “${field}” is gone. Choose another one.`)
    const needsAreas = methodOf(method).needs === 'areas'
    if (needsAreas && geometry.kind !== 'areas')
      throw new StepProblem(`Only areas can be put into classes by ${methods[method].label}.`)
    const values = numbersOf(column)
    const found = classesOf(
      values,
      { method, classes, rounded },
      needsAreas ? { sizes: groundAreas(geometry), neighbours: neighbourPairs(geometry) } : undefined,
    )
    if (!found) throw new StepProblem('The field has no numbers to put into classes.')
    const { breaks, counts, missing, inclusive, roundingMoved } = found
    const decimals = decimalsFor(breaks)
    const words = classLabels(breaks, decimals)
    const at = Array.from(values, (value) => classIndex(breaks, value, inclusive))
    const made: Column =
      written === 'ranges'
        ? textColumn(at.map((i) => (i < 0 ? null : words[i])))
        : { kind: 'number', type: 'integer', values: Float64Array.from(at, (i) => (i < 0 ? NaN : i + 1)) }
    const inner = breaks.slice(1, -1).map((b) => formatNumber(b, decimals))
    const empty = counts.filter((count) => !count).length
    if (inner.length) note(`Breaks at ${inner.join(', ')}.`)
    const doubts = [
      inner.length ? '' : 'All values are equal: there is one class.',
      inner.length && counts.length < classes ? `There are no more than ${counts.length} classes.` : '',
      empty ? `${empty} of them ${empty === 1 ? 'is' : 'are'} empty.` : '',
      roundingMoved ? `Rounding moved ${roundingMoved.toLocaleString('en-GB')} of the values.` : '',
      missing ? `${missing.toLocaleString('en-GB')} missing, in no class.` : '',
    ].filter(Boolean)
    if (doubts.length) remark(doubts.join(' '))
    const key = freeKey(dataset.fields, keyFrom(label))
    return {
      ...from,
      dataset: { ...dataset, fields: [...dataset.fields, { key, column: made }] },
      origins: new Map(from.origins).set(key, { datasetId: from.datasetId, key }),
      made: new Map(from.made).set(key, { label: label || 'Class', unit: '', role: 'category' }),
    }
  },
}
