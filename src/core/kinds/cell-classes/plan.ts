import { classify, countedFor, type Classification, type ClassifyOptions } from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import { scaleTicks } from '@/core/classify/scaling'
import { middleOf } from '@/core/classify/classify'
import { shadeOf } from '@/core/colour/colouring'
import type { Colour } from '@/core/scene/paint'
import { coloursOf, type ShadeScale } from '../choropleth/plan'
import type { KindData } from '../kind'
import type { Pool } from '../pool'
import { countedIn, sampleOf, type Sample } from './counted'
import type { CellClassSettings } from './spec'

export type CellClassPlan = {
  /** A sample of the cells, which the breaks are made over. */
  sample: Sample
  /** Over what they are made where rasters share them; null for breaks of its own. */
  pool: Pool | null
  classification: Classification
  colours: Colour[]
  labels: string[]
  /** The labels as they would be without words written by hand. */
  generated: string[]
  decimals: number
  /** For maps without classes: where a value stands along the shades. */
  scale: ShadeScale | null
  /** Held cells, and km² of ground, in each class. */
  counts: number[]
  km2: number[]
} | null

/** Shades of a map without classes; more cannot be told apart. */
const shades = 128

/** The classes of a band's values; null where there is no such band, or nothing in it. */
export function planCellClasses(settings: CellClassSettings, data: KindData): CellClassPlan {
  const { raster } = data.dataset
  if (!raster || settings.band >= raster.bands) return null
  const sample = sampleOf(raster, settings.band)
  if (!sample.there) return null
  // Cells are not set aside one by one: all of them are in a class.
  const options: ClassifyOptions = settings.unclassed
    ? { ...settings, setAside: [], method: 'equal-interval', classes: 1, locked: [], midpoint: null }
    : { ...settings, setAside: [] }
  const pool = poolOf(settings, data)
  const over = classify(pool?.values ?? sample.values, options, pool?.ground ?? sample.ground)
  const made = over && pool ? countedFor(over, sample.values, []) : over
  if (!made) return null
  const { counts, outside, km2 } = countedIn(raster, settings.band, made)
  const classification = { ...made, counts, outside, missing: sample.missing }
  const scale = settings.unclassed ? scaleOf(settings, pool ?? sample) : null
  const { breaks } = classification
  const decimals = decimalsFor(breaks.map((b) => b / settings.numbers.divideBy))
  const generated = scale ? [] : classLabels(breaks, decimals, settings.labelPattern, settings.numbers)
  return {
    sample,
    pool,
    classification,
    colours: scale
      ? Array.from({ length: shades }, (_, i) => shadeOf(settings, (i + 0.5) / shades))
      : coloursOf(settings, classification),
    labels: inOwnWords(generated, settings.classWords),
    generated,
    decimals,
    scale,
    counts,
    km2,
  }
}

function scaleOf(
  { unclassed, midpoint }: CellClassSettings,
  { values, ground }: Pick<Pool, 'values' | 'ground'>,
): ShadeScale {
  const sorted = values.slice().sort()
  const scaling = unclassed ?? 'linear'
  const middle = midpoint ? middleOf(sorted, midpoint, ground) : null
  return { sorted, scaling, middle, ticks: scaleTicks(sorted, scaling) }
}

/** The values of all rasters with one scheme, each by its sample; null where breaks are its own. */
function poolOf({ share }: CellClassSettings, { datasetOf }: KindData): Pool | null {
  if (share?.over !== 'all') return null
  const samples = share.members.flatMap((member) => {
    const raster = 'made' in member && datasetOf(member.datasetId)?.raster
    const band = 'made' in member && Number(member.made.band)
    if (!raster || band === false || !(band < raster.bands)) return []
    const sample = sampleOf(raster, band)
    return sample.there ? [sample] : []
  })
  if (samples.length < 2) return null
  const joined = (lists: (Float64Array | null)[]) =>
    Float64Array.from(lists.flatMap((one) => [...(one ?? [])]))
  return {
    values: joined(samples.map(({ values }) => values)),
    ground: { sizes: joined(samples.map(({ ground }) => ground.sizes)), neighbours: null },
  }
}
