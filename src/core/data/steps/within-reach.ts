import { z } from 'zod'
import Flatbush from 'flatbush'
import { extentOf } from '@/core/geo/extent'
import { distanceWords } from '../distance-words'
import { latticeOver, placesIn, planeFor } from '@/core/grid/grid'
import { costsFrom, costTo, nearestPlace, networkOf, type Network } from '@/core/grid/network'
import { wrapped } from '@/core/geo/sphere/longitudes'
import { geodesicMetres, inSpace } from '@/core/projection/ground'
import { numberColumn, numbersOf } from '../column'
import { fieldOf, geometriesOf, type Dataset } from '../dataset'
import { featurePlaces } from '../feature-places'
import { keyFrom } from './derive'
import { freeKey, otherOf, StepProblem, type Others, type StepKind } from './step'

export const WithinReachSettings = z.object({
  /** Whose places are reached. */
  datasetId: z.string(),
  /** What is added up of them; empty counts them. */
  field: z.string(),
  /** Lines that one goes along; empty goes straight. */
  along: z.string(),
  /** Speed on them in km/h; empty counts kilometres. */
  speed: z.string(),
  /** Kilometres, or minutes where lines have a speed. */
  limit: z.number().positive().max(100_000),
  label: z.string(),
})
export type WithinReachSettings = z.infer<typeof WithinReachSettings>

/** Ends of lines that lie so near to another one are joined to it, m. */
const toleranceM = 100
/** Going beside the lines, seconds for a metre: on foot. */
const walking = 3.6 / 5

type Reached = { places: Float64Array; weights: Float64Array }

function reachedOf({ field }: WithinReachSettings, dataset: Dataset): Reached {
  const column = field ? fieldOf(dataset, field) : null
  if (field && !column) throw new StepProblem(`There is no field ${field}.`)
  return {
    places: featurePlaces(dataset),
    weights: column ? numbersOf(column) : new Float64Array(dataset.rowCount).fill(1),
  }
}

/** For each feature, how much of another dataset lies within a distance or a time of it. */
export const withinReach: StepKind<WithinReachSettings> = {
  label: 'Within reach',
  about: 'shapes',
  settings: WithinReachSettings,
  form: [
    { name: 'datasetId', label: 'Places', control: 'dataset', geometry: ['points', 'areas'] },
    { name: 'field', label: 'Adding up', control: 'field', kind: 'number', of: 'datasetId', optional: true },
    { name: 'along', label: 'Going', control: 'dataset', geometry: ['lines'], none: 'straight' },
    { name: 'speed', label: 'Speed, km/h', control: 'field', kind: 'number', of: 'along', optional: true },
    {
      name: 'limit',
      label: 'Within',
      control: 'number',
      unit: 'km, or min with a speed',
      min: 0.001,
      step: 1,
    },
    { name: 'label', label: 'Called', control: 'text' },
  ],
  accepts: ({ dataset }) => dataset.geometry.kind === 'areas' || dataset.geometry.kind === 'points',
  initial: (_, others) => ({
    datasetId: others.find(({ dataset }) => dataset.geometry.kind === 'points')?.datasetId ?? '',
    field: '',
    along: '',
    speed: '',
    limit: 30,
    label: 'Within 30 km',
  }),
  needs: ({ datasetId, along }) => [datasetId, ...(along ? [along] : [])],
  words: ({ datasetId, limit, speed }, name) =>
    `${name(datasetId)} within ${limit} ${speed ? 'minutes' : 'km'}`,
  apply(settings, from, others, work) {
    const other = otherOf(others, settings.datasetId).dataset
    const reached = reachedOf(settings, other)
    const own = featurePlaces(from.dataset)
    const extent = extentOf([...geometriesOf(from.dataset), ...geometriesOf(other)])
    if (!extent) throw new StepProblem('There are no places.')
    const plane = planeFor(extent)
    const { places, weights } = reached
    const lost = weights.filter((w, i) => !Number.isFinite(w) || Number.isNaN(places[2 * i])).length
    if (lost) work.remark(`${lost.toLocaleString('en-GB')} places without a value or a place count nothing.`)
    const lattice = settings.along
      ? latticeOver([...geometriesOf(from.dataset), ...geometriesOf(other)], { cell: 1, most: 4 })
      : null
    const far = lattice && distanceWords(lattice)
    if (far) work.remark(`${far} Those along the lines are measured on the ground.`)
    const sums = settings.along
      ? alongLines(
          settings,
          { here: placesIn(plane, own), there: placesIn(plane, places), weights },
          networkFor(settings, plane, others),
          work.tell,
        )
      : straight(settings.limit * 1000, { own, other: places, weights }, work.tell)
    const fields = [...from.dataset.fields]
    const key = freeKey(fields, keyFrom(settings.label))
    fields.push({ key, column: numberColumn([...sums].map((sum) => (Number.isNaN(sum) ? null : sum))) })
    const unit = settings.field
      ? (otherOf(others, settings.datasetId).fieldMeta?.(settings.field).unit ?? '')
      : ''
    return {
      ...from,
      dataset: { ...from.dataset, fields },
      origins: new Map(from.origins).set(key, { datasetId: from.datasetId, key }),
      made: new Map(from.made).set(key, { label: settings.label, unit, role: 'total' }),
    }
  },
}

/** 180 times the length of the shortest degree of the ellipsoid, that of a meridian at the equator, m. */
const halfRound = 19_903_000

