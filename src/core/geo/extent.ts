import { coordsOf, featureCount, ringRange, type Extent, type Geometry } from './geometry'
import { wrapped } from './sphere/longitudes'
import { holdsNorthPole, ringShape } from './sphere/rings'

const bins = 3600
/** Data with a narrower gap than this lie all around the globe, degrees. */
const roundTheGlobe = 20

/**
 * The smallest extent around geometries: the longitudes without their widest gap, so that data on both sides of
 * the date line stay together; null where there are none. Around data that lie all around the globe it begins
 * at the meridian that cuts the fewest areas, opposite Greenwich when in doubt.
 */
export function extentOf(geometries: Geometry[]): Extent | null {
  const [first] = geometries
  if (!first) return null
  const known = extents.get(first)
  if (known && known.of.length === geometries.length && known.of.every((one, i) => one === geometries[i]))
    return known.extent
  const extent = around(geometries)
  extents.set(first, { of: [...geometries], extent })
  return extent
}

/** The extent that was last asked for, by the first of the geometries: it is asked for again and again. */
const extents = new WeakMap<Geometry, { of: Geometry[]; extent: Extent | null }>()

function around(geometries: Geometry[]): Extent | null {
  let [south, north] = [Infinity, -Infinity]
  const low = new Float64Array(bins).fill(Infinity)
  const high = new Float64Array(bins).fill(-Infinity)
  const mark = (lon: number) => {
    const bin = Math.min(bins - 1, Math.floor(((lon + 180) / 360) * bins))
    if (lon < low[bin]) low[bin] = lon
    if (lon > high[bin]) high[bin] = lon
  }
  /** Everything from one longitude eastwards to another. */
  const cover = (west: number, east: number) => {
    if (east - west >= 360) {
      for (let bin = 0; bin < bins; bin++) fill(bin)
      return
    }
    const from = wrapped(west) === 180 ? -180 : wrapped(west)
    const [first, last] = [from, from + east - west].map((lon) => Math.floor(((lon + 180) / 360) * bins))
    for (let bin = first + 1; bin < last; bin++) fill(bin % bins)
    mark(from)
    mark(wrapped(east))
    if (last === first) return
    // The rest of the first bin and the part of the last one that is reached.
    high[first % bins] = Math.max(high[first % bins], ((first + 1) / bins) * 360 - 180)
    low[last % bins] = Math.min(low[last % bins], ((last % bins) / bins) * 360 - 180)
  }
  const fill = (bin: number) => {
    low[bin] = (bin / bins) * 360 - 180
    high[bin] = ((bin + 1) / bins) * 360 - 180
  }
  for (const geometry of geometries) {
    const coords = coordsOf(geometry)
    for (let i = 1; i < coords.length; i += 2) {
      if (coords[i] < south) south = coords[i]
      if (coords[i] > north) north = coords[i]
    }
    if (geometry.kind === 'points') for (let i = 0; i < coords.length; i += 2) mark(wrapped(coords[i]))
    if (geometry.kind !== 'areas' && geometry.kind !== 'lines') continue
    const rings = geometry.ringStarts.length - 1
    for (let r = 0; r < rings; r++) {
      const shape = ringShape(geometry, r)
      if (shape.west > shape.east) continue
      if (shape.turns) cover(0, 360)
      else cover(shape.west, shape.east)
    }
    if (geometry.kind !== 'areas') continue
    for (let p = 0; p + 1 < geometry.polygonStarts.length; p++) {
      const shape = polesOf(geometry, p)
      if (shape.north) north = 90
      if (shape.south) south = -90
    }
  }
  if (north < south) return null
  const gap = widestGap(low, high)
  if (gap && eastwardTurn(gap.from, gap.to) >= roundTheGlobe)
    return [gap.to, south, gap.from < gap.to ? gap.from + 360 : gap.from, north]
  const middle = leastCut(geometries)
  return [middle - 180, south, middle + 180, north]
}

/** Which poles a polygon holds. */
function polesOf(areas: Extract<Geometry, { kind: 'areas' }>, p: number): { north: boolean; south: boolean } {
  let turns = 0
  for (let r = areas.polygonStarts[p]; r < areas.polygonStarts[p + 1]; r++) turns += ringShape(areas, r).turns
  const north = holdsNorthPole(areas, p)
  return { north, south: turns < 0 || (north && turns === 0) }
}

/** Degrees eastwards from one longitude to another, over 0 up to 360. */
const eastwardTurn = (from: number, to: number): number => (to > from ? to - from : to - from + 360)

/** The widest stretch of longitudes without anything, from its western end eastwards; null where there is none. */
function widestGap(low: Float64Array, high: Float64Array): { from: number; to: number } | null {
  const used = [...low.keys()].filter((bin) => low[bin] <= high[bin])
  let best: { from: number; to: number } | null = null
  let most = 1e-6
  used.forEach((bin, i) => {
    const turn = i + 1 === used.length ? 360 : 0
    const to = low[used[(i + 1) % used.length]]
    if (to + turn - high[bin] <= most) return
    most = to + turn - high[bin] + 1e-9
    best = { from: high[bin], to }
  })
  return best
}

/** The central meridian whose opposite cuts the fewest areas; of equals the one nearest to Greenwich. */
function leastCut(geometries: Geometry[]): number {
  const cuts = new Int32Array(360)
  for (const geometry of geometries) {
    if (geometry.kind !== 'areas') continue
    const seen = new Int32Array(360).fill(-1)
    for (let f = 0; f < featureCount(geometry); f++) {
      const [from, to] = ringRange(geometry, f)
      for (let r = from; r < to; r++) {
        const { west, east } = ringShape(geometry, r)
        for (let lon = Math.ceil(west); lon <= Math.min(east, west + 360); lon++) {
          const at = ((lon % 360) + 360) % 360
          if (seen[at] === f) continue
          seen[at] = f
          cuts[at]++
        }
      }
    }
  }
  let best = 0
  for (let m = 1; m < 360; m++) {
    const middle = m % 2 ? (m + 1) / 2 : -m / 2
    const cutsOf = (centre: number) => cuts[(((centre + 180) % 360) + 360) % 360]
    if (cutsOf(middle) < cutsOf(best)) best = middle
  }
  return best
}
