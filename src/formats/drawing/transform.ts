import type { Transform } from '@/core/scene/scene'

/** One after the other: what `second` does to a place comes first, as nested elements have it. */
export const times = ([a, b, c, d, e, f]: Transform, [g, h, i, j, k, l]: Transform): Transform => [
  a * g + c * h,
  b * g + d * h,
  a * i + c * j,
  b * i + d * j,
  a * k + c * l + e,
  b * k + d * l + f,
]

const radians = (deg: number): number => (deg * Math.PI) / 180

function turned(deg: number): Transform {
  const [cos, sin] = [Math.cos(radians(deg)), Math.sin(radians(deg))]
  return [cos, sin, -sin, cos, 0, 0]
}

/** One function of a `transform` attribute with its numbers. */
function transformStep(name: string, n: number[]): Transform {
  switch (name) {
    case 'matrix':
      return n as Transform
    case 'translate':
      return [1, 0, 0, 1, n[0], n[1] ?? 0]
    case 'scale':
      return [n[0], 0, 0, n[1] ?? n[0], 0, 0]
    case 'rotate':
      if (n.length === 1) return turned(n[0])
      return times(times([1, 0, 0, 1, n[1], n[2]], turned(n[0])), [1, 0, 0, 1, -n[1], -n[2]])
    case 'skewX':
      return [1, 0, Math.tan(radians(n[0])), 1, 0, 0]
    default:
      return [1, Math.tan(radians(n[0])), 0, 1, 0, 0]
  }
}

/** The `transform` attribute as one matrix (SVG 1.1, section 7.6). */
export function matrixOf(text: string): Transform {
  let matrix: Transform = [1, 0, 0, 1, 0, 0]
  for (const [, name, args] of text.matchAll(/(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)/g)) {
    const n = args
      .split(/[\s,]+/)
      .filter(Boolean)
      .map(Number)
    matrix = times(matrix, transformStep(name, n))
  }
  return matrix
}
