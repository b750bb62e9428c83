import { classify, countedFor, type Classification, type Ground } from '@/core/classify/classify'
import { classLabels, decimalsFor, inOwnWords } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import { distanceWords } from '@/core/data/distance-words'
import { cellKm2, statisticsOf } from '@/core/grid/grid'
import type { Colour } from '@/core/scene/paint'
import { coloursOf } from '../choropleth/plan'
import type { KindData } from '../kind'
import type { SurfaceLook } from './look'
import { sharedSurfaces } from './sharing'
import { surfaceOf, type Surface, type SurfaceSource } from './surface'

export type SurfacePlan = {
  /** Values of cells, evenly taken from all that are shown. */
  sample: Float64Array
  /** Side of a cell, m; 0 without a surface. */
  cellM: number
  /** Ground under each of them, m². */
  sizes: Float64Array
  classification: Classification | null
  colours: Colour[]
  labels: string[]
  generated: string[]
  decimals: number
  /** Over what the breaks are made where surfaces share them; null for breaks of its own. */
  pool: { values: Float64Array; ground: Ground } | null
  /** Where lines run, ascending. */
  levels: number[]
  min: number
  max: number
  /** Values under this are not shown; null shows all. */
  least: number | null
  /** km² of ground in each class. */
  km2: number[]
  remark: string
  /** How far distances are from those on the ground, in words; empty where they are true or do not matter. */
  distances: string
  figures: string[]
}

/** So many cells say as much of the whole as all of them do. */
const mostSampled = 6000
/** More lines than this are no map any more. */
export const mostLevels = 200

/** Values that are shown: those that are not under the least one. */
export const isShown = (value: number, least: number | null): boolean =>
  Number.isFinite(value) && (least === null || value >= least)

export function planSurface<S extends SurfaceLook>(
  source: SurfaceSource<S>,
  settings: S,
  data: KindData,
): SurfacePlan {
  const surface = surfaceOf(source, settings, data)
  const own = surface ? countedOf(surface) : noCells
  const { values } = own
  const others = sharedSurfaces(source, settings, data)?.map(countedOf) ?? null
  // Surfaces with one scheme have one range as well.
  const ranges = (others ?? [own]).map(statisticsOf)
  const max = Math.max(...ranges.map((range) => range.max))
  const least = settings.least ?? source.least?.(max) ?? null
  const lowest = Math.min(...ranges.map((range) => range.min))
  const low = least === null ? lowest : Math.max(lowest, least)
  const sample = sampleOf(own, least)
  const pool = others && pooled(others.map((one) => sampleOf(one, least)))
  const whole = pool ? pool.values : sample.values
  // The ends are those of the whole surface.
  if (whole.length > 1) {
    whole[0] = low
    whole[whole.length - 1] = max
  }
  const together = classify(whole, settings, pool ? pool.ground : groundOf(sample))
  const classification = together && pool ? countedFor(together, sample.values, settings.setAside) : together
  const breaks = classification?.breaks ?? []
  const decimals = breaks.length ? decimalsFor(breaks.map((b) => b / settings.numbers.divideBy)) : 0
  const generated =
    (classification && classLabels(breaks, decimals, settings.labelPattern, settings.numbers)) || []
  // Where the lowest values are not shown the first class has a lower end as well.
  if (least !== null && generated.length > 1 && settings.labelPattern === 'to')
    generated[0] = `${breaks
      .slice(0, 2)
      .map((b) => writeNumber(b, settings.numbers, decimals))
      .join(' to ')}`
  return {
    sample: sample.values,
    cellM: surface?.grid.cell ?? 0,
    sizes: sample.sizes,
    pool,
    classification,
    colours: classification ? coloursOf(settings, classification) : [],
    labels: inOwnWords(generated, settings.classWords),
    generated,
    decimals,
    levels: levelsOf(settings, breaks, { min: low, max, least }),
    least,
    min: low,
    max,
    km2: classification ? km2Of(values, breaks, surface ? cellKm2(surface.grid) : 0) : [],
    remark: surface?.remark ?? '',
    distances: source.byDistance && surface ? distanceWords(surface.grid) : '',
    figures: surface?.figures ?? [],
  }
}

type Sample = { values: Float64Array; sizes: Float64Array }
const groundOf = ({ sizes }: Sample): Ground => ({ sizes, neighbours: null })

/** Values of cells, evenly taken from those that are shown, each with the ground that it stands for. */
function sampleOf({ values, perCell }: Cells, least: number | null): Sample {
  let shown = 0
  for (const value of values) if (isShown(value, least)) shown++
  const every = Math.max(1, shown / mostSampled)
  const sample = new Float64Array(Math.ceil(shown / every) || 0)
  let [seen, taken] = [0, 0]
  for (const value of values) {
    if (!isShown(value, least)) continue
    if (seen >= taken * every && taken < sample.length) sample[taken++] = value
    seen++
  }
  return {
    values: sample.slice(0, taken),
    sizes: new Float64Array(taken).fill(taken ? (perCell * shown) / taken : 0),
  }
}

/** The values of several surfaces as if they lay beside each other. */
function pooled(samples: Sample[]): NonNullable<SurfacePlan['pool']> {
  const joined = (which: keyof Sample) => Float64Array.from(samples.flatMap((one) => [...one[which]]))
  return { values: joined('values'), ground: { sizes: joined('sizes'), neighbours: null } }
}

/** Values of cells, and m² of ground under each. */
type Cells = { values: Float64Array; perCell: number }
const noCells: Cells = { values: new Float64Array(0), perCell: 0 }

/** The cells that count: those within the areas that a surface is kept to. */
const countedOf = ({ grid, within }: Surface): Cells => ({
  values: within ? grid.values.map((value, i) => (within[i] ? value : NaN)) : grid.values,
  perCell: cellKm2(grid) * 1e6,
})

/** Where lines run: at whole numbers of the interval, or at the breaks. */
export function levelsOf(
  { interval }: Pick<SurfaceLook, 'interval'>,
  breaks: number[],
  { min, max, least }: Pick<SurfacePlan, 'min' | 'max' | 'least'>,
): number[] {
  if (interval === null) return [...(least === null ? [] : breaks.slice(0, 1)), ...breaks.slice(1, -1)]
  const first = Math.ceil(min / interval - 1e-9)
  const count = Math.floor(max / interval + 1e-9) - first + 1
  if (!(count > 0)) return []
  return Array.from({ length: Math.min(count, mostLevels) }, (_, i) => round((first + i) * interval))
}

const round = (value: number): number => Number(value.toPrecision(12))

function km2Of(values: Float64Array, breaks: number[], each: number): number[] {
  const km2 = new Array<number>(Math.max(0, breaks.length - 1)).fill(0)
  for (const value of values) {
    if (!(value >= breaks[0])) continue
    let k = 0
    while (k < km2.length - 1 && value >= breaks[k + 1]) k++
    km2[k] += each
  }
  return km2
}
