import { isNear, toPaper } from '@/core/geo/paper'
import { projectGeometry } from '@/core/geo/projected'
import { solid } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import type { DrawContext } from '../kind'
import type { DotPlan } from './plan'
import type { DotShapes } from './shapes'
import type { DotSettings } from './spec'

/** Dots where they were placed; those outside of the window are left out. */
export function drawDots(
  _: DotPlan,
  { fields, sizeMm }: DotSettings,
  { projection, to, window }: DrawContext,
  { runs }: DotShapes,
): Node[] {
  const r = sizeMm / 2
  return runs.flatMap(({ field, lonLat }): Node[] => {
    const projected = projectGeometry(pointsOf(lonLat), projection)
    if (projected.kind !== 'points') return []
    const seen = inWindow(projected.coords, ([x, y]) => isNear(window, ...toPaper(to, x, y), r))
    if (!seen.length) return []
    const place = { scale: to.mmPerMetre, dx: to.dx, dy: to.dy }
    return [path({ kind: 'dots', coords: seen, r, place }, { fill: solid(fields[field].colour) })]
  })
}

const pointsOf = (lonLat: Float64Array) => ({
  kind: 'points' as const,
  coords: lonLat,
  featureStarts: new Uint32Array(0),
})

/** The same list where all are seen, else a shorter one. */
function inWindow(coords: Float64Array, isSeen: (place: [number, number]) => boolean): Float64Array {
  const seen = new Float64Array(coords.length)
  let n = 0
  for (let i = 0; i < coords.length; i += 2) {
    if (!isSeen([coords[i], coords[i + 1]])) continue
    seen[n++] = coords[i]
    seen[n++] = coords[i + 1]
  }
  return n === coords.length ? coords : seen.slice(0, n)
}
