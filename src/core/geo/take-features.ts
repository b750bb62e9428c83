import type { Areas, Geometry, Lines, Taken } from './geometry'

/**
 * The geometry of some features, in the order given. Arcs are kept as they are, and what they were taken from
 * is kept in mind, so that both are drawn from the same outlines.
 */
export function takeFeatures(geometry: Geometry, rows: ArrayLike<number>): Geometry {
  if (geometry.kind === 'none') return geometry
  const taken = geometry.kind === 'points' ? undefined : takenFrom(geometry, rows)
  const { featureStarts } = geometry
  const starts = new Uint32Array(rows.length + 1)
  const units: number[] = []
  for (let i = 0; i < rows.length; i++) {
    for (let u = featureStarts[rows[i]]; u < featureStarts[rows[i] + 1]; u++) units.push(u)
    starts[i + 1] = units.length
  }
  if (geometry.kind === 'points') {
    const coords = new Float64Array(2 * units.length)
    units.forEach((u, i) => coords.set([geometry.coords[2 * u], geometry.coords[2 * u + 1]], 2 * i))
    return { kind: 'points', coords, featureStarts: starts }
  }
  if (geometry.kind === 'lines')
    return {
      kind: 'lines',
      arcs: geometry.arcs,
      ...takeRuns(geometry.refs, geometry.ringStarts, units),
      featureStarts: starts,
      taken,
    }
  const polygonStarts = new Uint32Array(units.length + 1)
  const rings: number[] = []
  units.forEach((p, i) => {
    for (let r = geometry.polygonStarts[p]; r < geometry.polygonStarts[p + 1]; r++) rings.push(r)
    polygonStarts[i + 1] = rings.length
  })
  return {
    kind: 'areas',
    arcs: geometry.arcs,
    ...takeRuns(geometry.refs, geometry.ringStarts, rings),
    polygonStarts,
    featureStarts: starts,
    taken,
    cutFrom: geometry.cutFrom,
  }
}

function takeRuns(
  refs: Int32Array,
  ringStarts: Uint32Array,
  rings: number[],
): { refs: Int32Array; ringStarts: Uint32Array } {
  const starts = new Uint32Array(rings.length + 1)
  rings.forEach((r, i) => (starts[i + 1] = starts[i] + ringStarts[r + 1] - ringStarts[r]))
  const out = new Int32Array(starts[rings.length])
  rings.forEach((r, i) => out.set(refs.subarray(ringStarts[r], ringStarts[r + 1]), starts[i]))
  return { refs: out, ringStarts: starts }
}

/** Of features that were taken from taken ones, where the first were taken from. */
function takenFrom(geometry: Areas | Lines, rows: ArrayLike<number>): Taken {
  const { taken } = geometry
  return taken
    ? { from: taken.from, rows: Int32Array.from(rows, (row) => taken.rows[row]) }
    : { from: geometry, rows: Int32Array.from(rows) }
}
