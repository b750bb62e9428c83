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
export function borderFaults(areas: Areas): BorderFault[] {
  const sides = arcNeighbours(areas)
  return [...gaps(areas, sides), ...overlaps(areas, sides)]
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

const mostLookups = 600_000

/**
 * Vertices of unshared borders that lie inside another area; one for each pair of areas. Of very many
 * vertices some are looked at.
 */
function overlaps(areas: Areas, sides: Int32Array): BorderFault[] {
  const { coords } = areas.arcs
  const faults = new Map<string, BorderFault>()
  const alone = new Set<number>()
  for (let arc = 0; arc + 1 < areas.arcs.starts.length; arc++)
    if (sides[2 * arc] >= 0 && sides[2 * arc + 1] < 0) alone.add(arc)
  if (!alone.size) return []
  const total = [...alone].reduce((sum, arc) => sum + areas.arcs.starts[arc + 1] - areas.arcs.starts[arc], 0)
  const stride = Math.max(1, Math.ceil(total / mostLookups))
  const onBorder = verticesOf(areas)
  for (let f = 0; f < featureCount(areas); f++) {
    const [from, to] = ringRange(areas, f)
    for (let r = from; r < to; r++) {
      const inRing: number[] = []
      for (let k = areas.ringStarts[r]; k < areas.ringStarts[r + 1]; k++) {
        const arc = areas.refs[k] < 0 ? ~areas.refs[k] : areas.refs[k]
        if (alone.has(arc))
          for (let v = areas.arcs.starts[arc]; v < areas.arcs.starts[arc + 1]; v += stride) inRing.push(v)
      }
      for (const v of inRing) {
        const other = featureAt(areas, coords[2 * v], coords[2 * v + 1])
        if (other < 0 || other === f || onBorder(v, other)) continue
        const key = `${Math.min(f, other)} ${Math.max(f, other)}`
        if (!faults.has(key))
          faults.set(key, {
            row: Math.min(f, other),
            what: 'overlaps',
            at: [coords[2 * v], coords[2 * v + 1]],
          })
      }
    }
  }
  return [...faults.values()]
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
