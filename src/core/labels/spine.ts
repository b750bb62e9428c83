import { trackOf, type Track } from './track'

/** How many times longer than wide an area has to be for its name to follow it. */
const longEnough = 1.9

/**
 * A gently bent line along the middle of a long area, from left to right: the main axis of its border (the
 * first principal component), with a parabola through the middles of the chords across it, laid where the
 * area is at least `roomMm` wide. Null for areas that are not long.
 */
export function spineOf(rings: Float64Array[], roomMm: number): Track | null {
  const ring = rings.reduce((a, b) => (Math.abs(areaOf(b)) > Math.abs(areaOf(a)) ? b : a), rings[0])
  if (!ring || ring.length < 8) return null
  const { x: mx, y: my, angle } = mainAxis(ring)
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  const turned = Float64Array.from(ring)
  let [u0, u1, v0, v1] = [Infinity, -Infinity, Infinity, -Infinity]
  for (let i = 0; i < ring.length; i += 2) {
    const [u, v] = [
      (ring[i] - mx) * cos + (ring[i + 1] - my) * sin,
      -(ring[i] - mx) * sin + (ring[i + 1] - my) * cos,
    ]
    turned[i] = u
    turned[i + 1] = v
    ;[u0, u1, v0, v1] = [Math.min(u0, u), Math.max(u1, u), Math.min(v0, v), Math.max(v1, v)]
  }
  const steps = 24
  const chords: { u: number; v: number; width: number }[] = []
  for (let i = 1; i < steps; i++) {
    const u = u0 + ((u1 - u0) * i) / steps
    const best = crossings(turned, u).reduce<[number, number] | null>(
      (widest, [a, b]) => (!widest || b - a > widest[1] - widest[0] ? [a, b] : widest),
      null,
    )
    if (best && best[1] - best[0] >= roomMm)
      chords.push({ u, v: (best[0] + best[1]) / 2, width: best[1] - best[0] })
  }
  const meanWidth = chords.reduce((sum, { width }) => sum + width, 0) / (chords.length || 1)
  if (chords.length < 6 || u1 - u0 < longEnough * meanWidth) return null
  const fit = parabola(chords)
  const [from, to] = [chords[0].u, chords[chords.length - 1].u]
  const flat: number[] = []
  for (let i = 0; i <= 32; i++) {
    const u = from + ((to - from) * i) / 32
    const v = Math.min(v1, Math.max(v0, fit(u)))
    flat.push(mx + u * cos - v * sin, my + u * sin + v * cos)
  }
  return trackOf(flat)
}

function areaOf(ring: Float64Array): number {
  let sum = 0
  for (let i = 0; i + 3 < ring.length; i += 2) sum += ring[i] * ring[i + 3] - ring[i + 2] * ring[i + 1]
  return sum / 2
}

/**
 * Middle and direction (within a right angle of the level) of the longest spread of a ring, its edges weighed
 * by length.
 */
function mainAxis(ring: Float64Array): { x: number; y: number; angle: number } {
  let [sum, x, y] = [0, 0, 0]
  const edges: [number, number, number][] = []
  for (let i = 0; i + 3 < ring.length; i += 2) {
    const weight = Math.hypot(ring[i + 2] - ring[i], ring[i + 3] - ring[i + 1])
    const [ex, ey] = [(ring[i] + ring[i + 2]) / 2, (ring[i + 1] + ring[i + 3]) / 2]
    edges.push([ex, ey, weight])
    sum += weight
    x += ex * weight
    y += ey * weight
  }
  x /= sum || 1
  y /= sum || 1
  let [xx, xy, yy] = [0, 0, 0]
  for (const [ex, ey, weight] of edges) {
    xx += weight * (ex - x) ** 2
    xy += weight * (ex - x) * (ey - y)
    yy += weight * (ey - y) ** 2
  }
  return { x, y, angle: Math.atan2(2 * xy, xx - yy) / 2 }
}

/** Where a line across the axis runs inside a ring whose coordinates stand along and across it. */
function crossings(ring: Float64Array, u: number): [number, number][] {
  const crossings: number[] = []
  for (let i = 0; i + 3 < ring.length; i += 2) {
    const [a, b] = [ring[i], ring[i + 2]]
    if (a <= u !== b <= u) crossings.push(ring[i + 1] + ((u - a) / (b - a)) * (ring[i + 3] - ring[i + 1]))
  }
  crossings.sort((a, b) => a - b)
  return Array.from({ length: crossings.length >> 1 }, (_, i) => [crossings[2 * i], crossings[2 * i + 1]])
}

/** The parabola nearest to some points by least squares, each weighed by its width. */
function parabola(points: { u: number; v: number; width: number }[]): (u: number) => number {
  const reach = Math.max(...points.map(({ u }) => Math.abs(u))) || 1
  const s = [0, 0, 0, 0, 0]
  const t = [0, 0, 0]
  for (const { u, v, width } of points) {
    const n = u / reach
    for (let p = 0; p < 5; p++) s[p] += width * n ** p
    for (let p = 0; p < 3; p++) t[p] += width * v * n ** p
  }
  const det = (m: number[]): number =>
    m[0] * (m[4] * m[8] - m[5] * m[7]) -
    m[1] * (m[3] * m[8] - m[5] * m[6]) +
    m[2] * (m[3] * m[7] - m[4] * m[6])
  const base = [s[0], s[1], s[2], s[1], s[2], s[3], s[2], s[3], s[4]]
  const whole = det(base)
  if (Math.abs(whole) < 1e-12) return () => t[0] / (s[0] || 1)
  const [a, b, c] = [0, 1, 2].map(
    (column) => det(base.map((value, i) => (i % 3 === column ? t[(i - column) / 3] : value))) / whole,
  )
  return (u) => a + b * (u / reach) + c * (u / reach) ** 2
}
