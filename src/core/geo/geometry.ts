/**
 * Runs of vertices: arc `i` is the longitudes and latitudes (degrees, WGS 84) from vertex `starts[i]` up to
 * `starts[i + 1]`.
 */
export type Arcs = { coords: Float64Array; starts: Uint32Array }

/**
 * Areas with shared topology: a border between two areas is one arc that both refer to. A reference `a ≥ 0`
 * runs along arc `a`; `~a` runs along it backwards. Ring `r` is made of `refs[ringStarts[r]…ringStarts[r +
 * 1]]`, polygon `p` of rings from `polygonStarts[p]` (first the outer one, anticlockwise; then holes,
 * clockwise), feature `f` of polygons from `featureStarts[f]`.
 */
export type Areas = {
  kind: 'areas'
  arcs: Arcs
  refs: Int32Array
  ringStarts: Uint32Array
  polygonStarts: Uint32Array
  featureStarts: Uint32Array
  taken?: Taken
}

/** Where some features of a larger geometry were taken from: feature `f` is its feature `rows[f]`. */
export type Taken = { from: Areas | Lines; rows: Int32Array }

/** Lines: as areas, with paths in place of rings and no polygons. */
export type Lines = {
  kind: 'lines'
  arcs: Arcs
  refs: Int32Array
  ringStarts: Uint32Array
  featureStarts: Uint32Array
  taken?: Taken
}

/** Points: feature `f` owns the points from `featureStarts[f]`; a feature may have several or none. */
export type Points = { kind: 'points'; coords: Float64Array; featureStarts: Uint32Array }

export type Geometry = Areas | Lines | Points | { kind: 'none' }

export const featureCount = (geometry: Geometry): number =>
  geometry.kind === 'none' ? 0 : geometry.featureStarts.length - 1

/** West, south, east and north in degrees; east may exceed 180 where the data cross the antimeridian. */
export type Extent = [west: number, south: number, east: number, north: number]

/** All coordinates of a geometry, longitude and latitude by turns. */
export function coordsOf(geometry: Geometry): Float64Array {
  if (geometry.kind === 'none') return new Float64Array(0)
  return geometry.kind === 'points' ? geometry.coords : geometry.arcs.coords
}

/**
 * The smallest extent around all vertices, or null where there are none. Data on both sides of the
 * antimeridian stay together.
 */
export function extentOf(geometries: Geometry[]): Extent | null {
  let [south, north] = [Infinity, -Infinity]
  let [west, east, westOfZero, eastOfZero] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const geometry of geometries) {
    const coords = coordsOf(geometry)
    for (let i = 0; i < coords.length; i += 2) {
      const lon = coords[i]
      const lat = coords[i + 1]
      if (lon < west) west = lon
      if (lon > east) east = lon
      const positive = lon < 0 ? lon + 360 : lon
      if (positive < westOfZero) westOfZero = positive
      if (positive > eastOfZero) eastOfZero = positive
      if (lat < south) south = lat
      if (lat > north) north = lat
    }
  }
  if (east < west) return null
  // Only where it is really shorter: for data on one side the two differ by rounding alone.
  return eastOfZero - westOfZero < east - west - 1e-6
    ? [westOfZero, south, eastOfZero, north]
    : [west, south, east, north]
}

/** Calls `visit` with the vertices of ring or path `r` in order, joints between arcs once. */
export function eachVertex(
  { arcs, refs, ringStarts }: Areas | Lines,
  r: number,
  visit: (vertex: number) => void,
): void {
  for (let k = ringStarts[r]; k < ringStarts[r + 1]; k++) {
    const ref = refs[k]
    const arc = ref < 0 ? ~ref : ref
    const [first, last] = [arcs.starts[arc], arcs.starts[arc + 1] - 1]
    const skip = k > ringStarts[r] ? 1 : 0
    if (ref < 0) for (let v = last - skip; v >= first; v--) visit(v)
    else for (let v = first + skip; v <= last; v++) visit(v)
  }
}

/** The rings of feature `f`: from `[0]` up to `[1]`. */
export function ringRange(geometry: Areas | Lines, f: number): [number, number] {
  const { featureStarts } = geometry
  if (geometry.kind === 'lines') return [featureStarts[f], featureStarts[f + 1]]
  return [geometry.polygonStarts[featureStarts[f]], geometry.polygonStarts[featureStarts[f + 1]]]
}

/** Features on either side of each arc: `[2a]` and `[2a + 1]`, −1 where there is none. */
export function arcNeighbours(areas: Areas): Int32Array {
  const sides = new Int32Array(2 * (areas.arcs.starts.length - 1)).fill(-1)
  for (let f = 0; f < featureCount(areas); f++) {
    const [from, to] = ringRange(areas, f)
    for (let k = areas.ringStarts[from]; k < areas.ringStarts[to]; k++) {
      const arc = areas.refs[k] < 0 ? ~areas.refs[k] : areas.refs[k]
      if (sides[2 * arc] < 0) sides[2 * arc] = f
      else if (sides[2 * arc] !== f) sides[2 * arc + 1] = f
    }
  }
  return sides
}
