import { z } from 'zod'
import { LonLat } from '@/core/scene/bounded'
import { areaOfPoints } from '@/core/geo/points-in-areas'
import { insidePoints } from '@/core/geo/reshape'
import type { Geometry } from '@/core/geo/geometry'
import { geometryFromShapes } from '@/core/geo/shapes'
import { takeFeatures } from '@/core/geo/take-features'
import { isMissing, numbersOf, takeRows, textAt, type Column } from '../column'
import { fieldOf, type Dataset } from '../dataset'
import { FormulaError, formulaColumn } from '../formula'
import { otherOf, StepProblem, type StepKind } from './step'

export const conditionTests = [
  'is',
  'is not',
  'is at least',
  'is under',
  'lies between',
  'is one of',
  'contains',
  'begins with',
  'is missing',
  'is there',
] as const

/** `value` and `upTo` are as typed; a list has its values apart by commas. */
export const Condition = z.object({
  field: z.string(),
  test: z.enum(conditionTests),
  value: z.string(),
  upTo: z.string(),
})
export type Condition = z.infer<typeof Condition>

export const FilterSettings = z.object({
  by: z.enum(['conditions', 'formula', 'areas', 'drawn']),
  match: z.enum(['all', 'any', 'none']),
  conditions: z.array(Condition),
  formula: z.string(),
  datasetId: z.string(),
  /** An area drawn by hand: its corners as longitude and latitude, the first one not repeated. */
  ring: z.array(LonLat).default([]),
})
export type FilterSettings = z.infer<typeof FilterSettings>

function holds(column: Column, row: number, { test, value, upTo }: Condition): boolean {
  const missing = isMissing(column, row)
  if (test === 'is missing') return missing
  if (test === 'is there') return !missing
  if (missing) return test === 'is not'
  if (column.kind === 'number') {
    const n = column.values[row]
    const [a, b] = [Number(value), Number(upTo)]
    switch (test) {
      case 'is':
        return n === a
      case 'is not':
        return n !== a
      case 'is at least':
        return n >= a
      case 'is under':
        return n < a
      case 'lies between':
        return n >= a && n <= b
      case 'is one of':
        return value.split(',').some((v) => v.trim() !== '' && Number(v) === n)
      default:
        return String(n)[test === 'contains' ? 'includes' : 'startsWith'](value.trim())
    }
  }
  const text = (textAt(column, row) ?? '').toLowerCase()
  const wanted = value.trim().toLowerCase()
  switch (test) {
    case 'is':
      return text === wanted
    case 'is not':
      return text !== wanted
    case 'is at least':
      return text >= wanted
    case 'is under':
      return text < wanted
    case 'lies between':
      return text >= wanted && text <= upTo.trim().toLowerCase()
    case 'is one of':
      return wanted.split(',').some((v) => v.trim() === text)
    default:
      return text[test === 'contains' ? 'includes' : 'startsWith'](wanted)
  }
}

function byConditions({ conditions, match }: FilterSettings, dataset: Dataset): (row: number) => boolean {
  const parts = conditions.map((condition) => {
    const column = fieldOf(dataset, condition.field)
    if (!column) throw new StepProblem(`The field “${condition.field}” is gone. Choose another one.`)
    const numeric =
      column.kind === 'number' &&
      ['is', 'is not', 'is at least', 'is under', 'lies between'].includes(condition.test)
    const typed = condition.test === 'lies between' ? [condition.value, condition.upTo] : [condition.value]
    for (const v of numeric ? typed : [])
      if (v.trim() === '' || Number.isNaN(Number(v))) throw new StepProblem(`‘${v}’ is not a number.`)
    return (row: number) => holds(column, row, condition)
  })
  if (match === 'any') return (row) => parts.some((part) => part(row))
  return (row) => (match === 'all' ? parts.every((part) => part(row)) : !parts.some((part) => part(row)))
}

/** The rows of a dataset that are kept, with their shapes. */
export function keepRows(dataset: Dataset, rows: Int32Array): Dataset {
  return {
    rowCount: rows.length,
    fields: dataset.fields.map(({ key, column }) => ({ key, column: takeRows(column, rows) })),
    geometry: takeFeatures(dataset.geometry, rows),
  }
}

