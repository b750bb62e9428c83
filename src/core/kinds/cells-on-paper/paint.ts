import type { Node } from '@/core/scene/scene'
import type { DrawContext } from '../kind'
import { gridOnPaper, paintedNode } from './grid'
import { createPlaces } from './places'

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
  const grid = gridOnPaper(edge, context)
  if (!grid) return []
  const { columns } = grid
  const places = createPlaces({ place, period: 0, middle: 0 }, grid, context)
  return [
    paintedNode(grid, (from, to) => {
      const rgba = new Uint8ClampedArray(4 * columns * (to - from))
      places.lattice({ left: 0, top: from, columns, rows: to - from }).visit((i, x, y) => {
        const colour = shade(x, y)
        if (!colour) return
        rgba[4 * i] = colour[0]
        rgba[4 * i + 1] = colour[1]
        rgba[4 * i + 2] = colour[2]
        rgba[4 * i + 3] = 255
      })
      return rgba
    }),
  ]
}
