import type { Position } from 'geojson'

/** The area of a closed ring in the plane, positive when it runs anticlockwise. */
export function planarArea(ring: Position[]): number {
  let sum = 0
  for (let i = 1; i < ring.length; i++) sum += ring[i - 1][0] * ring[i][1] - ring[i][0] * ring[i - 1][1]
  return sum / 2
}
