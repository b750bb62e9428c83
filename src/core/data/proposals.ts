import { textAt, type Column } from './column'
import { formOf } from './dataset'
import type { FieldRole } from './field-meta'
import {
  bareForm,
  countryForm,
  looseMatches,
  loosest,
  matchKeys,
  type LooseMatch,
  type NearMiss,
} from './join'
import type { Prepared } from './prepare'
import { yearIn } from './series'
import { joinMatch } from './steps/join'
import { longForm } from './steps/spread'

/** What could be done next with a dataset, as far as that can be told from what is there. */
export type Proposal =
  /**
   * A table whose keys are those of areas, points or lines: how many of `of` rows find a partner, how many of them in
   * ways that need be accepted, and pairs that were matched by hand in a file of the same form.
   */
  | {
      does: 'join'
      into: string
      table: string
      key: string
      otherKey: string
      matched: number
      of: number
      ways: { kind: LooseMatch; count: number; example: [string, string] }[]
      mended: Record<string, string>
    }
  /** A way in which keys of a join that are left over could count as the same, all at once. */
  | {
      does: 'mend'
      datasetId: string
      stepId: string
      table: string
      kind: LooseMatch
      count: number
      example: [string, string]
    }
  /** A table in long form that would be one row for each place if it were wide. */
  | { does: 'spread'; table: string; settings: { keys: string[]; names: string[]; values: string } }
  /** Points that can be counted in areas. */
  | { does: 'count'; areas: string; points: string }
  /** A field that is worth a map. */
  | { does: 'map'; datasetId: string; field: string }
  /** A table whose rows lead from one place to another: how many of `of` rows have both. */
  | { does: 'flows'; table: string; places: string; matched: number; of: number }
  /** Shapes that lie on no map yet and give this one its ground. */
  | { does: 'show'; datasetId: string }

/** A join is proposed where at least this share of the rows would find a partner. */
const worthJoining = 0.4

/** What could be done next with a dataset; what `onMaps` show already is not proposed for a map again. */
export const proposalsFor = (
  current: Prepared,
  all: Map<string, Prepared>,
  onMaps: ReadonlySet<string> = new Set(),
): Proposal[] =>
  everyProposal(current, all, onMaps).filter(
    (proposal) =>
      (proposal.does !== 'map' || !onMaps.has(proposal.datasetId)) &&
      (proposal.does !== 'flows' || !onMaps.has(proposal.table)),
  )

function everyProposal(
  current: Prepared,
  all: Map<string, Prepared>,
  onMaps: ReadonlySet<string>,
): Proposal[] {
  const form = formOf(current.dataset)
  const others = [...all.values()].filter((other) => other.entry.id !== current.entry.id)
  if (form === 'raster') return []
  if (form === 'none') {
    const long = spreadOf(current)
    if (long) return [long]
    const flows = others.filter(isShape).flatMap((other) => flowsOf(other, current) ?? [])
    if (flows.length) return flows.slice(0, 1)
    return others
      .filter((other) => isShape(other))
      .flatMap((other) => joinOf(other, current, all) ?? [])
      .sort((a, b) => b.matched - a.matched)
      .slice(0, 2)
  }
  const joins = others
    .filter((other) => formOf(other.dataset) === 'none')
    .flatMap((other) => joinOf(current, other, all) ?? [])
    .sort((a, b) => b.matched - a.matched)
  if (joins.length) return joins.slice(0, 2)
  const long = others
    .filter((other) => formOf(other.dataset) === 'none' && !draws(current, other.entry.id))
    .flatMap((other) => spreadOf(other) ?? [])
  if (long.length) return long.slice(0, 2)
  const out: Proposal[] = mendsOf(current, all)
  const field = form === 'areas' ? fieldToMap(current) : null
  if (field) out.push({ does: 'map', datasetId: current.entry.id, field })
  if (form === 'areas')
    for (const other of others) {
      if (onMaps.has(other.entry.id) || !isShape(other) || draws(other, current.entry.id)) continue
      const points = formOf(other.dataset) === 'points' && !draws(current, other.entry.id)
      out.push(
        points
          ? { does: 'count', areas: current.entry.id, points: other.entry.id }
          : { does: 'show', datasetId: other.entry.id },
      )
    }
  const areas =
    form === 'points'
      ? others.find((other) => formOf(other.dataset) === 'areas' && !draws(other, current.entry.id))
      : null
  if (areas) out.push({ does: 'count', areas: areas.entry.id, points: current.entry.id })
  return out.slice(0, 4)
}

/** What the joins of a dataset left over though it is nearly the same. */
function mendsOf(current: Prepared, all: Map<string, Prepared>): Proposal[] {
  return current.entry.steps.flatMap((step): Proposal[] => {
    if (step.type !== 'join' || !step.on) return []
    const { settings } = step
    const found = joinMatch(settings, current, (id) => all.get(id) ?? null)?.nearMisses ?? []
    return waysIn(found).map((way) => ({
      does: 'mend',
      datasetId: current.entry.id,
      stepId: step.id,
      table: settings.datasetId,
      ...way,
    }))
  })
}

