import { rgb } from 'd3-color'
import type { Colour } from '@/core/scene/paint'

/**
 * The light of points on a grid: each adds its weight times (1 − (d ∕ r)²)² at distance d within its radius
 * r, a round hill without a rim.
 * @param points x and y in cells, and the weight
 */
export function lightOf(
  points: { x: number; y: number; weight: number }[],
  columns: number,
  rows: number,
  radius: number,
): Float32Array {
  const light = new Float32Array(columns * rows)
  for (const { x, y, weight } of points) {
    const [left, right] = [
      Math.max(0, Math.ceil(x - radius - 0.5)),
      Math.min(columns - 1, Math.floor(x + radius - 0.5)),
    ]
    const [top, bottom] = [
      Math.max(0, Math.ceil(y - radius - 0.5)),
      Math.min(rows - 1, Math.floor(y + radius - 0.5)),
    ]
    for (let r = top; r <= bottom; r++)
      for (let c = left; c <= right; c++) {
        const d = ((c + 0.5 - x) ** 2 + (r + 0.5 - y) ** 2) / (radius * radius)
        if (d < 1) light[r * columns + c] += weight * (1 - d) ** 2
      }
  }
  return light
}

/**
 * Light as colours: a share of 1 − e^(−strength · light) shows, so that any amount of it stays below 1; faint
 * light has the edge's colour and is clear, strong light the core's.
 */
export function coloursOf(
  light: Float32Array,
  strength: number,
  [edge, middle, core]: [Colour, Colour, Colour],
): Uint8ClampedArray {
  const out = new Uint8ClampedArray(4 * light.length)
  const stops = [edge, middle, core].map((colour) => rgb(colour))
  // What a single point shows at its middle is the strength.
  const k = -Math.log(1 - Math.min(0.999, strength))
  for (let i = 0; i < light.length; i++) {
    if (!(light[i] > 0)) continue
    const share = 1 - Math.exp(-k * light[i])
    const [a, b, t] = share < 0.5 ? [stops[0], stops[1], share * 2] : [stops[1], stops[2], share * 2 - 1]
    out[4 * i] = a.r + (b.r - a.r) * t
    out[4 * i + 1] = a.g + (b.g - a.g) * t
    out[4 * i + 2] = a.b + (b.b - a.b) * t
    out[4 * i + 3] = 255 * Math.min(1, share * 1.25)
  }
  return out
}
