import Flatbush from 'flatbush'
import type { Tell } from './buffer'
import { edgesCross } from './edges-cross'
import { featureAt } from './feature-at'
import { arcNeighbours, eachVertex, featureCount, ringRange, type Areas } from './geometry'
import { groundAreas, groundLengths } from './measure'
import { mergeGeometry } from './merge'

/** A place where areas that should share a border do not. */
export type BorderFault = { row: number; what: 'overlaps' | 'gap'; at: [number, number] }

/** Gaps are thinner than this: 4π · area / perimeter², 1 for a circle (Cox 1927). */
const thin = 0.18
/** … and smaller than this share of the middle-sized area. */
const small = 0.05

/**
 * Slivers: thin gaps that neighbours enclose between them, and borders that run inside another area.
 * Neighbours whose borders are equal vertex by vertex have neither. Lakes and enclaves are no gaps, being
 * compact or large.
 */
export function borderFaults(areas: Areas, tell: Tell = () => undefined): BorderFault[] {
  const sides = arcNeighbours(areas)
  const found = gaps(areas, sides)
  tell(0.2)
  return [...found, ...overlaps(areas, sides, (share) => tell(0.2 + 0.8 * share))]
}

function gaps(areas: Areas, sides: Int32Array): BorderFault[] {
  const whole = mergeGeometry(areas, new Int32Array(featureCount(areas)), 1)
  if (whole.kind !== 'areas') return []
  const holes: number[] = []
  for (let p = 0; p + 1 < whole.polygonStarts.length; p++)
    for (let r = whole.polygonStarts[p] + 1; r < whole.polygonStarts[p + 1]; r++) holes.push(r)
  if (!holes.length) return []
  const sizes = [...groundAreas(areas)].sort((a, b) => a - b)
  const middle = sizes[Math.floor(sizes.length / 2)]
  // Each hole as a feature of its own, so that it can be measured.
  const runs = holes.map((r) => whole.refs.subarray(whole.ringStarts[r], whole.ringStarts[r + 1]))
  const starts = Uint32Array.from({ length: holes.length + 1 }, (_, i) => i)
  const ringStarts = new Uint32Array(holes.length + 1)
  runs.forEach((run, i) => (ringStarts[i + 1] = ringStarts[i] + run.length))
  const alone: Areas = {
    kind: 'areas',
    arcs: whole.arcs,
    refs: Int32Array.from(runs.flatMap((run) => [...run])),
    ringStarts,
    polygonStarts: starts,
    featureStarts: starts,
  }
  const [measured, lengths] = [groundAreas(alone), groundLengths(alone)]
  return holes.flatMap((_, i): BorderFault[] => {
    const size = Math.abs(measured[i])
    const around = new Set([...runs[i]].map((ref) => sides[2 * (ref < 0 ? ~ref : ref)]))
    if (around.size < 2 || size > small * middle || (4 * Math.PI * size) / lengths[i] ** 2 > thin) return []
    const first = alone.arcs.starts[runs[i][0] < 0 ? ~runs[i][0] : runs[i][0]]
    return [
      {
        row: Math.min(...around),
        what: 'gap',
        at: [alone.arcs.coords[2 * first], alone.arcs.coords[2 * first + 1]],
      },
    ]
  })
}

/** Vertices of each unshared border that are looked up in the other areas. */
const looksPerArc = 4
/** Every vertex of borders that have no more. */
const shortArc = 16
/** Rings and arcs are many where a file has no neighbours at all; no more is looked at than this. */
const mostLooks = 200_000
const mostIndexed = 3_000_000
const mostVisits = 30_000_000

/**
 * Unshared borders that cross the border of another area or lie inside it; one for each pair of areas. A
 * border that crosses no other lies wholly in or out, so that some of its vertices tell of all.
 */
function overlaps(areas: Areas, sides: Int32Array, tell: Tell): BorderFault[] {
  const alone: number[] = []
  for (let arc = 0; arc + 1 < areas.arcs.starts.length; arc++)
    if (sides[2 * arc] >= 0 && sides[2 * arc + 1] < 0) alone.push(arc)
  if (!alone.length) return []
  const faults = new Map<string, BorderFault>()
  const report = (f: number, other: number, at: [number, number]) => {
    const row = Math.min(f, other)
    const key = `${row} ${Math.max(f, other)}`
    if (!faults.has(key)) faults.set(key, { row, what: 'overlaps', at })
  }
  lookAround(areas, { alone, sides }, { report, tell: (share) => tell(share / 2) })
  crossings(areas, { alone, sides }, { report, tell: (share) => tell(0.5 + share / 2) })
  return [...faults.values()]
}

