import type { Paint } from '@/core/scene/paint'
import { onPaper, subpaths, type Box, type Outline } from '@/core/scene/outline'

type Hatch = Extract<Paint, { type: 'hatch' }>

/** What ends the lines of a hatch: dots are lines too short to be seen, with round ends. */
export const hatchCap = ({ form }: Hatch): 'round' | 'butt' => (form === 'dots' ? 'round' : 'butt')

/** The lines of a hatch over a box: parallel, crossed, or as short as dots. */
export function hatchLines(box: Box, paint: Hatch): Outline {
  const first = parallels(box, paint, paint.angleDeg)
  if (paint.form === 'crossed') return outlineOf([...first, ...parallels(box, paint, paint.angleDeg + 90)])
  return outlineOf(paint.form === 'dots' ? dots(box, paint) : first)
}

function outlineOf(lines: number[][]): Outline {
  const limits = Uint32Array.from({ length: lines.length + 1 }, (_, i) => 2 * i)
  return {
    kind: 'rings',
    coords: Float64Array.from(lines.flat()),
    ...subpaths(limits),
    closed: false,
    place: onPaper,
  }
}

/**
 * Dots in rows, every second row shifted by half a step; counted from the origin of the coordinates, so that
 * those of neighbouring shapes go on.
 */
function dots({ x, y, width, height }: Box, { spacingMm }: Hatch): number[][] {
  const out: number[][] = []
  const rise = spacingMm * Math.sqrt(0.75)
  for (let row = Math.floor(y / rise); row <= Math.ceil((y + height) / rise); row++) {
    const shift = row % 2 === 0 ? 0 : 0.5
    for (let column = Math.floor(x / spacingMm) - 1; column <= Math.ceil((x + width) / spacingMm); column++) {
      const [px, py] = [(column + shift) * spacingMm, row * rise]
      out.push([px, py, px + 0.001, py])
    }
  }
  return out
}

/** Parallel lines that cover a box, counted in the same way. */
function parallels(box: Box, { spacingMm }: Hatch, angleDeg: number): number[][] {
  const angle = (angleDeg * Math.PI) / 180
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
  const first = Math.ceil(Math.min(...across) / spacingMm)
  const count = Math.max(0, Math.floor(Math.max(...across) / spacingMm) - first + 1)
  return Array.from({ length: count }, (_, i) => {
    const offset = (first + i) * spacingMm
    return [nx * offset + ux * low, ny * offset + uy * low, nx * offset + ux * high, ny * offset + uy * high]
  })
}
