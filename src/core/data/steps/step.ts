import type { ZodType } from 'zod'
import { fieldOf, type Dataset } from '../dataset'
import { proposeMeta, type FieldMeta } from '../field-meta'

/** Where a field of a prepared dataset comes from; its label and role are kept there. */
export type FieldOrigin = { datasetId: string; key: string }

/**
 * A dataset on its way through its steps. `made` describes fields that a step made, until somebody names them
 * otherwise.
 */
export type Preparing = {
  datasetId: string
  dataset: Dataset
  origins: Map<string, FieldOrigin>
  made: Map<string, FieldMeta>
  /** What its fields are called and measure, where a folio says so. */
  fieldMeta?: (key: string) => FieldMeta
}

/** The prepared dataset behind an id, for steps that draw on another dataset. */
export type Others = (datasetId: string) => Preparing | null

export type GeometryKind = Dataset['geometry']['kind']

/**
 * One row of a step's form, as plain data: which setting it changes, what it is called, what can be chosen.
 * `of` names the control whose dataset the fields are of; without it they are the step's own. `when` shows
 * the row only where another setting has a value.
 */
export type StepControl = { name: string; label: string; when?: { name: string; is: string[] } } &
  /** `none` is what it is called where no dataset need be chosen. */
  (
    | { control: 'dataset'; geometry: GeometryKind[] | 'any' | 'raster'; none?: string }
    | { control: 'field'; kind: 'number' | 'text' | 'any'; of?: string; optional?: boolean }
    /** Some fields in their order; `many` of them are ticked off in a list, and may be none. */
    | { control: 'fields'; kind: 'number' | 'text' | 'any'; of?: string; many?: boolean }
    | { control: 'keys'; of: string }
    | { control: 'choice'; options: { value: string; label: string }[] }
    | { control: 'number'; unit: string; min: number; max?: number; step: number }
    | { control: 'text' }
    | { control: 'check' }
    | { control: 'formula' }
    | { control: 'aggregates'; of?: string }
    | { control: 'conditions' }
    | { control: 'ranges' }
    /** An area drawn on the preview map. */
    | { control: 'drawn' }
    /** Cells set by hand. */
    | { control: 'corrections' }
    /** Own fields, each with the field of the other dataset that goes into it. */
    | { control: 'matching'; of: string }
  )

export const stepSorts = {
  fields: 'Fields',
  rows: 'Rows',
  shapes: 'Shapes and places',
  cells: 'Cells of a raster',
} as const
export type StepSort = keyof typeof stepSorts

/**
 * A kind of prep step: its settings, its form, and what it does. `apply` gives a new dataset and leaves the
 * old one as it was.
 */
export type StepKind<Settings> = {
  label: string
  /** What it changes, under which it is offered. */
  about: StepSort
  settings: ZodType<Settings>
  form: StepControl[]
  /** Whether the step can do anything with such a dataset. */
  accepts: (from: Preparing) => boolean
  initial: (from: Preparing, others: Preparing[]) => Settings
  /** The datasets it draws on besides its own. */
  needs: (settings: Settings) => string[]
  /** A few words on what it does, behind its label. */
  words: (settings: Settings, name: (datasetId: string, field?: string) => string) => string
  /** @throws StepProblem saying what keeps it from being carried out */
  apply: (settings: Settings, from: Preparing, others: Others, work: StepWork) => Preparing
}

/**
 * What a step tells while it is carried out: how much is done (0 to 1), and what is to be known of its result
 * though it could be carried out.
 */
export type StepWork = {
  tell: (share: number) => void
  /** Something was lost, or is not what one may think. What is said twice or more stands one after the other. */
  remark: (words: string) => void
  /** Good to know, and no trouble. */
  note: (words: string) => void
}

/** What keeps a step from being carried out, in words. */
export class StepProblem extends Error {
  override name = 'StepProblem'
}

export const ownOrigins = (datasetId: string, dataset: Dataset): Map<string, FieldOrigin> =>
  new Map(dataset.fields.map(({ key }) => [key, { datasetId, key }]))

/** @throws StepProblem when the other dataset is gone */
export function otherOf(others: Others, datasetId: string): Preparing {
  const other = others(datasetId)
  if (!other) throw new StepProblem('The dataset that it draws on is gone or not loaded yet.')
  return other
}

/** What a field is called and measures: as a folio says, as a step said that made it, or as it looks. */
export const metaIn = ({ dataset, made, fieldMeta }: Preparing, key: string): FieldMeta => {
  const column = fieldOf(dataset, key)
  return (
    fieldMeta?.(key) ??
    made.get(key) ??
    (column ? proposeMeta(key, column) : { label: key, unit: '', role: 'total' })
  )
}

/** The key, or the first free one made by counting on. */
export function freeKey(taken: { key: string }[], key: string): string {
  let free = key
  for (let n = 2; taken.some((f) => f.key === free); n++) free = `${key}_${n}`
  return free
}
