import {
  boundsIn,
  integralOf,
  latticeOver,
  placesIn,
  planeFor,
  valueAt,
  type Grid,
  type Lattice,
} from '@/core/grid/grid'
import { adapted, kernelDensity, pointCounts, reachOf, silverman } from '@/core/grid/kernel-density'
import { cellsWithin } from '@/core/grid/rasterise'
import { within, type Steps } from '@/core/grid/steps'
import type { Dataset } from '@/core/data/dataset'
import { extentOf } from '@/core/geo/extent'
import { createMemory } from '@/core/memory/memory'
import { formatNumber } from '@/core/classify/labels'
import type { KindData } from '../kind'
import { leftOutWords, pointWeights } from '@/core/data/point-weights'
import type { Surface, SurfaceSource } from '../surfaces/surface'
import { lowerFirst } from '../values'
import type { DensitySettings } from './spec'

/** Cells to a bandwidth: finer ones are not seen. */
const perBandwidth = 10
const mostAutomatic = 300_000

const rememberRuled = createMemory<Dataset, number>('bandwidths by rule', { maxBytes: 2 ** 16 })

/** The bandwidth by Silverman's rule for what is shown, in km; NaN for fewer than two points. Reckoned once. */
export const ruledBandwidthKm = (
  { weight, kernel }: Pick<DensitySettings, 'weight' | 'kernel'>,
  { dataset }: Pick<KindData, 'dataset'>,
): number =>
  rememberRuled(dataset, JSON.stringify([weight, kernel]), () => {
    const { geometry } = dataset
    const extent = extentOf([geometry])
    if (geometry.kind !== 'points' || !extent) return NaN
    const { lonLat, weights } = pointWeights(dataset, weight)
    return silverman(placesIn(planeFor(extent), lonLat), weights, kernel) / 1000
  })

/** The bandwidth that is used, in km. */
export const bandwidthOf = (settings: DensitySettings, data: Pick<KindData, 'dataset'>): number =>
  settings.bandwidthKm ?? (ruledBandwidthKm(settings, data) || 10)

/** The cells that a density is reckoned on. */
export function densityLattice(settings: DensitySettings, data: Pick<KindData, 'dataset'>): Lattice | null {
  const { geometry } = data.dataset
  const bandwidthM = bandwidthOf(settings, data) * 1000
  const cell = settings.cellKm ? settings.cellKm * 1000 : bandwidthM / perBandwidth
  const marginM = bandwidthM * reachOf(settings.kernel) * (settings.adaptive ? 2 : 1) + cell
  return latticeOver([geometry], { cell, marginM, ...(settings.cellKm ? {} : { most: mostAutomatic }) })
}

function* makeDensity(settings: DensitySettings, data: KindData): Steps<Surface | null> {
  const lattice = densityLattice(settings, data)
  if (!lattice) return null
  const points = pointWeights(data.dataset, settings.weight)
  const places = placesIn(lattice.plane, points.lonLat)
  const { weights } = points
  const { kernel } = settings
  const bandwidthM = bandwidthOf(settings, data) * 1000
  const ground = settings.mask && data.datasetOf(settings.mask.datasetId)
  const mask = ground?.geometry.kind === 'areas' ? cellsWithin(ground.geometry, lattice) : null
  let bandwidth: number | Float64Array = bandwidthM
  if (settings.adaptive) {
    const { grid } = yield* within(
      kernelDensity(lattice, { places, weights }, { kernel, bandwidth, mask: null }),
      0,
      0.4,
    )
    const first = Float64Array.from(points.features, (_, i) =>
      valueAt(grid, places[2 * i], places[2 * i + 1]),
    )
    bandwidth = adapted(bandwidthM, first, weights)
  }
  const { grid, lost } = yield* within(
    kernelDensity(lattice, { places, weights }, { kernel, bandwidth, mask }),
    settings.adaptive ? 0.4 : 0,
    0.9,
  )
  const inside = mask ? { ...grid, values: grid.values.map((value, i) => (mask[i] ? value : NaN)) } : grid
  const doubt = settings.uncertain ? pointCounts(lattice, places, bandwidthM) : null
  return {
    grid: scaled(grid, settings.perKm2),
    within: mask,
    doubt,
    remark: [
      leftOutWords(points),
      ...(lost > 0
        ? [
            `${formatNumber(lost, 0)} of the whole lie too far outside of the areas that the map is kept within.`,
          ]
        : []),
    ]
      .filter(Boolean)
      .join(' '),
    figures: [
      `${formatNumber(bandwidthM / 1000, bandwidthM < 1e4 ? 2 : 1)} km bandwidth${settings.bandwidthKm === null ? ', by rule' : ''}`,
      `${formatNumber(lattice.columns, 0)} × ${formatNumber(lattice.rows, 0)} cells of ${formatNumber(lattice.cell / 1000, lattice.cell < 1000 ? 3 : 2)} km`,
      `${formatNumber(integralOf(inside), 0)} in all under the surface`,
    ],
  }
}

const scaled = (grid: Grid, by: number): Grid => ({ ...grid, values: grid.values.map((value) => value * by) })

/** What points or their weights are called. */
const thingOf = ({ weight }: DensitySettings, { name, fieldMeta }: KindData): string =>
  weight === null ? name.toLowerCase() : lowerFirst(fieldMeta(weight).label)

export const densitySource: SurfaceSource<DensitySettings> = {
  key: ({ weight, kernel, bandwidthKm, adaptive, cellKm, perKm2, mask, uncertain }) =>
    JSON.stringify([
      'density',
      weight,
      kernel,
      bandwidthKm,
      adaptive,
      cellKm,
      perKm2,
      mask,
      uncertain !== null,
    ]),
  make: makeDensity,
  rough(settings, data) {
    const lattice = densityLattice(settings, data)
    return lattice ? { ...settings, cellKm: (lattice.cell / 1000) * 4 } : settings
  },
  needs: ({ mask }) => (mask ? [mask.datasetId] : []),
  heading: (settings, data) => `Density of ${thingOf(settings, data)}`,
  unit({ weight, perKm2 }, { fieldMeta }) {
    const unit = weight === null ? '' : fieldMeta(weight).unit
    const ground = perKm2 === 1 ? 'km²' : `${formatNumber(perKm2, 0)} km²`
    return `${unit} per ${ground}`.trim()
  },
  finer: null,
  byDistance: true,
  ownGround: null,
  least: (max) => Number((max / 50).toPrecision(1)),
  doubt: { few: true, words: (limit) => `fewer than ${limit} points within the bandwidth` },
}

/** km² for which values of a density are easy to read: a thousand times a thousand points in this much ground. */
export function proposedPerKm2(data: Pick<KindData, 'dataset'>, weight: string | null): number {
  const { geometry } = data.dataset
  const extent = extentOf([geometry])
  if (geometry.kind !== 'points' || !extent) return 1
  const [x0, y0, x1, y1] = boundsIn(planeFor(extent), [geometry])
  const { weights, features } = pointWeights(data.dataset, weight)
  const sum = weights ? weights.reduce((all, w) => all + w, 0) : features.length
  const mean = sum / (((x1 - x0) / 1000) * ((y1 - y0) / 1000) || 1)
  return [1, 100, 10_000, 1_000_000].find((per) => mean * per >= 0.3) ?? 1_000_000
}
