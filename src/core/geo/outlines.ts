import { createMemory, numberOf } from '@/core/memory/memory'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import { toMetres, type PaperTransform, type PaperWindow } from './paper'
import { subpaths, type Outline, type Rings } from '@/core/scene/outline'
import {
  arcNeighbours,
  eachVertex,
  featureCount,
  ringRange,
  type Arcs,
  type Areas,
  type Lines,
} from './geometry'
import type { Projected } from './projected'

/** Subpaths in projected metres with the box around each unit (a feature, or a border): x0, y0, x1, y1. */
type Traced = Pick<Rings, 'coords' | 'starts' | 'ends'> & { boxes: Float64Array }

/**
 * The outline of some features on paper, with the subpaths that belong to each. Features that lie wholly
 * outside `window` are left out. Vertices are traced once for each projected geometry; outlines share them.
 */
export function featureOutline(
  projected: Projected,
  features: ArrayLike<number>,
  to: PaperTransform,
  window: PaperWindow,
): { outline: Outline; offsets: Uint32Array; kept: number[] } {
  if (projected.kind !== 'areas' && projected.kind !== 'lines') throw new TypeError('Points have no outline.')
  // Features taken from others are drawn from the rings of those.
  const { from: whole, rows } = projected.taken ?? { from: projected, rows: null }
  const { coords, starts, ends, boxes } = ringsOf(whole)
  const inside = within(boxes, to, window)
  const kept: number[] = []
  const chosen: number[] = []
  const offsets: number[] = [0]
  for (let i = 0; i < features.length; i++) {
    const feature = rows ? rows[features[i]] : features[i]
    if (!inside(feature)) continue
    const [from, end] = ringRange(whole, feature)
    for (let r = from; r < end; r++) chosen.push(r)
    kept.push(features[i])
    offsets.push(chosen.length)
  }
  const outline: Outline = {
    kind: 'rings',
    coords,
    ...pick(starts, ends, chosen),
    closed: projected.kind === 'areas',
    place: placeOf(to),
  }
  return { outline, offsets: Uint32Array.from(offsets), kept }
}

export type BorderSide = 'between' | 'outer' | 'all'

/**
 * Every border once, each a line of its own; `which` chooses borders between two areas, coasts, or both. With
 * `apart`, a number for each area, borders between areas of the same number are left out.
 */
export function borderOutline(
  areas: Projected,
  which: BorderSide,
  to: PaperTransform,
  { window, apart = null }: { window: PaperWindow; apart?: Int32Array | null },
): Outline {
  if (areas.kind !== 'areas') throw new TypeError('Only areas have borders.')
  const { coords, starts, ends, boxes } = apart ? traceBorders(areas, which, apart) : bordersOf(areas, which)
  const inside = within(boxes, to, window)
  const chosen: number[] = []
  for (let i = 0; i < starts.length; i++) if (inside(i)) chosen.push(i)
  // Where nothing is left out the lists themselves are handed on: a renderer knows them again.
  const lines = chosen.length === starts.length ? { starts, ends } : pick(starts, ends, chosen)
  return { kind: 'rings', coords, ...lines, closed: false, place: placeOf(to) }
}

const placeOf = ({ mmPerMetre, dx, dy }: PaperTransform) => ({ scale: mmPerMetre, dx, dy })

const pick = (starts: Uint32Array, ends: Uint32Array, chosen: number[]) => ({
  starts: Uint32Array.from(chosen, (i) => starts[i]),
  ends: Uint32Array.from(chosen, (i) => ends[i]),
})

/** Whether a unit's box touches the window. */
function within(
  boxes: Float64Array,
  to: PaperTransform,
  { x, y, width, height }: PaperWindow,
): (unit: number) => boolean {
  const [x0, y0] = toMetres(to, x, y)
  const [x1, y1] = toMetres(to, x + width, y + height)
  return (unit) =>
    boxes[4 * unit + 2] >= x0 &&
    boxes[4 * unit + 3] >= y0 &&
    boxes[4 * unit] <= x1 &&
    boxes[4 * unit + 1] <= y1
}

const rememberRings = createMemory<Arcs, Traced>('outlines of features', { maxBytes: 256 * 2 ** 20 })
const rememberBorders = createMemory<Arcs, Traced>('outlines of borders', { maxBytes: 32 * 2 ** 20 })

/** The rings of all features, traced once for the same arcs and references. */
const ringsOf = (projected: Areas | Lines): Traced =>
  rememberRings(projected.arcs, `${numberOf(projected.refs)} ${numberOf(projected.featureStarts)}`, () =>
    traceRings(projected),
  )

function traceRings(projected: Areas | Lines): Traced {
  const ringCount = projected.ringStarts.length - 1
  const limits = new Uint32Array(ringCount + 1)
  const coords = new Float64Array(2 * ringVertices(projected))
  const source = projected.arcs.coords
  let n = 0
  for (let r = 0; r < ringCount; r++) {
    eachVertex(projected, r, (v) => {
      coords[n++] = source[2 * v]
      coords[n++] = source[2 * v + 1]
    })
    limits[r + 1] = n / 2
  }
  const boxes = new Float64Array(4 * featureCount(projected))
  for (let f = 0; f < featureCount(projected); f++) {
    const [from, end] = ringRange(projected, f)
    boxes.set(takeIn(emptyBounds(), coords, limits[from], limits[end]), 4 * f)
  }
  return { coords: coords.slice(0, n), ...subpaths(limits), boxes }
}

/** At most so many vertices do all rings have; joints between arcs are counted twice. */
function ringVertices({ refs, arcs }: Areas | Lines): number {
  let count = 0
  for (const ref of refs) {
    const arc = ref < 0 ? ~ref : ref
    count += arcs.starts[arc + 1] - arcs.starts[arc]
  }
  return count
}

const bordersOf = (areas: Areas, which: BorderSide): Traced =>
  rememberBorders(areas.arcs, `${which} ${numberOf(areas.refs)}`, () => traceBorders(areas, which))

function traceBorders(areas: Areas, which: BorderSide, apart: Int32Array | null = null): Traced {
  const sides = neighboursOf(areas)
  const { coords, starts } = areas.arcs
  const chosen: number[] = []
  const count = Math.min(starts.length - 1, areas.cutFrom ?? Infinity)
  for (let arc = 0; arc < count; arc++) {
    const between = sides[2 * arc + 1] >= 0
    if (apart && between && apart[sides[2 * arc]] === apart[sides[2 * arc + 1]]) continue
    if (sides[2 * arc] >= 0 && (which === 'all' || between === (which === 'between'))) chosen.push(arc)
  }
  const boxes = new Float64Array(4 * chosen.length)
  chosen.forEach((arc, i) => boxes.set(takeIn(emptyBounds(), coords, starts[arc], starts[arc + 1]), 4 * i))
  return { coords, ...pick(starts, starts.subarray(1), chosen), boxes }
}

const neighbours = new WeakMap<Int32Array, Int32Array>()

/** Neighbours depend on the references alone, which projecting and generalising leave as they are. */
function neighboursOf(areas: Areas): Int32Array {
  const known = neighbours.get(areas.refs)
  if (known) return known
  const sides = arcNeighbours(areas)
  neighbours.set(areas.refs, sides)
  return sides
}
