import { Delaunay } from 'd3-delaunay'
import type { Interpolator, Samples } from './samples'

/**
 * Natural neighbour interpolation (Sibson 1981): a place takes from each sample around it in proportion to the ground
 * that it would take from that sample's Voronoi cell. The areas are those between circumcentres (Watson 1992), found in
 * the triangles whose circle holds the place. Planes are reproduced exactly; outside of the samples' convex hull there
 * is no value.
 */
export function naturalNeighbours({ places, values }: Samples): Interpolator {
  const delaunay = new Delaunay(places)
  const { triangles, halfedges } = delaunay
  const count = triangles.length / 3
  const centres = new Float64Array(2 * count)
  const radii = new Float64Array(count)
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [triangles[3 * t], triangles[3 * t + 1], triangles[3 * t + 2]].map((i) => 2 * i)
    const [x, y] = circumcentre(
      [places[a], places[a + 1]],
      [places[b], places[b + 1]],
      [places[c], places[c + 1]],
    )
    centres[2 * t] = x
    centres[2 * t + 1] = y
    radii[t] = (places[a] - x) ** 2 + (places[a + 1] - y) ** 2
  }
  const holds = (t: number, x: number, y: number): boolean =>
    (centres[2 * t] - x) ** 2 + (centres[2 * t + 1] - y) ** 2 < radii[t]
  let last = 0
  const seen = new Int32Array(count).fill(-1)
  let asked = 0

  /** The triangle that a place lies in, walked to from the last one; −1 outside of all. */
  function triangleAt(x: number, y: number): number {
    let t = last
    for (let steps = 0; steps <= count; steps++) {
      let moved = false
      for (let k = 0; k < 3 && !moved; k++) {
        const [i, j] = [2 * triangles[3 * t + k], 2 * triangles[3 * t + ((k + 1) % 3)]]
        const cross =
          (places[j] - places[i]) * (y - places[i + 1]) - (places[j + 1] - places[i + 1]) * (x - places[i])
        // Triangles run so that their inside is where this is not above zero.
        if (cross * orientation <= 0) continue
        const across = halfedges[3 * t + k]
        if (across < 0) return -1
        t = Math.floor(across / 3)
        moved = true
      }
      if (!moved) {
        last = t
        return t
      }
    }
    return -1
  }
  const orientation = count ? -Math.sign(areaOf(places, triangles, 0)) : 1

  return {
    errorAt: null,
    at(x, y) {
      if (!count) return NaN
      const start = triangleAt(x, y)
      if (start < 0) return NaN
      for (let k = 0; k < 3; k++) {
        const i = triangles[3 * start + k]
        if (places[2 * i] === x && places[2 * i + 1] === y) return values[i]
      }
      asked++
      const cavity = [start]
      seen[start] = asked
      const weights = new Map<number, number>()
      let total = 0
      const add = (i: number, w: number): void => {
        weights.set(i, (weights.get(i) ?? 0) + w)
        total += w
      }
      for (let n = 0; n < cavity.length; n++) {
        const t = cavity[n]
        const corners = [0, 1, 2].map((k): [number, number] => {
          const i = triangles[3 * t + k]
          return [places[2 * i], places[2 * i + 1]]
        })
        // Circumcentres of the place with each side.
        const own = [0, 1, 2].map((k) => circumcentre([x, y], corners[(k + 1) % 3], corners[(k + 2) % 3]))
        const [cx, cy] = [centres[2 * t], centres[2 * t + 1]]
        for (let k = 0; k < 3; k++) {
          const [p, q] = [own[(k + 1) % 3], own[(k + 2) % 3]]
          add(triangles[3 * t + k], (p[0] - cx) * (q[1] - cy) - (p[1] - cy) * (q[0] - cx))
          const across = halfedges[3 * t + k]
          const next = across < 0 ? -1 : Math.floor(across / 3)
          if (next >= 0 && seen[next] !== asked && holds(next, x, y)) {
            seen[next] = asked
            cavity.push(next)
          }
        }
      }
      // On a side of a triangle a circle runs through infinity; a hair beside it there is nothing odd.
      if (!Number.isFinite(total) || total === 0) return this.at(x + nudge(x), y + nudge(y) * 0.7)
      let sum = 0
      for (const [i, w] of weights) sum += w * values[i]
      return sum / total
    },
  }
}

const nudge = (at: number): number => Math.max(1e-6, Math.abs(at) * 1e-12)

function areaOf(places: Float64Array, triangles: Uint32Array, t: number): number {
  const [a, b, c] = [triangles[3 * t], triangles[3 * t + 1], triangles[3 * t + 2]].map((i) => 2 * i)
  return (
    (places[b] - places[a]) * (places[c + 1] - places[a + 1]) -
    (places[b + 1] - places[a + 1]) * (places[c] - places[a])
  )
}

function circumcentre(
  [ax, ay]: [number, number],
  [bx, by]: [number, number],
  [cx, cy]: [number, number],
): [number, number] {
  const [dx, dy, ex, ey] = [bx - ax, by - ay, cx - ax, cy - ay]
  const bl = dx * dx + dy * dy
  const cl = ex * ex + ey * ey
  const d = 0.5 / (dx * ey - dy * ex)
  return [ax + (ey * bl - dy * cl) * d, ay + (dx * cl - ex * bl) * d]
}
