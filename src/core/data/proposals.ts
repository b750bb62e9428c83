import { textAt, type Column } from './column'
import { formOf } from './dataset'
import { matchKeys } from './join'
import type { Prepared } from './prepare'
import { yearIn } from './series'
import { joinMatch } from './steps/join'
import { longForm } from './steps/spread'

/** What could be done next with a dataset, as far as that can be told from what is there. */
export type Proposal =
  /** A table whose keys are those of areas, points or lines: how many of `of` rows find a partner. */
  | { does: 'join'; into: string; table: string; key: string; otherKey: string; matched: number; of: number }
  /** Keys of a join that are nearly the same and can be matched all at once. */
  | { does: 'mend'; datasetId: string; stepId: string; table: string; pairs: Record<string, string> }
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

/** `onMaps` are the datasets that some map shows already. */
export function proposalsFor(
  current: Prepared,
  all: Map<string, Prepared>,
  onMaps: ReadonlySet<string> = new Set(),
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
      .flatMap((other) => joinOf(other, current) ?? [])
      .slice(0, 2)
  }
  const joins = others
    .filter((other) => formOf(other.dataset) === 'none')
    .flatMap((other) => joinOf(current, other) ?? [])
  if (joins.length) return joins.slice(0, 2)
  const long = others
    .filter((other) => formOf(other.dataset) === 'none' && !draws(current, other.entry.id))
    .flatMap((other) => spreadOf(other) ?? [])
  if (long.length) return long.slice(0, 2)
  const out: Proposal[] = mendsOf(current, all).slice(0, 1)
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
    if (!found.length) return []
    const pairs = Object.fromEntries(found.map(({ value, otherValue }) => [value, otherValue]))
    return [{ does: 'mend', datasetId: current.entry.id, stepId: step.id, table: settings.datasetId, pairs }]
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
    if (!different(own.column)) continue
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

const keysOf = ({ dataset, fieldMeta }: Prepared): { key: string; column: Column }[] =>
  dataset.fields.filter(
    ({ key, column }) => column.kind === 'text' && ['code', 'name'].includes(fieldMeta(key).role),
  )

/**
 * The best pair of keys by which a table can be joined to shapes; null where it was joined already or hardly
 * fits.
 */
function joinOf(into: Prepared, table: Prepared): Extract<Proposal, { does: 'join' }> | null {
  if (draws(into, table.entry.id) || flowsOf(into, table)) return null
  let best: Extract<Proposal, { does: 'join' }> | null = null
  for (const own of keysOf(into)) {
    // Several areas with one key would each take the figures of the whole.
    if (!different(own.column)) continue
    for (const other of keysOf(table)) {
      if (!different(other.column)) continue
      const { matched } = matchKeys(own.column, other.column)
      if (matched > (best?.matched ?? worthJoining * into.dataset.rowCount))
        best = {
          does: 'join',
          into: into.entry.id,
          table: table.entry.id,
          key: own.key,
          otherKey: other.key,
          matched,
          of: into.dataset.rowCount,
        }
    }
  }
  return best
}

/** Whether nearly every row has a value of its own. */
function different(column: Column): boolean {
  const rows = column.kind === 'text' ? column.codes.length : column.values.length
  const seen = new Set<string>()
  for (let row = 0; row < rows; row++) seen.add(textAt(column, row) ?? '')
  return seen.size > 0.8 * rows
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
