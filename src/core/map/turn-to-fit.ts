import type { Prepared } from '@/core/data/prepare'
import { geometriesOf } from '@/core/data/dataset'
import { coordsOf, type Geometry } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { createProjection } from '@/core/projection/projection'
import { shownOf } from './shown'
import type { MapSpec, MapView } from './spec'
import { fitView, viewProjection } from './view'

type Place = [x: number, y: number]

/** The convex hull of places, in order round it (Andrew 1979, monotone chains). */
export function hullOf(places: readonly Place[]): Place[] {
  const sorted = [...places].sort((a, b) => a[0] - b[0] || a[1] - b[1])
  const half = (line: readonly Place[]): Place[] => {
    const out: Place[] = []
    for (const p of line) {
      while (out.length > 1 && turn(out[out.length - 2], out[out.length - 1], p) <= 0) out.pop()
      out.push(p)
    }
    return out.slice(0, -1)
  }
  return sorted.length < 3 ? sorted : [...half(sorted), ...half([...sorted].reverse())]
}

const turn = (a: Place, b: Place, c: Place): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

/**
 * The direction of the longer side of the smallest rectangle around places, degrees clockwise from the right, from
 * −90 up to 90. One of its sides lies on a side of the hull (Freeman and Shapira 1975).
 */
export function longestDirection(places: readonly Place[]): number {
  const hull = hullOf(places)
  let best = { area: Infinity, deg: 0 }
  hull.forEach(([x0, y0], i) => {
    const [x1, y1] = hull[(i + 1) % hull.length]
    const angle = Math.atan2(y1 - y0, x1 - x0)
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
    const along = hull.map(([x, y]) => x * cos + y * sin)
    const across = hull.map(([x, y]) => y * cos - x * sin)
    const length = Math.max(...along) - Math.min(...along)
    const width = Math.max(...across) - Math.min(...across)
    const area = length * width
    if (area < best.area - 1e-9) best = { area, deg: (angle * 180) / Math.PI + (length >= width ? 0 : 90) }
  })
  return within90(best.deg)
}

/** The same direction of a line, from −90 up to 90 degrees. */
const within90 = (deg: number): number => deg - 180 * Math.floor((deg + 90) / 180)

const placesOf = (geometry: Geometry): Place[] => {
  const coords = coordsOf(geometry)
  const places: Place[] = []
  for (let i = 0; i < coords.length; i += 2)
    if (Number.isFinite(coords[i]) && Number.isFinite(coords[i + 1])) places.push([coords[i], coords[i + 1]])
  return places
}

/**
 * The view that turns a map, by as little as possible, so that the longest extent of what a layer shows lies along
 * the longer side of a window, and shows it whole. Null where the layer shows nothing.
 */
export function turnToFit(
  map: MapSpec,
  layerId: string,
  datasets: Map<string, Prepared>,
  window: { width: number; height: number },
): MapView | null {
  const layer = map.layers.find(({ id }) => id === layerId)
  const geometries = layer ? geometriesOf(shownOf(layer, datasets)?.dataset) : []
  const projection = createProjection(map.projection)
  const places = geometries.flatMap((geometry) => placesOf(projectGeometry(geometry, projection)))
  if (!places.length) return null
  const along = window.width >= window.height ? 0 : 90
  const turnDeg = Math.round(within90(along - longestDirection(places)) * 10) / 10
  const turned = viewProjection(map, { centre: [0, 0], scaleDenominator: 1, turnDeg })
  const fitted = fitView(turned, geometries, window)
  return fitted && { ...fitted, ...(turnDeg && { turnDeg }) }
}
