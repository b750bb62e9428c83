import type { Ground } from '@/core/classify/classify'
import type { Share } from '@/core/classify/spec'
import type { Dataset } from '@/core/data/dataset'
import { seriesOf } from '@/core/data/series'
import { createMemory } from '@/core/memory/memory'
import type { KindData } from './kind'
import { groundOf, valuesOf, type Shown } from './values'
import { inYear } from './years'

/** Values that classes are made over together, with the ground under them. */
export type Pool = { values: Float64Array; ground: Ground }

/** What decides over which values classes are made. */
export type Pooling = Shown & { share: Share | null; overYears: boolean | null }

/**
 * The values of all layers that share a scheme, or of all years of a series; null where classes are made over the
 * values that are shown alone.
 */
export function poolOf(
  settings: Pooling,
  { dataset, datasetOf }: Pick<KindData, 'dataset' | 'datasetOf'>,
): Pool | null {
  const { share } = settings
  if (share?.over !== 'all') return yearsPool(settings, dataset)
  const parts = share.members.flatMap((member) => {
    if ('made' in member) return []
    const { datasetId, ...shown } = member
    const own = datasetOf(datasetId)
    if (!own) return []
    const years = yearsPool({ ...shown, overYears: settings.overYears }, own)
    return [years ?? { values: valuesOf(shown, own), ground: groundOf(shown, own) }]
  })
  return parts.length < 2
    ? yearsPool(settings, dataset)
    : { values: joined(parts.map(({ values }) => values)), ground: together(parts) }
}

const remember = createMemory<Dataset, Pool>('values of all years', { maxBytes: 64 * 2 ** 20 })

/** The values of all years of a field's series, those that are shown among them; null where they are not wanted. */
export function yearsPool(
  { field, per, perCount, overYears }: Shown & Pick<Pooling, 'overYears'>,
  dataset: Dataset,
): Pool | null {
  const series = overYears ? seriesOf(dataset.fields, field) : null
  if (!series) return null
  const shown = { field, per, perCount }
  const years = series.years.map(({ year }) => inYear(shown, dataset, year))
  return remember(dataset, JSON.stringify(years), () => {
    const parts = years.map((one) => ({ values: valuesOf(one, dataset), ground: groundOf(one, dataset) }))
    return { values: joined(parts.map(({ values }) => values)), ground: together(parts) }
  })
}

function joined(lists: Float64Array[]): Float64Array {
  const all = new Float64Array(lists.reduce((sum, list) => sum + list.length, 0))
  let at = 0
  for (const list of lists) {
    all.set(list, at)
    at += list.length
  }
  return all
}

/**
 * Areas of several layers as if they lay beside each other without touching. The national figure is the mean
 * of theirs.
 */
function together(parts: { values: Float64Array; ground: Ground }[]): Ground {
  const starts = parts.map((_, i) => parts.slice(0, i).reduce((sum, { values }) => sum + values.length, 0))
  return {
    get sizes() {
      const sizes = parts.flatMap(({ ground }) => ground.sizes ?? [])
      return sizes.length === parts.length ? joined(sizes) : null
    },
    get neighbours() {
      const pairs = parts.map(({ ground }) => ground.neighbours)
      if (pairs.includes(null)) return null
      const end = (which: 'a' | 'b') =>
        Uint32Array.from(pairs.flatMap((pair, i) => [...(pair?.[which] ?? [])].map((f) => f + starts[i])))
      return { a: end('a'), b: end('b') }
    },
    get national() {
      const figures = parts.flatMap(({ ground }) => ground.national ?? [])
      return figures.length === parts.length ? figures.reduce((a, b) => a + b, 0) / figures.length : null
    },
  }
}
