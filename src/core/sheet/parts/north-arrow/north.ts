import type { Projection } from '@/core/projection/projection'
import type { PanelView } from '../../part'

/** So far from the middle of the panel the meridian is looked at, degrees: some eleven metres. */
const step = 1e-4

/**
 * Where true north lies at a place of a map: clockwise degrees from straight up on paper. Null at the poles and where
 * the map does not reach. The image of the meridian there is the image of the geodesic that leaves at azimuth 0.
 */
export function northAt(projection: Projection, [lon, lat]: [number, number]): number | null {
  const south = projection.project(lon, Math.max(-90, lat - step))
  const north = projection.project(lon, Math.min(90, lat + step))
  const [dx, dy] = [north[0] - south[0], north[1] - south[1]]
  if (!Number.isFinite(dx) || !Number.isFinite(dy) || Math.hypot(dx, dy) < 1e-6 || Math.abs(lat) > 90 - step)
    return null
  return (Math.atan2(dx, -dy) * 180) / Math.PI
}

/**
 * Where north lies on the page as a panel shows it, clockwise degrees from straight up: true north at its centre, or
 * up along the grid of the projection. The panel's own rotation on the page counts.
 */
export function northOf({ projection, view, frame, map }: PanelView, which: 'true' | 'grid'): number | null {
  const grid = (map.projection.turnDeg ?? 0) + (view.turnDeg ?? 0)
  const turned = which === 'grid' ? grid : northAt(projection, view.centre)
  return turned === null ? null : turned + frame.rotationDeg
}
