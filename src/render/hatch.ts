import type { Paint } from '@/core/scene/paint'
import { onPaper, subpaths, type Box, type Outline } from '@/core/scene/outline'

/**
 * Parallel lines that cover a box. They are counted from the origin of the coordinates, so the lines of
 * neighbouring shapes meet.
 */
export function hatchLines(box: Box, paint: Extract<Paint, { type: 'hatch' }>): Outline {
  const angle = (paint.angleDeg * Math.PI) / 180
  const [ux, uy] = [Math.cos(angle), -Math.sin(angle)]
  const [nx, ny] = [-uy, ux]
  const corners = [
    [box.x, box.y],
    [box.x + box.width, box.y],
    [box.x, box.y + box.height],
    [box.x + box.width, box.y + box.height],
  ]
  const across = corners.map(([x, y]) => x * nx + y * ny)
  const along = corners.map(([x, y]) => x * ux + y * uy)
  const [low, high] = [Math.min(...along) - 1, Math.max(...along) + 1]
  const first = Math.ceil(Math.min(...across) / paint.spacingMm)
  const count = Math.max(0, Math.floor(Math.max(...across) / paint.spacingMm) - first + 1)
  const coords = new Float64Array(count * 4)
  const limits = new Uint32Array(count + 1)
  for (let i = 0; i < count; i++) {
    const offset = (first + i) * paint.spacingMm
    coords.set([nx * offset + ux * low, ny * offset + uy * low, nx * offset + ux * high, ny * offset + uy * high], i * 4)
    limits[i + 1] = 2 * (i + 1)
  }
  return { kind: 'rings', coords, ...subpaths(limits), closed: false, place: onPaper }
}
