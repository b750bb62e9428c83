import { trace, type Rings } from '@/core/scene/outline'
import type { Surface } from './surface'

/**
 * Shapes already handed to the canvas, so that another colour, other classes or another view of the same
 * vertices cost no tracing. `features` keeps one path for each feature by its first vertex, `lines` one for
 * each list of subpaths. Both lie near the origin, without scale or shift: canvases reckon in single
 * precision.
 */
export type PathCache = {
  features: WeakMap<Float64Array, Map<number, Path2D>>
  lines: WeakMap<Uint32Array, Path2D>
}

export const createPathCache = (): PathCache => ({ features: new WeakMap(), lines: new WeakMap() })

/** Fewer vertices than these are traced as fast as they are looked up. */
const worthKeeping = 200

/** The canvas's path of an outline, put together from what is known of its vertices. */
export function cachedPath(
  cache: PathCache,
  surface: Surface,
  outline: Rings,
  offsets: Uint32Array | null,
): Path2D {
  const path = surface.createPath()
  const { coords, starts, ends, place } = outline
  if (coords.length < 2 * worthKeeping) {
    trace(outline, path)
    return path
  }
  const [x0, y0] = [coords[0], coords[1]]
  const near: Rings = { ...outline, place: { scale: 1, dx: -x0, dy: -y0 } }
  const moved = {
    a: place.scale,
    b: 0,
    c: 0,
    d: place.scale,
    e: x0 * place.scale + place.dx,
    f: y0 * place.scale + place.dy,
  }
  if (!offsets) {
    let lines = cache.lines.get(starts)
    if (!lines) {
      lines = surface.createPath()
      trace(near, lines)
      cache.lines.set(starts, lines)
    }
    path.addPath(lines, moved)
    return path
  }
  const features = cache.features.get(coords) ?? new Map<number, Path2D>()
  cache.features.set(coords, features)
  for (let f = 0; f + 1 < offsets.length; f++) {
    if (offsets[f] === offsets[f + 1] || ends[offsets[f]] === starts[offsets[f]]) continue
    const key = starts[offsets[f]]
    let feature = features.get(key)
    if (!feature) {
      feature = surface.createPath()
      trace(near, feature, offsets[f], offsets[f + 1])
      features.set(key, feature)
    }
    path.addPath(feature, moved)
  }
  return path
}