/**
 * For each place, the weights of others within a distance along the ground, measured on the ellipsoid. Those that may
 * be so near are found by longitude and latitude, over the date line and the poles as well.
 */
function straight(
  limit: number,
  { own, other, weights }: { own: Float64Array; other: Float64Array; weights: Float64Array },
  tell: (share: number) => void,
): Float64Array {
  const usable = [...weights.keys()].filter(
    (i) => Number.isFinite(weights[i]) && Number.isFinite(other[2 * i]) && Number.isFinite(other[2 * i + 1]),
  )
  const index = usable.length ? new Flatbush(usable.length) : null
  for (const i of usable) {
    const lon = wrapped(other[2 * i])
    index?.add(lon, other[2 * i + 1], lon, other[2 * i + 1])
  }
  index?.finish()
  const span = (180 * limit) / halfRound
  const isWithin = reachTest(limit, own, other)
  return Float64Array.from({ length: own.length / 2 }, (_, f) => {
    if (f % 256 === 255) tell((2 * f) / own.length)
    const [lon, lat] = [wrapped(own[2 * f]), own[2 * f + 1]]
    if (!Number.isFinite(lon) || !Number.isFinite(lat)) return NaN
    let sum = 0
    for (const [west, east] of longitudesWithin(lon, lat, span))
      for (const n of index?.search(west, lat - span, east, lat + span) ?? []) {
        const i = usable[n]
        if (isWithin(f, i)) sum += weights[i]
      }
    return sum
  })
}

/** The least radius of curvature of the ellipsoid, that of the meridian at the equator, m. */
const leastRadius = 6_335_439

/**
 * Whether a place lies within a distance along the ground of another one, both by number. Geodesics are reckoned only
 * where the straight chord does not tell: it is never longer than the geodesic, and no shorter than the chord of an
 * arc of the same length on a sphere of the least radius of curvature (Schur's theorem on chords of bent curves).
 */
function reachTest(limit: number, own: Float64Array, other: Float64Array) {
  const [from, to] = [inSpace(own), inSpace(other)]
  const half = limit / (2 * leastRadius)
  const surely = half < Math.PI / 2 ? (2 * leastRadius * Math.sin(half)) ** 2 * (1 - 1e-12) : 0
  const never = limit ** 2 * (1 + 1e-12)
  return (f: number, i: number): boolean => {
    const chord =
      (from[3 * f] - to[3 * i]) ** 2 +
      (from[3 * f + 1] - to[3 * i + 1]) ** 2 +
      (from[3 * f + 2] - to[3 * i + 2]) ** 2
    if (chord > never) return false
    if (chord <= surely) return true
    return geodesicMetres([own[2 * f], own[2 * f + 1]], [other[2 * i], other[2 * i + 1]]) <= limit
  }
}

/** Longitudes within an angle of a place, as one or two intervals between −180 and 180 degrees. */
function longitudesWithin(lon: number, lat: number, span: number): [west: number, east: number][] {
  if (span >= 90 || Math.abs(lat) + span >= 90) return [[-180, 180]]
  const rad = Math.PI / 180
  // On the ellipsoid it is a little more than on the sphere.
  const half = (1.01 * Math.asin(Math.sin(span * rad) / Math.cos(lat * rad))) / rad
  const [west, east] = [lon - half, lon + half]
  if (!(half < 180)) return [[-180, 180]]
  if (west < -180)
    return [
      [-180, east],
      [west + 360, 180],
    ]
  if (east > 180)
    return [
      [west, 180],
      [-180, east - 360],
    ]
  return [[west, east]]
}

function networkFor(
  { along, speed }: WithinReachSettings,
  plane: Parameters<typeof networkOf>[1],
  others: Others,
): Network {
  const lines = otherOf(others, along).dataset
  const column = speed ? fieldOf(lines, speed) : null
  if (speed && !column) throw new StepProblem(`There is no field ${speed} on the lines.`)
  const paces = column ? numbersOf(column).map((kmh) => 3.6 / kmh) : null
  const network = networkOf(lines.geometry, plane, { toleranceM, paces })
  if (!network) throw new StepProblem('There are no lines that one could go along, or none with a speed.')
  return network
}

function alongLines(
  { speed, limit }: WithinReachSettings,
  { here, there, weights }: { here: Float64Array; there: Float64Array; weights: Float64Array },
  network: Network,
  tell: (share: number) => void,
): Float64Array {
  const most = speed ? limit * 60 : limit * 1000
  const pace = speed ? walking : 1
  const targets = [...weights.keys()].flatMap((i) =>
    Number.isFinite(weights[i]) && Number.isFinite(there[2 * i])
      ? [{ i, at: nearestPlace(network, there[2 * i], there[2 * i + 1]) }]
      : [],
  )
  return Float64Array.from({ length: here.length / 2 }, (_, f) => {
    tell((2 * f) / here.length)
    const [x, y] = [here[2 * f], here[2 * f + 1]]
    if (Number.isNaN(x)) return NaN
    const source = nearestPlace(network, x, y)
    const costs = costsFrom(network, source, most)
    let sum = 0
    for (const { i, at } of targets) {
      const off = source.off + at.off
      const direct = Math.hypot(there[2 * i] - x, there[2 * i + 1] - y)
      const cost = direct <= off ? direct * pace : off * pace + costTo(network, costs, source, at)
      if (cost <= most) sum += weights[i]
    }
    return sum
  })
}
