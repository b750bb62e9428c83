/**
 * Runs of vertices: arc `i` is the longitudes (over −180 up to 180) and latitudes (degrees, WGS 84) from vertex
 * `starts[i]` up to `starts[i + 1]`. An edge between two vertices is straight in longitude and latitude and runs
 * the shorter way round the globe, across the date line where that is shorter: nothing is cut there.
 */
export type Arcs = { coords: Float64Array; starts: Uint32Array }

/**
 * Areas with shared topology: a border between two areas is one arc that both refer to. A reference `a ≥ 0`
 * runs along arc `a`; `~a` runs along it backwards. Ring `r` is made of `refs[ringStarts[r]…ringStarts[r +
 * 1]]`, polygon `p` of rings from `polygonStarts[p]` (first the outer one, then holes, all with the inside on
 * their left), feature `f` of polygons from `featureStarts[f]`. Where a projection tore areas, arcs from
 * `cutFrom` on run along the tear and are no borders.
 */
export type Areas = {
  kind: 'areas'
  arcs: Arcs
  refs: Int32Array
  ringStarts: Uint32Array
  polygonStarts: Uint32Array
  featureStarts: Uint32Array
  taken?: Taken
  cutFrom?: number
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

/** West, south, east and north in degrees; east may exceed 180 where the data cross the date line. */
export type Extent = [west: number, south: number, east: number, north: number]

/** All coordinates of a geometry, longitude and latitude by turns. */
export function coordsOf(geometry: Geometry): Float64Array {
  if (geometry.kind === 'none') return new Float64Array(0)
  return geometry.kind === 'points' ? geometry.coords : geometry.arcs.coords
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
