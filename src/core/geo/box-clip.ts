import type { Position } from 'geojson'

type Box = [west: number, south: number, east: number, north: number]

/**
 * A polygon cut down to a box and a margin around it (Sutherland and Hodgman 1974), for operations whose result
 * lies inside the box: far fewer vertices, the same inside. Beyond the box its edges may run to and fro along the
 * margin. Null where nothing of it is near.
 */
export function boxed(rings: Position[][], box: Box): Position[][] | null {
  const [west, south, east, north] = withMargin(box)
  const sides: Side[] = [
    { axis: 0, at: west, above: true },
    { axis: 0, at: east, above: false },
    { axis: 1, at: south, above: true },
    { axis: 1, at: north, above: false },
  ]
  const kept = rings.map((ring) => sides.reduce(cutBy, ring))
  if (kept[0].length < 4) return null
  return kept.filter((ring) => ring.length >= 4)
}

/** A box with its margin: a hundredth of its longer side. */
export function withMargin([west, south, east, north]: Box): Box {
  const margin = 0.01 * Math.max(east - west, north - south, 1e-9)
  return [west - margin, south - margin, east + margin, north + margin]
}

type Side = { axis: 0 | 1; at: number; above: boolean }

function cutBy(ring: Position[], { axis, at, above }: Side): Position[] {
  const inside = (place: Position) => (above ? place[axis] >= at : place[axis] <= at)
  if (ring.every(inside)) return ring
  const out: Position[] = []
  for (let i = 1; i < ring.length; i++) {
    const [a, b] = [ring[i - 1], ring[i]]
    if (inside(a) !== inside(b)) {
      const t = (at - a[axis]) / (b[axis] - a[axis])
      const place: Position = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
      place[axis] = at
      out.push(place)
    }
    if (inside(b)) out.push(b)
  }
  if (out.length) out.push(out[0])
  return out
}