/**
 * Keeps the rows for which conditions hold, a formula is true, or whose place lies in the areas of another
 * dataset or in one drawn by hand.
 */
export const filter: StepKind<FilterSettings> = {
  label: 'Filter',
  about: 'rows',
  settings: FilterSettings,
  form: [
    {
      name: 'by',
      label: 'Keep rows by',
      control: 'choice',
      options: [
        { value: 'conditions', label: 'conditions' },
        { value: 'formula', label: 'a formula' },
        { value: 'areas', label: 'areas they lie in' },
        { value: 'drawn', label: 'an area that I draw' },
      ],
    },
    {
      name: 'match',
      label: 'Holding',
      control: 'choice',
      options: [
        { value: 'all', label: 'all of them' },
        { value: 'any', label: 'any of them' },
        { value: 'none', label: 'none of them' },
      ],
      when: { name: 'by', is: ['conditions'] },
    },
    {
      name: 'conditions',
      label: 'Conditions',
      control: 'conditions',
      when: { name: 'by', is: ['conditions'] },
    },
    { name: 'formula', label: 'Formula', control: 'formula', when: { name: 'by', is: ['formula'] } },
    { name: 'ring', label: 'Area', control: 'drawn', when: { name: 'by', is: ['drawn'] } },
    {
      name: 'datasetId',
      label: 'Areas',
      control: 'dataset',
      geometry: ['areas'],
      when: { name: 'by', is: ['areas'] },
    },
  ],
  accepts: () => true,
  initial: (_, others) => ({
    by: 'conditions',
    match: 'all',
    conditions: [],
    formula: '',
    datasetId: others.find((o) => o.dataset.geometry.kind === 'areas')?.datasetId ?? '',
    ring: [],
  }),
  needs: ({ by, datasetId }) => (by === 'areas' ? [datasetId] : []),
  words({ by, conditions, formula, datasetId }, name) {
    if (by === 'formula') return formula || 'nothing yet'
    if (by === 'drawn') return 'in an area drawn by hand'
    if (by === 'areas') return `in ${name(datasetId)}`
    return (
      conditions
        .map(({ field, test, value, upTo }) =>
          `${name('', field)} ${test} ${test.endsWith('missing') || test === 'is there' ? '' : value}${test === 'lies between' ? ` and ${upTo}` : ''}`.trim(),
        )
        .join(', ') || 'nothing yet'
    )
  },
  apply(settings, from, others) {
    const { dataset } = from
    const keep = {
      conditions: () => byConditions(settings, dataset),
      formula: () => byFormula(settings.formula, dataset),
      areas: () => inAreas(dataset, otherOf(others, settings.datasetId).dataset.geometry),
      drawn: () =>
        settings.ring.length > 2
          ? inAreas(
              dataset,
              geometryFromShapes([{ type: 'Polygon', coordinates: [[...settings.ring, settings.ring[0]]] }]),
            )
          : () => true,
    }[settings.by]()
    const rows = Int32Array.from(Array.from({ length: dataset.rowCount }, (_, i) => i).filter(keep))
    return { ...from, dataset: keepRows(dataset, rows) }
  },
}

function byFormula(formula: string, dataset: Dataset): (row: number) => boolean {
  if (!formula.trim()) return () => true
  try {
    const values = numbersOf(formulaColumn(formula, dataset))
    return (row) => values[row] !== 0 && !Number.isNaN(values[row])
  } catch (error) {
    throw error instanceof FormulaError ? new StepProblem(error.message) : error
  }
}

function inAreas(dataset: Dataset, areas: Geometry): (row: number) => boolean {
  const { geometry } = dataset
  if (areas.kind !== 'areas') throw new StepProblem('The other dataset has no areas.')
  if (geometry.kind === 'none' || geometry.kind === 'lines')
    throw new StepProblem('Only areas and points can be kept by the areas that they lie in.')
  const places = areaOfPoints(areas, geometry.kind === 'points' ? geometry : insidePoints(geometry))
  return (row) => places[row] >= 0
}
