import type { Board } from './rasterise'

/**
 * Moves places on the board as the corners round them were: each cell is two triangles, in which places keep their
 * shares of the corners. Where no triangle is turned over, nothing that lay apart comes to lie upon each other.
 * @param coords in cells, changed
 * @param mesh where corners have gone, row by row
 */
export function moved(coords: Float64Array, mesh: Float64Array, { columns, rows }: Board): void {
  for (let v = 0; v < coords.length; v += 2) {
    const c = Math.max(0, Math.min(columns - 1, Math.floor(coords[v])))
    const r = Math.max(0, Math.min(rows - 1, Math.floor(coords[v + 1])))
    const [fx, fy] = [coords[v] - c, coords[v + 1] - r]
    const a = 2 * (r * (columns + 1) + c)
    const [b, d] = [a + 2, a + 2 * (columns + 1)]
    const e = d + 2
    for (let k = 0; k < 2; k++)
      coords[v + k] =
        fx + fy <= 1
          ? mesh[a + k] + fx * (mesh[b + k] - mesh[a + k]) + fy * (mesh[d + k] - mesh[a + k])
          : mesh[e + k] + (1 - fx) * (mesh[d + k] - mesh[e + k]) + (1 - fy) * (mesh[b + k] - mesh[e + k])
  }
}

/** How many triangles of a mesh are turned over. */
export function foldsIn(mesh: Float64Array, { columns, rows }: Board): number {
  let folds = 0
  const area = (a: number, b: number, c: number): number =>
    (mesh[b] - mesh[a]) * (mesh[c + 1] - mesh[a + 1]) - (mesh[c] - mesh[a]) * (mesh[b + 1] - mesh[a + 1])
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const a = 2 * (r * (columns + 1) + c)
      const [b, d] = [a + 2, a + 2 * (columns + 1)]
      if (area(a, b, d) <= 0) folds++
      if (area(d + 2, d, b) <= 0) folds++
    }
  return folds
}
