import { geodesicMetres } from '@/core/projection/ground'
import { unproject } from '@/core/map/view'
import type { PanelView } from '../../part'

const stepMm = 0.5

/** Ground metres for each millimetre of paper sideways at a place of the page; null off the edge of the world. */
function metresPerMmAt({ projection, to }: PanelView, x: number, y: number): number | null {
  const [a, b] = [unproject(projection, to, x - stepMm, y), unproject(projection, to, x + stepMm, y)]
  return a && b ? geodesicMetres(a, b) / (2 * stepMm) : null
}

/**
 * By how much the scale sideways changes over a panel: the largest over the smallest, less one; 0.05 is five per cent.
 * Looked at in nine places.
 */
export function scaleSpread(panel: PanelView): number {
  const { x, y, width, height } = panel.window
  const found = [0.05, 0.5, 0.95].flatMap((u) =>
    [0.05, 0.5, 0.95].flatMap((v) => metresPerMmAt(panel, x + u * width, y + v * height) ?? []),
  )
  return found.length ? Math.max(...found) / Math.min(...found) - 1 : 0
}

/** So much of change cannot be told by one bar. */
export const spreadLimit = 0.05

/** Latitudes that a scale diagram shows, from the north down: round ones within a panel, at most seven. */
export function diagramLatitudes({ projection, to, window }: PanelView): number[] {
  const edge = [0, 0.25, 0.5, 0.75, 1].map((v) =>
    unproject(projection, to, window.x + window.width / 2, window.y + v * window.height),
  )
  const lats = edge.flatMap((place) => (place ? [place[1]] : []))
  if (lats.length < 2) return []
  const [low, high] = [Math.min(...lats), Math.max(...lats)]
  const step = [1, 2, 5, 10, 15, 20, 30].find((deg) => (high - low) / deg <= 6) ?? 30
  const first = Math.ceil(low / step) * step
  return Array.from({ length: Math.floor((high - first) / step) + 1 }, (_, i) => first + i * step).reverse()
}

/** Ground metres for each millimetre along a parallel, at the meridian of the panel's centre. */
export function metresPerMmAlong({ projection, view, to }: PanelView, lat: number): number | null {
  const [lon] = view.centre
  const step = 0.01
  const [a, b] = [projection.project(lon - step, lat), projection.project(lon + step, lat)]
  const mm = Math.hypot(b[0] - a[0], b[1] - a[1]) * to.mmPerMetre
  const metres = geodesicMetres([lon - step, lat], [lon + step, lat])
  return Number.isFinite(mm) && mm > 0 && metres > 0 ? metres / mm : null
}
