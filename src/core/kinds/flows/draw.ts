import { projectGeometry } from '@/core/geo/projected'
import { polygon, type Outline } from '@/core/scene/outline'
import { solid, stroke, withOpacity } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { placeOnPaper, reaches } from '@/core/geo/paper'
import { boundsOf } from '@/core/scene/bounds'
import type { DrawContext } from '../kind'
import { placesOf } from '../marks/places'
import type { FlowPlan } from './plan'
import type { FlowSettings } from './spec'

type Point = [number, number]

/**
 * A flow from one point on paper to another: a quadratic curve whose middle bends to the right by a share of
 * its length, written as a cubic one. It ends where its arrow head begins; `head` is the head's triangle,
 * null without.
 */
export function flowShape(
  from: Point,
  to: Point,
  { widthMm, bend, arrows }: { widthMm: number; bend: number; arrows: boolean },
): { line: Outline; head: number[] | null } {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]]
  // The control point lies twice as far out as the curve's middle. To the right on paper, where y runs down.
  const control: Point = [(from[0] + to[0]) / 2 - 2 * bend * dy, (from[1] + to[1]) / 2 + 2 * bend * dx]
  const length = Math.hypot(to[0] - control[0], to[1] - control[1]) || 1
  const along: Point = [(to[0] - control[0]) / length, (to[1] - control[1]) / length]
  const reach = arrows ? Math.min(0.4 * Math.hypot(dx, dy), Math.max(1.1, 1.9 * widthMm)) : 0
  const end: Point = [to[0] - along[0] * reach, to[1] - along[1] * reach]
  const half = 0.55 * reach
  const base: Point = [end[0], end[1]]
  const line: Outline = {
    kind: 'curves',
    verbs: ['M', 'C'],
    coords: Float64Array.from([
      ...from,
      from[0] + (2 / 3) * (control[0] - from[0]),
      from[1] + (2 / 3) * (control[1] - from[1]),
      end[0] + (2 / 3) * (control[0] - end[0]),
      end[1] + (2 / 3) * (control[1] - end[1]),
      ...end,
    ]),
  }
  const wide = Math.max(half, widthMm * 0.95)
  return {
    line,
    head:
      reach > 0
        ? [
            ...to,
            base[0] - along[1] * wide,
            base[1] + along[0] * wide,
            base[0] + along[1] * wide,
            base[1] - along[0] * wide,
          ]
        : null,
  }
}

export function drawFlows(
  plan: FlowPlan,
  settings: FlowSettings,
  { projection, to, window, datasetOf, featureName }: DrawContext,
): Node[] {
  const ground = settings.places && datasetOf(settings.places.datasetId)
  const places = ground && placesOf(ground.geometry)
  const projected = places && projectGeometry(places, projection)
  if (projected?.kind !== 'points') return []
  const at = (f: number): Point | null => {
    const p = projected.featureStarts[f]
    if (p === projected.featureStarts[f + 1]) return null
    const point: Point = placeOnPaper(to, projected.coords, p)
    return Number.isFinite(point[0]) ? point : null
  }
  const outside = (a: Point, b: Point, room: number): boolean =>
    !reaches(boundsOf([...a, ...b]), window, room)
  const nodes = plan.flows.flatMap(({ row, from, to: target, widthMm, colour }) => {
    const [a, b] = [at(from), at(target)]
    if (!a || !b || outside(a, b, widthMm + settings.bend * Math.hypot(b[0] - a[0], b[1] - a[1]))) return []
    const { line, head } = flowShape(a, b, { widthMm, bend: settings.bend, arrows: settings.arrows })
    const ink = withOpacity(colour, settings.opacity)
    const features = { offsets: Uint32Array.of(0, 1), names: [featureName(row)] }
    return [
      path(line, { strokes: [stroke(ink, widthMm, { cap: 'butt' })], features }),
      ...(head ? [path(polygon(head), { fill: solid(ink) })] : []),
    ]
  })
  return nodes.length ? [group('flows', nodes)] : []
}
