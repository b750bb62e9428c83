/** Where the edges that begin at two vertices cross, each being cut in its inside; else null. */
export function edgesCross(coords: Float64Array, a: number, b: number): [number, number] | null {
  const [ax, ay, bx, by] = [coords[2 * a], coords[2 * a + 1], coords[2 * a + 2], coords[2 * a + 3]]
  const [cx, cy, dx, dy] = [coords[2 * b], coords[2 * b + 1], coords[2 * b + 2], coords[2 * b + 3]]
  // On which side of one edge the ends of the other lie.
  const [c, d] = [
    (bx - ax) * (cy - ay) - (by - ay) * (cx - ax),
    (bx - ax) * (dy - ay) - (by - ay) * (dx - ax),
  ]
  const [p, q] = [
    (dx - cx) * (ay - cy) - (dy - cy) * (ax - cx),
    (dx - cx) * (by - cy) - (dy - cy) * (bx - cx),
  ]
  if (c === 0 || d === 0 || p === 0 || q === 0 || c > 0 === d > 0 || p > 0 === q > 0) return null
  const t = p / (p - q)
  return [ax + t * (bx - ax), ay + t * (by - ay)]
}
