import type { Position } from 'geojson'
import { eastward } from './longitudes'
import type { Ring } from './nest'

type Strand = { places: Position[]; from: number; to: number }

/** Whether the edge that leads to place `i` of a ring runs along a meridian. */
export const runsAlong = (ring: Ring, i: number, line: number): boolean =>
  i > 0 && ring[i][0] === line && ring[i - 1][0] === line

/**
 * Rings with the parts along a meridian, the line that a file is cut at, taken out that run there both ways, and
 * what is left joined end to end. A ring that vanishes in doing so was the frame of the whole map.
 */
export function stitch(rings: Ring[], line: number): Ring[] {
  const whole: Ring[] = []
  const strands: Strand[] = []
  const north: [number, number][] = []
  const south: [number, number][] = []
  const onLine = (ring: Ring, i: number): boolean => runsAlong(ring, i, line)
  const onTheLine = (lat: number): Position => [line, lat]
  let frames = 0
  for (const ring of rings) {
    const cuts: number[] = []
    for (let i = 1; i < ring.length; i++) if (onLine(ring, i)) cuts.push(i)
    if (!cuts.length) {
      whole.push(ring)
      continue
    }
    if (isWholeGlobeRing(ring)) frames++
    for (const i of cuts) {
      const [a, b] = [ring[i - 1][1], ring[i][1]]
      if (b > a) north.push([a, b])
      else if (b < a) south.push([b, a])
    }
    cuts.forEach((start, k) => {
      const end = cuts[(k + 1) % cuts.length]
      // From the end of one part along the line to the beginning of the next, round the closing vertex.
      const places: Position[] = []
      const count = (end - 1 - start + ring.length - 1) % (ring.length - 1)
      for (let j = 0; j <= count; j++) places.push(ring[((start + j - 1) % (ring.length - 1)) + 1])
      if (count > 0) strands.push({ places, from: places[0][1], to: places[count][1] })
    })
  }
  const [up, down] = leftOver(north, south, strands)
  for (const [a, b] of up) strands.push({ places: [onTheLine(a), onTheLine(b)], from: a, to: b })
  for (const [a, b] of down) strands.push({ places: [onTheLine(b), onTheLine(a)], from: b, to: a })
  const joined = join(strands)
  if (frames && !joined.some((ring) => turnsOf(ring) !== 0)) joined.unshift(wholeGlobe())
  return [...joined, ...whole]
}

/** Whether a ring runs along one meridian from pole to pole and back. */
export function isWholeGlobeRing(ring: Ring): boolean {
  let [south, north] = [false, false]
  for (const [lon, lat] of ring) {
    if (lon !== ring[0][0]) return false
    if (lat <= -90) south = true
    else if (lat >= 90) north = true
  }
  return south && north
}

/** The ring that encloses the whole globe, as the store has it: along the date line. */
const wholeGlobe = (): Ring => [
  [180, -90],
  [180, 90],
  [180, -90],
]

const turnsOf = (ring: Ring): number =>
  Math.round(ring.reduce((sum, [lon], i) => (i ? sum + eastward(ring[i - 1][0], lon) : sum), 0) / 360)

/** The stretches of latitude that are run along one way only, cut at every end of a strand. */
function leftOver(
  north: [number, number][],
  south: [number, number][],
  strands: Strand[],
): [[number, number][], [number, number][]] {
  const ends = [
    ...new Set([...north, ...south].flat().concat(strands.flatMap(({ from, to }) => [from, to]))),
  ].sort((a, b) => a - b)
  const up: [number, number][] = []
  const down: [number, number][] = []
  const times = (list: [number, number][], a: number, b: number) =>
    list.filter(([from, to]) => from <= a && to >= b).length
  for (let i = 1; i < ends.length; i++) {
    const [a, b] = [ends[i - 1], ends[i]]
    const rest = times(north, a, b) - times(south, a, b)
    for (let k = 0; k < Math.abs(rest); k++) (rest > 0 ? up : down).push([a, b])
  }
  return [up, down]
}

/** Strands joined end to end into closed rings. */
function join(strands: Strand[]): Ring[] {
  const open = new Map<number, Strand[]>()
  for (const strand of strands) open.set(strand.from, [...(open.get(strand.from) ?? []), strand])
  const rings: Ring[] = []
  const used = new Set<Strand>()
  for (const first of strands) {
    if (used.has(first)) continue
    const ring: Position[] = [...first.places]
    used.add(first)
    let at = first.to
    while (at !== first.from) {
      const next = open.get(at)?.find((strand) => !used.has(strand))
      if (!next) break
      used.add(next)
      ring.push(...next.places.slice(1))
      at = next.to
    }
    // Ends that fit nothing are closed straight, along the line that they lie on.
    if (ring[0][0] !== ring[ring.length - 1][0] || ring[0][1] !== ring[ring.length - 1][1]) ring.push(ring[0])
    if (ring.length >= 4) rings.push(ring)
  }
  return rings
}
