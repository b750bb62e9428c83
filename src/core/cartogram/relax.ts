import Flatbush from 'flatbush'
import type { Steps } from '@/core/grid/steps'
import type { Link } from './plane'

export type Body = 'circles' | 'squares'

type Moving = { at: Float64Array; sizes: Float64Array; from: Float64Array; body: Body }

/** Of these rounds the first part draws neighbours together as well as pushing apart what overlaps. */
const [leastRounds, mostRounds] = [60, 260]
const drawnTogether = 0.85
/** They begin with this share of their size, and have all of it after that share of the rounds. */
const [fromSize, grownAfter] = [0.3, 0.5]
/** How much of what is wrong with a pair is made good in a round. */
const pull = 0.35
/** No more rounds than this for pushing the last overlaps apart. */
const lastRounds = 600
/** What two may overlap in the end, as a share of the smaller one. */
const tolerated = 1e-4

/**
 * Circles or squares of given sizes, moved until none overlaps another: in every round those that overlap go apart,
 * the smaller one farther, and those that are linked are drawn to each other by their common border (Dorling 1996,
 * “Area cartograms: their use and creation”, of which this is the first part; squares after Demers). Nothing is left to
 * chance: the same give the same.
 * @param places x and y by turns; NaN for what is not there
 * @param sizes radius, or half a side, in the unit of the places; 0 for what is not there
 * @returns the places they have come to
 */
export function* relaxed(
  places: Float64Array,
  sizes: Float64Array,
  links: Link[],
  body: Body,
): Steps<Float64Array> {
  const there = [...sizes.keys()].filter((i) => sizes[i] > 0 && Number.isFinite(places[2 * i]))
  const at = Float64Array.from(places)
  // What lies on one place could not tell which way to go.
  for (const i of there) {
    at[2 * i] += 1e-3 * sizes[i] * Math.cos(2.4 * i)
    at[2 * i + 1] += 1e-3 * sizes[i] * Math.sin(2.4 * i)
  }
  const own = links.filter(({ a, b }) => sizes[a] > 0 && sizes[b] > 0)
  const rounds = Math.round(Math.max(leastRounds, Math.min(mostRounds, 400_000 / Math.max(1, there.length))))
  const grown = new Float64Array(sizes.length)
  for (let round = 0; round < rounds; round++) {
    // They grow on their places, so that each makes room for itself without jumping over others.
    const growth = Math.min(1, fromSize + (1 - fromSize) * (round / (grownAfter * rounds)))
    for (const i of there) grown[i] = growth * sizes[i]
    const heat = Math.max(0, 1 - round / (drawnTogether * rounds))
    if (heat > 0)
      for (const link of own) drawTogether({ at, sizes: grown, from: places, body }, link, pull * heat)
    pushApart(at, grown, there, body)
    yield (0.9 * round) / rounds
  }
  for (let round = 0; round < lastRounds && pushApart(at, sizes, there, body) > tolerated; round++)
    yield 0.9 + (0.1 * round) / lastRounds
  return at
}

/** What two stand apart: between circles one number, between squares one for each axis; below zero they overlap. */
export function apart(at: Float64Array, sizes: Float64Array, a: number, b: number): [dx: number, dy: number] {
  const s = sizes[a] + sizes[b]
  return [Math.abs(at[2 * b] - at[2 * a]) - s, Math.abs(at[2 * b + 1] - at[2 * a + 1]) - s]
}

/**
 * Draws two towards the places in which they touch and the one lies from the other in the direction in which it lies on
 * the ground: `from` are the places there.
 */
function drawTogether(
  { at, sizes, from, body }: Moving,
  { a, b, pullA, pullB, gap }: Link,
  heat: number,
): void {
  const [gx, gy] = [from[2 * b] - from[2 * a], from[2 * b + 1] - from[2 * a + 1]]
  const far = (body === 'circles' ? Math.hypot(gx, gy) : Math.max(Math.abs(gx), Math.abs(gy))) || 1
  const wanted = (sizes[a] + sizes[b] + gap) / far
  const mx = at[2 * b] - at[2 * a] - wanted * gx
  const my = at[2 * b + 1] - at[2 * a + 1] - wanted * gy
  at[2 * a] += heat * pullA * mx
  at[2 * a + 1] += heat * pullA * my
  at[2 * b] -= heat * pullB * mx
  at[2 * b + 1] -= heat * pullB * my
}

/** Pushes apart what overlaps; returns the largest overlap that there was, as a share of the smaller one. */
function pushApart(at: Float64Array, sizes: Float64Array, there: number[], body: Body): number {
  if (there.length < 2) return 0
  const index = new Flatbush(there.length)
  for (const i of there)
    index.add(at[2 * i] - sizes[i], at[2 * i + 1] - sizes[i], at[2 * i] + sizes[i], at[2 * i + 1] + sizes[i])
  index.finish()
  let worst = 0
  for (const [k, i] of there.entries()) {
    const [x, y, s] = [at[2 * i], at[2 * i + 1], sizes[i]]
    for (const m of index.search(x - s, y - s, x + s, y + s).sort((one, other) => one - other)) {
      if (m <= k) continue
      const j = there[m]
      const move = body === 'circles' ? circlesOverlap(at, sizes, i, j) : squaresOverlap(at, sizes, i, j)
      if (!move) continue
      const [mx, my] = move
      worst = Math.max(worst, Math.hypot(mx, my) / Math.min(sizes[i], sizes[j]))
      const share = sizes[j] / (sizes[i] + sizes[j])
      at[2 * i] -= mx * share
      at[2 * i + 1] -= my * share
      at[2 * j] += mx * (1 - share)
      at[2 * j + 1] += my * (1 - share)
    }
  }
  return worst
}

/** How far the second of two has to go from the first; null where they do not overlap. */
function circlesOverlap(
  at: Float64Array,
  sizes: Float64Array,
  i: number,
  j: number,
): [number, number] | null {
  const [dx, dy] = [at[2 * j] - at[2 * i], at[2 * j + 1] - at[2 * i + 1]]
  const far = Math.hypot(dx, dy) || 1e-9
  const over = sizes[i] + sizes[j] - far
  return over > 0 ? [(dx / far) * over, (dy / far) * over] : null
}

function squaresOverlap(
  at: Float64Array,
  sizes: Float64Array,
  i: number,
  j: number,
): [number, number] | null {
  const [ox, oy] = apart(at, sizes, i, j)
  if (ox >= 0 || oy >= 0) return null
  const [dx, dy] = [at[2 * j] - at[2 * i], at[2 * j + 1] - at[2 * i + 1]]
  return ox > oy ? [dx < 0 ? ox : -ox, 0] : [0, dy < 0 ? oy : -oy]
}
