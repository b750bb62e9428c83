import { eachVertex, featureCount, ringRange, type Areas } from './geometry'
import { eastward } from './sphere/longitudes'

/** What is left of a collapsed area by rounding, against the square of its span. */
const leastShare = 1e-12

/** Features that have a shape and cover nothing: rings of which have become a line or a place, as in rounded files. */
export function collapsedAreas(areas: Areas): number[] {
  const found: number[] = []
  for (let f = 0; f < featureCount(areas); f++) {
    const [from, to] = ringRange(areas, f)
    let covers = from === to
    for (let r = from; r < to && !covers; r++) covers = coversGround(areas, r)
    if (!covers) found.push(f)
  }
  return found
}

/** Whether a ring encloses anything, by its area in degrees, or goes round the axis. */
export function coversGround(areas: Areas, ring: number): boolean {
  const { coords } = areas.arcs
  let [x, y, x0, y0, area, reach] = [NaN, NaN, 0, 0, 0, 0]
  eachVertex(areas, ring, (v) => {
    const [lon, lat] = [coords[2 * v], coords[2 * v + 1]]
    if (Number.isNaN(x)) {
      x = x0 = lon
      y = y0 = lat
      return
    }
    const next = x + eastward(x, lon)
    area += (x - x0) * (lat - y0) - (next - x0) * (y - y0)
    reach = Math.max(reach, Math.abs(next - x0), Math.abs(lat - y0))
    x = next
    y = lat
  })
  return Math.abs(x - x0) > 180 || reach >= 90 || Math.abs(area) > leastShare * reach * reach
}
