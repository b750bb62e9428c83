import { toMetres } from '@/core/geo/paper'
import type { Node } from '@/core/scene/scene'
import type { DrawContext } from '../kind'
import { gridOnPaper, paintedNode } from './grid'

/** Places are reckoned exactly at every so many cells and in between them by straight lines. */
const every = 16

export type Painted = {
  /** Points round what is painted, longitudes and latitudes in turn. */
  edge: Float64Array
  /** Where a place in degrees lies in what is painted, in its own coordinates. */
  place: (lon: number, lat: number) => [number, number]
  /** Red, green and blue, 0 to 255, at own coordinates; null paints nothing. */
  shade: (x: number, y: number) => readonly [number, number, number] | null
}

/** A picture brought into the map's projection: for each cell on paper the colour of its place on the ground. */
export function paintCells(
  { edge, place, shade }: Painted,
  context: Pick<DrawContext, 'projection' | 'to' | 'window' | 'toleranceMm'>,
): Node[] {
  const { projection, to } = context
  const grid = gridOnPaper(edge, context)
  if (!grid) return []
  const { box, cellMm, columns } = grid
  const ownPlace = (column: number, row: number): [number, number] | null => {
    const at = projection.invert(...toMetres(to, box.x + column * cellMm, box.y + row * cellMm))
    return at && place(at[0], at[1])
  }
  return [
    paintedNode(grid, (from, end) => {
      const rgba = new Uint8ClampedArray(4 * columns * (end - from))
      for (let r0 = from - (from % every); r0 < end; r0 += every)
        for (let c0 = 0; c0 < columns; c0 += every) {
          const a = ownPlace(c0, r0)
          const b = ownPlace(c0 + every, r0)
          const c = ownPlace(c0, r0 + every)
          const d = ownPlace(c0 + every, r0 + every)
          if (!a || !b || !c || !d) continue
          for (let r = Math.max(from, r0); r < Math.min(end, r0 + every); r++) {
            const v = (r + 0.5 - r0) / every
            for (let col = c0; col < Math.min(columns, c0 + every); col++) {
              const u = (col + 0.5 - c0) / every
              const colour = shade(
                (a[0] * (1 - u) + b[0] * u) * (1 - v) + (c[0] * (1 - u) + d[0] * u) * v,
                (a[1] * (1 - u) + b[1] * u) * (1 - v) + (c[1] * (1 - u) + d[1] * u) * v,
              )
              if (!colour) continue
              const at = 4 * ((r - from) * columns + col)
              rgba[at] = colour[0]
              rgba[at + 1] = colour[1]
              rgba[at + 2] = colour[2]
              rgba[at + 3] = 255
            }
          }
        }
      return rgba
    }),
  ]
}
