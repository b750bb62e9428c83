import { z } from 'zod'
import { codeListOf } from './code-lists'
import { isMissing, type Column } from './column'
import type { Dataset } from './dataset'

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
  perc: 'percent',
  dens: 'density',
  emp: 'employment',
  unemp: 'unemployment',
  num: 'number',
  inc: 'income',
  moe: 'margin of error',
  no: 'number',
  km2: '(km²)',
}

/** Short forms that are names themselves and stay in capitals. */
const acronyms = new Set([
  'gdp',
  'gnp',
  'gni',
  'hdi',
  'ppp',
  'vat',
  'iso',
  'nuts',
  'lau',
  'un',
  'eu',
  'oecd',
  'co2',
  'ph',
  'id',
  'gis',
  'ict',
  'rd',
])

/** A word of a name that is written in capitals throughout: short forms stay so, other words do not. */
function fromCapitals(word: string): string {
  const plain = word.toLowerCase()
  const isShortForm = acronyms.has(plain) || (word.length <= 4 && !/[aeiouy]/.test(plain)) || /\d/.test(word)
  return isShortForm ? word : plain
}

/** `lib_loans_2025` becomes `Library loans 2025`; `medianIncome` `Median income`; `PCT_RENT` `Percent rent`. */
export function readableName(key: string): string {
  // Capitals mean something in a name only where not all of it is in capitals.
  const shouted = !/\p{Ll}/u.test(key)
  const words = key
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/[_.\-\s]+/g, ' ')
    .trim()
    .split(' ')
    .map((word) => {
      const long = abbreviations[word.toLowerCase()]
      if (long) return long
      const inCapitals = word.length > 1 && word === word.toUpperCase() && !/^\d+$/.test(word)
      if (!inCapitals) return word.toLowerCase()
      return shouted ? fromCapitals(word) : word
    })
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
  if (isCoordinate(words, values) || codeWords.test(words)) return 'code'
  if (/^year$|^year of|\bdate\b/.test(words) || areYears(words, values)) return 'date'
  if (/\b(percent|share|proportion)\b|%/.test(words)) return 'share'
  if (/\b(rate|per|density|ratio)\b/.test(words)) return 'rate'
  if (
    /\b(median|mean|average|index|score|rank|income|price|temperature|lowest|highest|deviation|margin of error)\b/.test(
      words,
    )
  )
    return 'index'
  if (areCodes(values)) return 'code'
  // Counts may be below zero, as those of who came less who left are; their sum makes sense all the same.
  return values.some((v) => v < 0 && !Number.isInteger(v)) ? 'index' : 'total'
}

/** Words that name something that tells rows apart and measures nothing. */
const codeWords = new RegExp(
  String.raw`\b(${[
    'code|codes|id|fid|gid|oid|objectid|object id|fips|geoid|iso|nuts|lau|zip|postcode|postal code',
    'key|ref|index number|row number|row no|band number|serial|uid',
  ].join('|')})\b`,
)

/** Longitudes and latitudes, or places of a plane, as their names say and their values allow. */
function isCoordinate(words: string, values: Float64Array): boolean {
  const named = (pattern: RegExp, most: number): boolean =>
    pattern.test(words) && values.every((v) => Number.isNaN(v) || Math.abs(v) <= most)
  return (
    named(/^(lat|latitude|y lat|geo lat|centroid lat|lat dd|lat deg)\b/, 90) ||
    named(/^(lon|lng|long|longitude|x lon|geo lon|geo lng|centroid lon|lon dd|lon deg)\b/, 540) ||
    /^(x|y|easting|northing|x coordinate|y coordinate|coordinate x|coordinate y|coord x|coord y)$/.test(words)
  )
}

/** Whole numbers of a time that anybody counts in years, each row having one. */
function areYears(words: string, values: Float64Array): boolean {
  if (!/\b(year|yr|founded|opened|built|since|period)\b/.test(words)) return false
  return (
    values.length > 0 &&
    values.every((v) => Number.isNaN(v) || (Number.isInteger(v) && v >= 1000 && v <= 2200))
  )
}

/** Fewer rows than this tell too little of whether numbers are codes. */
const leastRows = 8

/**
 * Whole numbers, each once, that are as long as each other (of four figures and more), or count the rows up by one:
 * nobody measures such.
 */
function areCodes(values: Float64Array): boolean {
  if (values.length < leastRows || !values.every((v) => Number.isSafeInteger(v) && v >= 0)) return false
  const sorted = Float64Array.from(values).sort()
  for (let i = 1; i < sorted.length; i++) if (sorted[i] === sorted[i - 1]) return false
  const [low, high] = [sorted[0], sorted[sorted.length - 1]]
  const countsRows = low <= 1 && high - low === sorted.length - 1
  const length = String(low).length
  return countsRows || (length >= 4 && String(high).length === length && areSpread(sorted))
}

/** Codes come in runs, one after the other within their group; measured amounts seldom do. */
function areSpread(sorted: Float64Array): boolean {
  let steady = 0
  for (let i = 1; i < sorted.length; i++) if (sorted[i] - sorted[i - 1] <= 2) steady++
  return steady > 0.5 * (sorted.length - 1)
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

/** What all fields of a dataset are taken for; `many` is what its totals are counted in, such as “thousand”. */
export const proposeFields = ({ fields }: Pick<Dataset, 'fields'>, many = ''): Record<string, FieldMeta> =>
  Object.fromEntries(fields.map(({ key, column }) => [key, inMany(proposeMeta(key, column), many)]))

const inMany = (meta: FieldMeta, many: string): FieldMeta =>
  many && meta.role === 'total' ? { ...meta, unit: `${many} ${meta.unit}`.trim() } : meta
