import type { Arcs } from './geometry'

/** Arcs with so many more vertices on long edges that these can bend: none is longer than `longest`. */
export function bendable({ coords, starts }: Arcs, longest: number): Arcs {
  const out: number[] = []
  const ends = [0]
  for (let arc = 0; arc + 1 < starts.length; arc++) {
    for (let v = starts[arc]; v < starts[arc + 1]; v++) {
      const [x, y] = [coords[2 * v], coords[2 * v + 1]]
      if (v > starts[arc]) {
        const [dx, dy] = [x - coords[2 * v - 2], y - coords[2 * v - 1]]
        const pieces = Math.ceil(Math.hypot(dx, dy) / longest)
        for (let k = 1; k < pieces; k++) out.push(x - dx * (1 - k / pieces), y - dy * (1 - k / pieces))
      }
      out.push(x, y)
    }
    ends.push(out.length / 2)
  }
  return { coords: Float64Array.from(out), starts: Uint32Array.from(ends) }
}