/** The ways in which keys that differ could count as the same, with how often and an example; the surest first. */
export function waysIn(
  nearMisses: NearMiss[],
): { kind: LooseMatch; count: number; example: [string, string] }[] {
  return looseMatches.flatMap((kind) => {
    const found = nearMisses.filter((one) => one.kind === kind)
    return found.length
      ? [{ kind, count: found.length, example: [found[0].value, found[0].otherValue] as [string, string] }]
      : []
  })
}

/** A table that is still in long form, with what it would be spread by. */
function spreadOf({ entry, dataset, fieldMeta }: Prepared): Extract<Proposal, { does: 'spread' }> | null {
  if (entry.steps.some(({ type }) => type === 'long-to-wide')) return null
  const made = new Map(dataset.fields.map(({ key }) => [key, fieldMeta(key)]))
  const settings = longForm({ dataset, made })
  return settings && { does: 'spread', table: entry.id, settings }
}

/** A row leads from one place to another where at least this share of rows names a place twice. */
const worthDrawing = 0.6

/**
 * Two columns of a table that name the same places, row by row two different ones: flows, not figures of the
 * places, so that joining them would take one flow for the whole.
 */
function flowsOf(places: Prepared, table: Prepared): Extract<Proposal, { does: 'flows' }> | null {
  const { rowCount } = table.dataset
  for (const own of keysOf(places)) {
    const known = new Set(
      Array.from({ length: places.dataset.rowCount }, (_, row) => textAt(own.column, row)),
    )
    known.delete(null)
    const named = keyColumns(table)
      .map(({ column }) => column)
      .filter((column) => shareIn(column, known) >= worthDrawing)
    for (const [i, from] of named.entries())
      for (const to of named.slice(i + 1)) {
        const matched = countRows(rowCount, (row) => {
          const [a, b] = [textAt(from, row), textAt(to, row)]
          return known.has(a) && known.has(b) && a !== b
        })
        if (matched >= worthDrawing * rowCount)
          return { does: 'flows', table: table.entry.id, places: places.entry.id, matched, of: rowCount }
      }
  }
  return null
}

const keyColumns = ({ dataset }: Prepared): { column: Column }[] =>
  dataset.fields.filter(({ column }) => column.kind === 'text')

const countRows = (count: number, holds: (row: number) => boolean): number => {
  let sum = 0
  for (let row = 0; row < count; row++) if (holds(row)) sum++
  return sum
}

function shareIn(column: Column, known: ReadonlySet<string | null>): number {
  const rows = column.kind === 'text' ? column.codes.length : column.values.length
  return rows ? countRows(rows, (row) => known.has(textAt(column, row))) / rows : 0
}

const isShape = ({ dataset }: Prepared): boolean => ['areas', 'points', 'lines'].includes(formOf(dataset))

const draws = ({ entry }: Prepared, id: string): boolean =>
  entry.steps.some((step) => 'datasetId' in step.settings && step.settings.datasetId === id)

/**
 * Columns by which rows can be told apart, whatever they are said to measure: nearly every row has a value of its own.
 * Fractions are none, and numbers that only count the rows tell nothing of which row is meant.
 */
function keysOf({ dataset, fieldMeta }: Prepared): Key[] {
  return dataset.fields.flatMap(({ key, column }): Key[] => {
    const { role } = fieldMeta(key)
    if (column.kind === 'number' && !column.values.every((v) => Number.isNaN(v) || Number.isInteger(v)))
      return []
    if (column.kind === 'text' && ['category', 'date'].includes(role)) return []
    return different(column) ? [{ key, column, role, counts: countsRows(column) }] : []
  })
}

type Key = { key: string; column: Column; role: FieldRole; counts: boolean }

function countsRows(column: Column): boolean {
  if (column.kind !== 'number') return false
  return column.values.every((v, row) => v === row + column.values[0]) && Math.abs(column.values[0]) <= 1
}

/** The keys of a column in each form in which they are compared. */
type Forms = { exact: Set<string>; loose: Set<string>; bare: Set<string>; country: Set<string> | null }
const formsOf = new WeakMap<Column, Forms>()

function formsIn(column: Column): Forms {
  const known = formsOf.get(column)
  if (known) return known
  const [bare, country] = [bareForm(column), countryForm(column)]
  const forms: Forms = {
    exact: new Set(),
    loose: new Set(),
    bare: new Set(),
    country: country && new Set(),
  }
  const rows = column.kind === 'text' ? column.codes.length : column.values.length
  for (let row = 0; row < rows; row++) {
    const key = textAt(column, row)
    if (key === null || forms.exact.has(key)) continue
    forms.exact.add(key)
    forms.loose.add(loosest(key))
    forms.bare.add(bare(key))
    const code = country?.(key)
    if (code) forms.country?.add(code)
  }
  formsOf.set(column, forms)
  return forms
}

