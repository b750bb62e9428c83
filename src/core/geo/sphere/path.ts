import { cosineFromMiddle, type Frame } from '@/core/projection/frame'
import { eastward } from './longitudes'

/**
 * Edges are straight in longitude and latitude (RFC 7946, section 3.1.1) and so mostly bent on the map: longer ones
 * are cut into steps of so many degrees, and into as many that none lies farther off than so many metres.
 */
const stepDegrees = 0.5
const toleranceMetres = 3
/** Shorter edges are straight enough, except on the far side of a cap, where all is stretched; degrees. */
const straightDegrees = { near: 0.1, far: 0.004 }
const mostSteps = 512

/** Places of a frame. */
export type Path = { xs: number[]; ys: number[] }

/** Fills a path with the vertices of an arc, as the frame sees them, long edges bent. */
export function walkerOf(
  frame: Frame,
): (coords: Float64Array, range: [from: number, to: number], path: Path) => void {
  const cap = frame.domain.kind === 'cap'
  return (coords, [from, to], path) => {
    const { xs, ys } = path
    xs.length = ys.length = 0
    for (let v = from; v < to; v++) {
      const [lon, lat] = [coords[2 * v], coords[2 * v + 1]]
      const [x, y] = frame.toFrame(lon, lat)
      if (v > from) {
        const [lon0, lat0] = [coords[2 * v - 2], coords[2 * v - 1]]
        const span = eastward(lon0, lon)
        const size = Math.max(Math.abs(span), Math.abs(lat - lat0))
        const far = cap && cosineFromMiddle(x, y) < -0.6
        if (!frame.flat && size > (far ? straightDegrees.far : straightDegrees.near)) {
          const before: [number, number] = [xs[xs.length - 1], ys[ys.length - 1]]
          const middle = frame.toFrame(lon0 + span / 2, (lat0 + lat) / 2)
          const steps = Math.max(size / stepDegrees, bend(frame, before, middle, [x, y]))
          for (let s = 1; s < steps; s++) {
            const share = s / Math.ceil(steps)
            const [px, py] = frame.toFrame(lon0 + span * share, lat0 + (lat - lat0) * share)
            xs.push(px)
            ys.push(py)
          }
        }
      }
      xs.push(x)
      ys.push(y)
    }
  }
}

/** Into how many steps an edge has to be cut: what it lies off the straight line falls with their square. */
function bend(frame: Frame, from: [number, number], middle: [number, number], to: [number, number]): number {
  const { domain } = frame
  // What lies beyond a horizon is not drawn, and its formula may run to infinity there.
  if (domain.kind === 'cap') {
    const least = Math.cos((domain.degrees * Math.PI) / 180)
    if (cosineFromMiddle(...from) < least || cosineFromMiddle(...to) < least) return 1
  }
  const lobe = lobeAt(frame, middle)
  const [ax, ay] = frame.place(...from, lobe)
  const [bx, by] = frame.place(...to, lobe)
  const [mx, my] = frame.place(...middle, lobe)
  const off = Math.hypot(mx - (ax + bx) / 2, my - (ay + by) / 2)
  // About a pole, formulas bend unevenly.
  const more = Math.abs(middle[1]) > 80 ? 4 : 1
  return off * more > toleranceMetres ? Math.min(mostSteps, more * Math.sqrt(off / toleranceMetres)) : 1
}

function lobeAt({ domain }: Frame, [x, y]: [number, number]): number {
  if (domain.kind === 'cap' || domain.lobes.length === 1) return 0
  return Math.max(
    0,
    domain.lobes.findIndex(
      ({ west, east, south, north }) => x >= west && x <= east && y >= south && y <= north,
    ),
  )
}
