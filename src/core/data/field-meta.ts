import { z } from 'zod'
import { codeListOf } from './code-lists'
import { isMissing, type Column } from './column'

export const fieldRoles = ['total', 'rate', 'share', 'index', 'category', 'name', 'code', 'date'] as const
export type FieldRole = (typeof fieldRoles)[number]

/**
 * What people need to know of a field: its readable name, unit (empty where it has none) and what it
 * measures.
 */
export const FieldMeta = z.object({
  label: z.string(),
  unit: z.string(),
  role: z.enum(fieldRoles),
  /** Anything worth knowing: how it was counted, what is left out. */
  note: z.string().optional(),
})
export type FieldMeta = z.infer<typeof FieldMeta>

const abbreviations: Record<string, string> = {
  lib: 'library',
  pop: 'population',
  hh: 'households',
  hhs: 'households',
  med: 'median',
  avg: 'average',
  pct: 'percent',
  num: 'number',
  inc: 'income',
  moe: 'margin of error',
  no: 'number',
  km2: '(km²)',
}

/** `lib_loans_2025` becomes `Library loans 2025`; `medianIncome` becomes `Median income`. */
export function readableName(key: string): string {
  const words = key
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/[_.\-\s]+/g, ' ')
    .trim()
    .split(' ')
    .map((word) =>
      word.length > 1 &&
      word === word.toUpperCase() &&
      !/^\d+$/.test(word) &&
      !abbreviations[word.toLowerCase()]
        ? word
        : (abbreviations[word.toLowerCase()] ?? word.toLowerCase()),
    )
  const text = words.join(' ').replace(/\bhouseholds (income|size|budget)\b/, 'household $1')
  return text.charAt(0).toUpperCase() + text.slice(1)
}

/** Proposes what a field measures from its name and values. */
export function proposeMeta(key: string, column: Column): FieldMeta {
  const label = readableName(key)
  const words = label.toLowerCase()
  return {
    label,
    unit: column.kind === 'text' ? '' : proposeUnit(words),
    role: column.kind === 'text' ? textRole(words, column) : numberRole(words, column.values),
  }
}

/** A few letters and then figures, such as `LM042` or `07-113`. */
const codeLike = /^[A-Z]{0,4}[-_ ]?\d[\d\-_.]*$/

function textRole(words: string, column: Extract<Column, { kind: 'text' }>): FieldRole {
  const rows = column.codes.length
  if (column.type === 'date' || column.type === 'datetime') return 'date'
  if (column.type === 'boolean') return 'category'
  if (
    codeListOf(column) !== null ||
    /\b(code|id|key)\b/.test(words) ||
    column.dictionary.filter((word) => codeLike.test(word)).length > 0.95 * column.dictionary.length
  )
    return 'code'
  if (/\bdate\b/.test(words)) return 'date'
  if (/\bname\b/.test(words)) return 'name'
  const filled = column.codes.reduce((n, code) => n + (code ? 1 : 0), 0)
  return filled > 0 && column.dictionary.length <= Math.max(12, Math.sqrt(rows)) ? 'category' : 'name'
}

function numberRole(words: string, values: Float64Array): FieldRole {
  if (/\b(code|id|band number)\b/.test(words)) return 'code'
  if (/^year|\bdate\b/.test(words)) return 'date'
  if (/\b(percent|share|proportion)\b|%/.test(words)) return 'share'
  if (/\b(rate|per|density|ratio)\b/.test(words)) return 'rate'
  if (
    /\b(median|mean|average|index|score|rank|income|price|temperature|lowest|highest|deviation|margin of error)\b/.test(
      words,
    )
  )
    return 'index'
  // Counts may be below zero, as those of who came less who left are; their sum makes sense all the same.
  return values.some((v) => v < 0 && !Number.isInteger(v)) ? 'index' : 'total'
}

function proposeUnit(words: string): string {
  if (/km²|\barea\b/.test(words)) return 'km²'
  if (/\bpercent|share\b/.test(words)) return '%'
  if (/\b(population|residents|persons|people)\b/.test(words)) return 'persons'
  if (/\bhouseholds\b/.test(words)) return 'households'
  if (/\bloans\b/.test(words)) return 'loans'
  return /\bmembers\b/.test(words) ? 'members' : ''
}

/** How one thing of a unit is called after “per”: residents counted as persons give “resident”. */
export const singularUnit = (meta: FieldMeta): string => {
  const unit = meta.unit || meta.label.toLowerCase()
  return unit === 'persons' ? 'resident' : unit.replace(/ies$/, 'y').replace(/s$/, '')
}

export const missingCount = (column: Column): number => {
  const rows = column.kind === 'number' ? column.values.length : column.codes.length
  let count = 0
  for (let row = 0; row < rows; row++) if (isMissing(column, row)) count++
  return count
}
