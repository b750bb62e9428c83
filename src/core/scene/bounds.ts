/** The smallest upright box around something: its low and high corner. */
export type Bounds = [x0: number, y0: number, x1: number, y1: number]

/** Bounds of nothing: whatever is taken in becomes their whole. */
export const emptyBounds = (): Bounds => [Infinity, Infinity, -Infinity, -Infinity]

export const isEmpty = (bounds: Bounds): boolean => !(bounds[2] >= bounds[0])

/**
 * Widens bounds by the vertices from `from` up to `to` of a list of x and y by turns, and gives them back.
 * Vertices that are NaN are passed over.
 */
export function takeIn(bounds: Bounds, coords: ArrayLike<number>, from = 0, to = coords.length / 2): Bounds {
  let [x0, y0, x1, y1] = bounds
  for (let i = 2 * from; i < 2 * to; i += 2) {
    const x = coords[i]
    const y = coords[i + 1]
    if (x < x0) x0 = x
    if (x > x1) x1 = x
    if (y < y0) y0 = y
    if (y > y1) y1 = y
  }
  bounds[0] = x0
  bounds[1] = y0
  bounds[2] = x1
  bounds[3] = y1
  return bounds
}

export const boundsOf = (coords: ArrayLike<number>): Bounds => takeIn(emptyBounds(), coords)

/** Whether two boxes have more than an edge in common. */
export const overlaps = (a: Bounds, b: Bounds): boolean =>
  a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3]
