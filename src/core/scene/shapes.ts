import type { Box, Outline, Verb } from './outline'

/** How far the handles of a cubic curve lie from its ends to follow a quarter of a circle, in radii. */
const quarter = 0.5522847498

/** Collects a `curves` outline. */
export function pen() {
  const verbs: Verb[] = []
  const coords: number[] = []
  const put = (verb: Verb, ...numbers: number[]) => {
    verbs.push(verb)
    coords.push(...numbers)
    return drawing
  }
  const drawing = {
    move: (x: number, y: number) => put('M', x, y),
    line: (x: number, y: number) => put('L', x, y),
    curve: (first: [number, number], second: [number, number], end: [number, number]) =>
      put('C', ...first, ...second, ...end),
    close: () => put('Z'),
    outline: (): Outline => ({ kind: 'curves', verbs, coords: Float64Array.from(coords) }),
  }
  return drawing
}

/** An ellipse that fills a box. */
export function ellipse({ x, y, width, height }: Box): Outline {
  const [rx, ry] = [width / 2, height / 2]
  const [cx, cy] = [x + rx, y + ry]
  const [kx, ky] = [quarter * rx, quarter * ry]
  return pen()
    .move(cx + rx, cy)
    .curve([cx + rx, cy + ky], [cx + kx, cy + ry], [cx, cy + ry])
    .curve([cx - kx, cy + ry], [cx - rx, cy + ky], [cx - rx, cy])
    .curve([cx - rx, cy - ky], [cx - kx, cy - ry], [cx, cy - ry])
    .curve([cx + kx, cy - ry], [cx + rx, cy - ky], [cx + rx, cy])
    .close()
    .outline()
}

/** A rectangle with round corners; the radius is at most half of the shorter side. */
export function roundedRectangle({ x, y, width, height }: Box, radiusMm: number): Outline {
  const r = Math.max(0, Math.min(radiusMm, width / 2, height / 2))
  const k = r * (1 - quarter)
  const [right, bottom] = [x + width, y + height]
  if (r === 0) return pen().move(x, y).line(right, y).line(right, bottom).line(x, bottom).close().outline()
  return pen()
    .move(x + r, y)
    .line(right - r, y)
    .curve([right - k, y], [right, y + k], [right, y + r])
    .line(right, bottom - r)
    .curve([right, bottom - k], [right - k, bottom], [right - r, bottom])
    .line(x + r, bottom)
    .curve([x + k, bottom], [x, bottom - k], [x, bottom - r])
    .line(x, y + r)
    .curve([x, y + k], [x + k, y], [x + r, y])
    .close()
    .outline()
}

/** A box made smaller by `by` on every side, never turned inside out. */
export const insetBox = ({ x, y, width, height }: Box, by: number): Box => {
  const [w, h] = [Math.max(0, width - 2 * by), Math.max(0, height - 2 * by)]
  return { x: x + (width - w) / 2, y: y + (height - h) / 2, width: w, height: h }
}
