import { loopsOf, type Frame } from '@/core/projection/frame'
import { featureAt } from '../feature-at'
import { featureCount, type Arcs, type Areas, type Lines } from '../geometry'
import { closedRings, type Tearing } from './close'
import { walkerOf, type Path } from './path'
import { endArc, finished, inOrder, placeArcs, wholeIn, type Builder } from './pieces'
import { holdsNorthPole, isWholeGlobe, polygonHolds } from './rings'

/**
 * A geometry as a frame shows it, in metres. Arcs that the edge of its domain does not cross are shared as before
 * and have the same numbers; those that it crosses are empty, and their pieces follow as arcs of their own,
 * shared by both neighbours. Areas that are torn are closed along the edge; arcs from `cutFrom` on run there.
 * @see the domains of `Frame`
 */
export function tearGeometry<G extends Areas | Lines>(geometry: G, frame: Frame): G {
  const loops = loopsOf(frame.domain)
  const builder: Builder = { coords: [], starts: [0], lobes: [], ends: [] }
  const torn = placeArcs(geometry.arcs, { frame, loops }, builder)
  const at = { frame, loops, builder, torn }
  return (geometry.kind === 'areas' ? tearAreas(geometry, at) : tearLines(geometry, at)) as G
}

/** The arcs in metres where none of them is torn and all lie in one lobe, else null. */
export function placeWhole({ coords, starts }: Arcs, frame: Frame): Arcs | null {
  const walk = walkerOf(frame)
  const path: Path = { xs: [], ys: [] }
  const builder: Builder = { coords: [], starts: [0], lobes: [], ends: [] }
  for (let arc = 0; arc + 1 < starts.length; arc++) {
    walk(coords, [starts[arc], starts[arc + 1]], path)
    const lobe = wholeIn(path, frame)
    if (lobe < 0 || lobe !== (builder.lobes[0] ?? lobe)) return null
    for (let i = 0; i < path.xs.length; i++) {
      const [x, y] = frame.place(path.xs[i], path.ys[i], lobe)
      builder.coords.push(x, y)
    }
    endArc(builder, lobe, [])
  }
  return finished(builder)
}

/** Whether an area may reach all round the edge of a frame without a border of its own there. */
export function reachesRound(areas: Areas, frame: Frame): boolean {
  if (frame.domain.kind === 'cap')
    return loopsOf(frame.domain).some((loop) => featureAt(areas, ...frame.toDegrees(...loop.at(0))) >= 0)
  for (let p = 0; p + 1 < areas.polygonStarts.length; p++)
    if (areas.polygonStarts[p] < areas.polygonStarts[p + 1] && isWholeGlobe(areas, areas.polygonStarts[p]))
      return true
  return false
}

function tearLines(geometry: Lines, { builder, torn }: Tearing): Lines {
  const refs: number[] = []
  const ringStarts = [0]
  const featureStarts = new Uint32Array(geometry.featureStarts.length)
  for (let f = 0; f < featureCount(geometry); f++) {
    for (let r = geometry.featureStarts[f]; r < geometry.featureStarts[f + 1]; r++) {
      const end = () => {
        if (refs.length > ringStarts[ringStarts.length - 1]) ringStarts.push(refs.length)
      }
      for (let k = geometry.ringStarts[r]; k < geometry.ringStarts[r + 1]; k++) {
        const ref = geometry.refs[k]
        const pieces = torn.get(ref < 0 ? ~ref : ref)
        if (!pieces) {
          refs.push(ref)
          continue
        }
        for (const piece of inOrder(pieces, ref)) {
          if (piece.enters !== null) end()
          refs.push(ref < 0 ? ~piece.arc : piece.arc)
          if (piece.leaves !== null) end()
        }
        if (!pieces.length) end()
      }
      end()
    }
    featureStarts[f + 1] = ringStarts.length - 1
  }
  return {
    kind: 'lines',
    arcs: finished(builder),
    refs: Int32Array.from(refs),
    ringStarts: Uint32Array.from(ringStarts),
    featureStarts,
  }
}

function tearAreas(areas: Areas, at: Tearing): Areas {
  const { builder, loops, frame } = at
  const cutFrom = builder.starts.length - 1
  const refs: number[] = []
  const ringStarts = [0]
  const polygonStarts = [0]
  const featureStarts = new Uint32Array(areas.featureStarts.length)
  const lobeOf = (ref: number): number => builder.lobes[ref < 0 ? ~ref : ref]
  // A place on the edge of every lobe, to see what covers a lobe that no border enters.
  const probes = loops.map((loop) => frame.toDegrees(...loop.at(loop.length * 0.1234)))
  for (let f = 0; f < featureCount(areas); f++) {
    for (let p = areas.featureStarts[f]; p < areas.featureStarts[f + 1]; p++) {
      // The frame of the whole globe is no line: every lobe is inside, but for holes.
      const [first, to] = [areas.polygonStarts[p], areas.polygonStarts[p + 1]]
      const from = first < to && isWholeGlobe(areas, first) ? first + 1 : first
      const own = areas.refs.subarray(areas.ringStarts[from], areas.ringStarts[to])
      const north = holdsNorthPole(areas, p)
      const covers = (l: number) => polygonHolds(areas, p, probes[l], north)
      const lobe = own.length ? lobeOf(own[0]) : 0
      const isWhole = lobe >= 0 && own.every((ref) => lobeOf(ref) === lobe)
      if (isWhole && !((mayCover(frame) || north) && loops.some((_, l) => covers(l)))) {
        for (let r = from; r < to; r++) {
          for (let k = areas.ringStarts[r]; k < areas.ringStarts[r + 1]; k++) refs.push(areas.refs[k])
          ringStarts.push(refs.length)
        }
      } else
        for (const ring of closedRings(areas, [from, to], { ...at, covers })) {
          for (const ref of ring) refs.push(ref)
          ringStarts.push(refs.length)
        }
      if (ringStarts.length - 1 > polygonStarts[polygonStarts.length - 1])
        polygonStarts.push(ringStarts.length - 1)
    }
    featureStarts[f + 1] = polygonStarts.length - 1
  }
  return {
    kind: 'areas',
    arcs: finished(builder),
    refs: Int32Array.from(refs),
    ringStarts: Uint32Array.from(ringStarts),
    polygonStarts: Uint32Array.from(polygonStarts),
    featureStarts,
    cutFrom,
  }
}

/** Whether an area without a border on the edge of the domain may cover all of it; one lobe has the poles on it. */
const mayCover = ({ domain }: Frame): boolean => domain.kind === 'cap' || domain.lobes.length > 1
