import { z } from 'zod'
import { groundAreas } from '@/core/geo/measure'
import { overlayAreas } from '@/core/geo/overlay'
import { numbersOf, takeRows, type Column } from '../column'
import { fieldOf } from '../dataset'
import { freeKey, metaIn, otherOf, StepProblem, type Preparing, type StepKind } from './step'

const OverlaySettings = z.object({
  datasetId: z.string(),
  /** Own fields, and those of the other dataset, whose values are shared out by ground area. */
  shared: z.array(z.string()),
  otherShared: z.array(z.string()),
  /** Whether what lies outside of all other areas is kept. */
  rest: z.boolean(),
  leastKm2: z.number().min(0),
})

/**
 * Areas split by other areas: a row for every piece, with the fields of both. Totals are shared out in proportion to
 * the ground area of the pieces (areal weighting, Goodchild and Lam 1980), which holds where they are spread evenly;
 * all else is copied.
 */
export const overlay: StepKind<z.infer<typeof OverlaySettings>> = {
  label: 'Overlay',
  about: 'shapes',
  settings: OverlaySettings,
  form: [
    { name: 'datasetId', label: 'Split by', control: 'dataset', geometry: ['areas'] },
    { name: 'shared', label: 'Shared out', control: 'fields', kind: 'number', many: true },
    {
      name: 'otherShared',
      label: 'And of the other',
      control: 'fields',
      kind: 'number',
      of: 'datasetId',
      many: true,
    },
    { name: 'rest', label: 'Keep what lies outside', control: 'check' },
    { name: 'leastKm2', label: 'Drop under', control: 'number', unit: 'km²', min: 0, step: 1 },
  ],
  accepts: ({ dataset }) => dataset.geometry.kind === 'areas',
  initial(from, others) {
    const other = others.find(({ dataset }) => dataset.geometry.kind === 'areas')
    return {
      datasetId: other?.datasetId ?? '',
      shared: totalsOf(from),
      otherShared: other ? totalsOf(other) : [],
      rest: true,
      leastKm2: 0,
    }
  },
  needs: ({ datasetId }) => [datasetId],
  words: ({ datasetId }, name) => `split by ${name(datasetId)}`,
  apply({ datasetId, shared, otherShared, rest, leastKm2 }, from, others, { tell, remark }) {
    const other = otherOf(others, datasetId)
    const [geometry, by] = [from.dataset.geometry, other.dataset.geometry]
    if (geometry.kind !== 'areas' || by.kind !== 'areas')
      throw new StepProblem('It takes areas here and areas in the other dataset.')
    const pieces = overlayAreas(geometry, by, { keepRest: rest, leastKm2 }, tell)
    const sizes = groundAreas(pieces.areas)
    const [whole, wholeOther] = [groundAreas(geometry), groundAreas(by)]
    const share = sizes.map((size, i) => size / whole[pieces.own[i]])
    const covered = coveredOf(pieces.own, share, from.dataset.rowCount)
    if (rest && !pieces.dropped) addUp(share, pieces.own, covered)
    const otherShare = sizes.map((size, i) => size / wholeOther[pieces.other[i]])
    const split = (column: Column, rows: Int32Array, shares: Float64Array | null): Column => {
      const taken = takeRows(column, rows)
      if (!shares || taken.kind !== 'number') return taken
      return { kind: 'number', values: taken.values.map((v, i) => v * shares[i]) }
    }
    const fields = from.dataset.fields.map(({ key, column }) => ({
      key,
      column: split(column, pieces.own, shared.includes(key) ? share : null),
    }))
    const origins = new Map(from.origins)
    const made = new Map([...from.made, ...other.made])
    for (const { key: field, column } of other.dataset.fields) {
      const key = freeKey(fields, field)
      fields.push({
        key,
        column: split(column, pieces.other, otherShared.includes(field) ? otherShare : null),
      })
      origins.set(key, other.origins.get(field) ?? { datasetId, key: field })
    }
    const key = freeKey(fields, 'share_of_area')
    fields.push({ key, column: { kind: 'number', values: share.map((s) => 100 * s) } })
    origins.set(key, { datasetId: from.datasetId, key })
    made.set(key, { label: 'Share of the area', unit: '%', role: 'share' })
    const doubts = doubtsOf(pieces, { covered, from, shared })
    if (doubts.length) remark(doubts.join(' '))
    return {
      ...from,
      dataset: { rowCount: sizes.length, fields, geometry: pieces.areas },
      origins,
      made,
    }
  },
}

/** Fields whose sum means something, and that can so be shared out. */
function totalsOf(from: Preparing): string[] {
  return from.dataset.fields.flatMap(({ key, column }) =>
    column.kind === 'number' && metaIn(from, key).role === 'total' ? [key] : [],
  )
}

/** The sum of the shares of the pieces of each area. */
function coveredOf(own: Int32Array, share: Float64Array, count: number): Float64Array {
  const covered = new Float64Array(count)
  own.forEach((f, i) => (covered[f] += share[i]))
  return covered
}

/** What the pieces of an area may be more or less than it was, where its border crosses itself. */
const tangle = 1e-4

/** Makes the shares of an area add up to 1 where they do but for what was untangled on the way. */
function addUp(share: Float64Array, own: Int32Array, covered: Float64Array): void {
  own.forEach((f, i) => {
    if (Math.abs(covered[f] - 1) < tangle) share[i] /= covered[f]
  })
}

/** What of the areas and their totals is not in the pieces, or in them twice. */
function doubtsOf(
  { dropped }: { dropped: number },
  { covered, from, shared }: { covered: Float64Array; from: Preparing; shared: string[] },
): string[] {
  const n = (count: number) => count.toLocaleString('en-GB')
  const words: string[] = []
  if (dropped) words.push(`${n(dropped)} small ${dropped === 1 ? 'piece was' : 'pieces were'} dropped.`)
  const twice = covered.filter((c) => c > 1 + tangle).length
  if (twice)
    words.push(
      `The other areas overlap in ${n(twice)} ${twice === 1 ? 'area' : 'areas'}: values there count more than once.`,
    )
  const lost = shared.flatMap((key) => {
    const column = fieldOf(from.dataset, key)
    if (!column) return []
    const values = numbersOf(column)
    let [all, left] = [0, 0]
    values.forEach((v, f) => {
      if (Number.isNaN(v)) return
      all += v
      left += v * Math.max(0, 1 - covered[f])
    })
    return all > 0 && left / all > 1e-6 ? [{ key, share: left / all }] : []
  })
  if (lost.length)
    words.push(
      `Outside, and so no longer counted: ${lost
        .slice(0, 3)
        .map(({ key, share: part }) => {
          return `${(100 * part).toPrecision(2)} % of ${metaIn(from, key).label}`
        })
        .join(', ')}${lost.length > 3 ? ' and others' : ''}.`,
    )
  return words
}