type Borders = { alone: number[]; sides: Int32Array }
type Report = (feature: number, other: number, at: [number, number]) => void
type Telling = { report: Report; tell: Tell }

function lookAround(areas: Areas, { alone, sides }: Borders, { report, tell }: Telling): void {
  const { coords, starts } = areas.arcs
  const onBorder = verticesOf(areas)
  const perArc = Math.max(1, Math.min(looksPerArc, Math.floor(mostLooks / alone.length)))
  const every = Math.max(1, Math.ceil(alone.length / mostLooks))
  for (let i = 0; i < alone.length; i += every) {
    const arc = alone[i]
    if (i % 256 === 0) tell(i / alone.length)
    const count = starts[arc + 1] - starts[arc]
    const looks = count <= shortArc && perArc === looksPerArc ? count : Math.min(perArc, count)
    for (let look = 0; look < looks; look++) {
      const v = starts[arc] + Math.floor(((look + 0.5) * count) / looks)
      const other = featureAt(areas, coords[2 * v], coords[2 * v + 1])
      if (other < 0 || other === sides[2 * arc] || onBorder(v, other)) continue
      report(sides[2 * arc], other, [coords[2 * v], coords[2 * v + 1]])
    }
  }
}

function crossings(areas: Areas, { alone, sides }: Borders, { report, tell }: Telling): void {
  const { coords, starts } = areas.arcs
  const arcCount = starts.length - 1
  const edgeCount = starts[arcCount] - arcCount
  if (edgeCount > mostIndexed) return
  // Edges across the date line are few, and what they cross has vertices that are looked up.
  const across = (v: number) => Math.abs(coords[2 * v + 2] - coords[2 * v]) > 180
  const arcOf = new Uint32Array(edgeCount)
  const firstOf = new Uint32Array(edgeCount)
  const index = new Flatbush(edgeCount)
  const boxAt = (v: number): [number, number, number, number] => [
    Math.min(coords[2 * v], coords[2 * v + 2]),
    Math.min(coords[2 * v + 1], coords[2 * v + 3]),
    Math.max(coords[2 * v], coords[2 * v + 2]),
    Math.max(coords[2 * v + 1], coords[2 * v + 3]),
  ]
  for (let arc = 0; arc < arcCount; arc++)
    for (let v = starts[arc]; v + 1 < starts[arc + 1]; v++) {
      const edge = across(v) ? index.add(999, 999, 999, 999) : index.add(...boxAt(v))
      arcOf[edge] = arc
      firstOf[edge] = v
    }
  index.finish()
  let visits = 0
  for (const [i, arc] of alone.entries()) {
    if (i % 256 === 0) tell(i / alone.length)
    const own = sides[2 * arc]
    for (let v = starts[arc]; v + 1 < starts[arc + 1] && visits < mostVisits; v++) {
      if (across(v)) continue
      index.search(...boxAt(v), (edge) => {
        visits++
        const met = arcOf[edge]
        if (sides[2 * met] === own || sides[2 * met + 1] === own) return false
        const at = edgesCross(coords, v, firstOf[edge])
        if (at)
          for (const other of [sides[2 * met], sides[2 * met + 1]]) if (other >= 0) report(own, other, at)
        return false
      })
    }
  }
}

/** Tells whether a vertex is also one of an area's own: such a place lies on its border, not inside it. */
function verticesOf(areas: Areas): (vertex: number, feature: number) => boolean {
  const { coords } = areas.arcs
  const known = new Map<number, Set<string>>()
  return (vertex, feature) => {
    let own = known.get(feature)
    if (!own) {
      own = new Set<string>()
      const [from, to] = ringRange(areas, feature)
      for (let r = from; r < to; r++)
        eachVertex(areas, r, (v) => own?.add(`${coords[2 * v]} ${coords[2 * v + 1]}`))
      known.set(feature, own)
    }
    return own.has(`${coords[2 * vertex]} ${coords[2 * vertex + 1]}`)
  }
}
