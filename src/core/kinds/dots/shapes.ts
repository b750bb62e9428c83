import { featureAt } from '@/core/geo/feature-at'
import { flatPolygons } from '@/core/geo/sphere/flat'
import type { KindData } from '../kind'
import { placeDots } from './place'
import type { DotPlan } from './plan'
import { milestones, type Steps } from '@/core/grid/steps'
import { randomFrom, type Random } from '@/core/grid/random'
import type { DotSettings } from './spec'

/**
 * Dots in drawing order, in runs of one field each; a run's places are longitude and latitude by turns. `strayed` are
 * dots of areas that have no ground where they were to be kept.
 */
export type DotShapes = { runs: { field: number; lonLat: Float64Array }[]; strayed: number }

/** Dots of several fields are drawn in so many rounds, each with its share of every field. */
const rounds = 48

/** What of the settings decides where dots lie. */
export const dotShapesKey = ({ fields, each, mask, seed }: DotSettings): string =>
  JSON.stringify([fields.map(({ field }) => field), each, mask, seed])

export function* makeDotShapes(
  { counts }: DotPlan,
  { mask, seed }: DotSettings,
  { dataset, datasetOf }: Pick<KindData, 'dataset' | 'datasetOf'>,
): Steps<DotShapes> {
  const { geometry } = dataset
  if (geometry.kind !== 'areas') return { runs: [], strayed: 0 }
  const other = mask && datasetOf(mask.datasetId)?.geometry
  const keep =
    mask && other?.kind === 'areas'
      ? (lon: number, lat: number) => featureAt(other, lon, lat) >= 0 === mask.within
      : undefined
  const places = counts.map((own) => new Float64Array(2 * own.reduce((sum, n) => sum + n, 0)))
  const filled = counts.map(() => 0)
  const total = places.reduce((sum, { length }) => sum + length / 2, 0)
  const tell = milestones(5000)
  let strayed = 0
  for (let f = 0; f < dataset.rowCount; f++) {
    const inAll = counts.reduce((sum, own) => sum + own[f], 0)
    if (!inAll) continue
    if (tell.due(inAll)) yield tell.done / total
    const random = randomFrom(seed, f)
    const placed = placeDots(flatPolygons(geometry, f), inAll, { random, keep })
    strayed += placed.strayed
    // Dots of an area are dealt out to its fields by chance, so that each field is even in itself as well.
    const deal = dealt(
      counts.map((own) => own[f]),
      random,
    )
    deal.forEach((field, i) => {
      places[field][filled[field]++] = placed.lonLat[2 * i]
      places[field][filled[field]++] = placed.lonLat[2 * i + 1]
    })
  }
  if (places.length === 1) return { runs: [{ field: 0, lonLat: places[0] }], strayed }
  return { runs: inRounds(places, randomFrom(seed, -1)), strayed }
}

/** As many of each number as wanted, in an order of chance. */
function dealt(wanted: readonly number[], random: Random): number[] {
  const all = wanted.flatMap((n, field) => new Array<number>(n).fill(field))
  if (wanted.length > 1) shuffle(all.length, random, (i, j) => ([all[i], all[j]] = [all[j], all[i]]))
  return all
}

/** The order of Fisher and Yates (Durstenfeld 1964). */
function shuffle(count: number, random: Random, swap: (i: number, j: number) => void): void {
  for (let i = count - 1; i > 0; i--) swap(i, Math.floor(random() * (i + 1)))
}

/** No field lies over all of another: each round draws a share of every one. */
function inRounds(places: Float64Array[], random: Random): DotShapes['runs'] {
  for (const own of places)
    shuffle(own.length / 2, random, (i, j) => {
      ;[own[2 * i], own[2 * j]] = [own[2 * j], own[2 * i]]
      ;[own[2 * i + 1], own[2 * j + 1]] = [own[2 * j + 1], own[2 * i + 1]]
    })
  return Array.from({ length: rounds }, (_, round) =>
    places.map((own, i) => {
      const count = own.length / 2
      const [from, to] = [round, round + 1].map((n) => 2 * Math.round((count * n) / rounds))
      // The first field is not the lowest in each round.
      return { field: i, order: (i + round) % places.length, lonLat: own.slice(from, to) }
    }),
  )
    .flatMap((round) => round.sort((a, b) => a.order - b.order))
    .filter(({ lonLat }) => lonLat.length > 0)
    .map(({ field, lonLat }) => ({ field, lonLat }))
}
