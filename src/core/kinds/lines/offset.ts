/**
 * A line moved sideways: every corner lies on the bisector of its two legs, so that the distance to both is
 * the same. Sharp corners are cut at four times the distance. Positive distances lie to the right on paper,
 * where y runs down.
 * @param line x, y, x, y… in the unit of the distance
 */
export function moveSideways(line: number[], distance: number): number[] {
  const points: [number, number][] = []
  for (let i = 0; i < line.length; i += 2) {
    const last = points.at(-1)
    if (!last || Math.hypot(line[i] - last[0], line[i + 1] - last[1]) > 1e-9)
      points.push([line[i], line[i + 1]])
  }
  if (points.length < 2) return line
  const normal = (i: number): [number, number] => {
    const [dx, dy] = [points[i + 1][0] - points[i][0], points[i + 1][1] - points[i][1]]
    const length = Math.hypot(dx, dy)
    return [-dy / length, dx / length]
  }
  return points.flatMap(([x, y], i) => {
    const before = normal(Math.max(0, i - 1))
    const after = normal(Math.min(points.length - 2, i))
    const [sx, sy] = [before[0] + after[0], before[1] + after[1]]
    const square = sx * sx + sy * sy
    // 2 ∕ |sum|² stretches the sum of both normals to the corner of the moved legs.
    const stretch = Math.min(2 / Math.max(square, 1e-9), 4 / Math.max(Math.sqrt(square), 1e-9))
    return [x + distance * sx * stretch, y + distance * sy * stretch]
  })
}