const sharedBy = (a: Set<string>, b: Set<string>): number => {
  const [small, large] = a.size < b.size ? [a, b] : [b, a]
  let count = 0
  for (const key of small) if (large.has(key)) count++
  return count
}

/** How many keys two columns have in common in the form in which they have most. */
function inCommon(own: Key, other: Key): number {
  const [a, b] = [formsIn(own.column), formsIn(other.column)]
  const equal = sharedBy(a.exact, b.exact)
  // What loosens to the same is counted only where that loses no keys.
  const shared = Math.max(sharedBy(a.loose, b.loose), sharedBy(a.bare, b.bare))
  const loose = Math.min(shared, a.exact.size, b.exact.size)
  const countries = a.country && b.country ? sharedBy(a.country, b.country) : 0
  const most = Math.max(equal, loose, countries)
  // Numbers often agree by chance (years, small counts); codes and text rarely do.
  const byChance = own.column.kind === 'number' && other.column.kind === 'number'
  if (!byChance) return most
  if (own.counts || other.counts) return 0
  return own.role === 'code' || other.role === 'code' ? most : most / 4
}

/**
 * The best pair of keys by which a table can be joined to shapes, found by their values; null where it was joined
 * already or hardly fits. Of pairs that fit alike codes come first. Where a file of the same form was joined before,
 * what was chosen then is proposed again.
 */
function joinOf(
  into: Prepared,
  table: Prepared,
  all: Map<string, Prepared>,
): Extract<Proposal, { does: 'join' }> | null {
  if (draws(into, table.entry.id) || flowsOf(into, table)) return null
  const least = Math.max(1, worthJoining * Math.min(into.dataset.rowCount, table.dataset.rowCount))
  const before = chosenBefore(table, all)
  const pairs = keysOf(into).flatMap((own) =>
    keysOf(table).map((other) => {
      const isChosen = before?.key === own.key && before.otherKey === other.key
      const isCode = own.role === 'code' || other.role === 'code'
      return {
        own,
        other,
        isChosen,
        common: inCommon(own, other),
        rank: (isCode ? 1.01 : 1) * (isChosen ? 2 : 1),
      }
    }),
  )
  const [best] = pairs
    .filter(({ common }) => common > least)
    .sort((a, b) => b.common * b.rank - a.common * a.rank)
  if (!best) return null
  const { own, other } = best
  const mended = best.isChosen && before ? before.mended : {}
  const match = matchKeys(own.column, other.column, mended)
  const ways = waysIn(match.nearMisses)
  const matched = match.matched + ways.reduce((sum, { count }) => sum + count, 0)
  if (matched <= least) return null
  return {
    ...{ does: 'join', into: into.entry.id, table: table.entry.id, key: own.key, otherKey: other.key },
    ...{ matched, of: into.dataset.rowCount, ways, mended },
  }
}

/** By which keys a table with the same fields was joined before, and what was matched by hand then. */
function chosenBefore(
  table: Prepared,
  all: Map<string, Prepared>,
): { key: string; otherKey: string; mended: Record<string, string> } | null {
  const fields = new Set(table.entry.steps.length ? [] : table.dataset.fields.map(({ key }) => key))
  for (const { entry } of all.values())
    for (const step of entry.steps) {
      if (step.type !== 'join') continue
      const joined = all.get(step.settings.datasetId)
      const [pair, more] = step.settings.keys
      if (!joined || joined === table || more || !fields.has(pair.otherKey)) continue
      const alike = joined.dataset.fields.filter(({ key }) => fields.has(key)).length
      if (alike >= 0.8 * Math.max(fields.size, joined.dataset.fields.length))
        return { ...pair, mended: step.settings.mended }
    }
  return null
}

/** Whether nearly every row has a value of its own. */
function different(column: Column): boolean {
  const rows = column.kind === 'text' ? column.codes.length : column.values.length
  if (column.kind === 'text') return column.dictionary.length > 0.8 * rows
  return new Set(column.values).size > 0.8 * rows
}

/** Rates and shares come before indices, those before totals; a measure of error is left out. */
function fieldToMap({ dataset, fieldMeta }: Prepared): string | null {
  const order = ['rate', 'share', 'index', 'total']
  const fields = dataset.fields.filter(
    ({ key, column }) =>
      column.kind === 'number' &&
      order.includes(fieldMeta(key).role) &&
      !/margin of error|number/i.test(fieldMeta(key).label),
  )
  return (
    [...fields].sort(
      (a, b) =>
        order.indexOf(fieldMeta(a.key).role) - order.indexOf(fieldMeta(b.key).role) ||
        // Of several years the last.
        (yearIn(b.key)?.year ?? 0) - (yearIn(a.key)?.year ?? 0),
    )[0]?.key ?? null
  )
}
