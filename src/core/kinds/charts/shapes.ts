import type { Outline, Verb } from '@/core/scene/outline'

/**
 * Curves along a circle from one angle to another (radians, clockwise on paper from twelve o'clock), at most
 * a quarter each.
 */
function arc(
  x: number,
  y: number,
  { r, from, to, verbs, coords }: { r: number; from: number; to: number; verbs: Verb[]; coords: number[] },
): void {
  const steps = Math.max(1, Math.ceil(Math.abs(to - from) / (Math.PI / 2) - 1e-9))
  const step = (to - from) / steps
  const k = (4 / 3) * Math.tan(step / 4) * r
  for (let i = 0; i < steps; i++) {
    const [a, b] = [from + i * step, from + (i + 1) * step]
    verbs.push('C')
    coords.push(
      x + r * Math.sin(a) + k * Math.cos(a),
      y - r * Math.cos(a) + k * Math.sin(a),
      x + r * Math.sin(b) - k * Math.cos(b),
      y - r * Math.cos(b) - k * Math.sin(b),
      x + r * Math.sin(b),
      y - r * Math.cos(b),
    )
  }
}

/**
 * A slice between two shares of the whole (0 to 1), beginning at the top; with a hole it is a piece of a
 * ring.
 */
export function slice(
  x: number,
  y: number,
  { radius, from, to, hole = 0 }: { radius: number; from: number; to: number; hole?: number },
): Outline {
  const [a, b] = [2 * Math.PI * from, 2 * Math.PI * to]
  const inner = radius * hole
  const verbs: Verb[] = ['M']
  const coords = [x + radius * Math.sin(a), y - radius * Math.cos(a)]
  arc(x, y, { r: radius, from: a, to: b, verbs, coords })
  if (to - from >= 1 - 1e-12) {
    // The whole: a circle, and within a ring another one the other way round.
    verbs.push('Z')
    if (inner > 0) {
      verbs.push('M')
      coords.push(x + inner * Math.sin(b), y - inner * Math.cos(b))
      arc(x, y, { r: inner, from: b, to: a, verbs, coords })
      verbs.push('Z')
    }
    return { kind: 'curves', verbs, coords: Float64Array.from(coords) }
  }
  verbs.push('L')
  coords.push(x + inner * Math.sin(b), y - inner * Math.cos(b))
  if (inner > 0) arc(x, y, { r: inner, from: b, to: a, verbs, coords })
  verbs.push('Z')
  return { kind: 'curves', verbs, coords: Float64Array.from(coords) }
}
