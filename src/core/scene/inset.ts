import ClipperLib from 'clipper-lib'
import { polygon, trace, type Box, type Outline } from './outline'

type Corners = { X: number; Y: number }[]

/** Whole numbers for a millimetre: the library reckons with integers. */
const perMm = 10_000
/** A curve becomes so many straight pieces. */
const pieces = 24

const corner = (x: number, y: number) => ({ X: Math.round(x * perMm), Y: Math.round(y * perMm) })

/** The corners of an outline, ring by ring. */
function ringsOf(outline: Outline): Corners[] {
  const rings: Corners[] = []
  let [px, py] = [0, 0]
  const add = (x: number, y: number): void => {
    rings[rings.length - 1].push(corner(x, y))
    ;[px, py] = [x, y]
  }
  trace(outline, {
    moveTo(x, y) {
      rings.push([])
      add(x, y)
    },
    lineTo: add,
    bezierCurveTo(...curve) {
      const [x0, y0] = [px, py]
      const [x1, y1, x2, y2, x, y] = curve
      for (let i = 1; i <= pieces; i++) {
        const [t, s] = [i / pieces, 1 - i / pieces]
        const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t]
        add(a * x0 + b * x1 + c * x2 + d * x, a * y0 + b * y1 + c * y2 + d * y)
      }
    },
    closePath: () => undefined,
  })
  return rings
}

const outlineOf = (rings: readonly Corners[]): Outline =>
  polygon(...rings.map((ring) => ring.flatMap(({ X, Y }) => [X / perMm, Y / perMm])))

/** What of a filled outline lies in a box. */
export function withinBox(outline: Outline, { x, y, width, height }: Box): Outline {
  const clipper = new ClipperLib.Clipper()
  clipper.AddPaths(ringsOf(outline), ClipperLib.PolyType.ptSubject, true)
  const box = [corner(x, y), corner(x + width, y), corner(x + width, y + height), corner(x, y + height)]
  clipper.AddPath(box, ClipperLib.PolyType.ptClip, true)
  const inside: Corners[] = []
  const { pftEvenOdd, pftNonZero } = ClipperLib.PolyFillType
  clipper.Execute(ClipperLib.ClipType.ctIntersection, inside, pftEvenOdd, pftNonZero)
  return outlineOf(inside)
}

/**
 * A filled outline of any form moved inwards by some millimetres, corners kept sharp; without rings where nothing is
 * left of it. Curves become polygons.
 */
export function insetOutline(outline: Outline, byMm: number): Outline {
  const { pftEvenOdd } = ClipperLib.PolyFillType
  const simple = ClipperLib.Clipper.SimplifyPolygons(ringsOf(outline), pftEvenOdd)
  const offset = new ClipperLib.ClipperOffset(4)
  offset.AddPaths(simple, ClipperLib.JoinType.jtMiter, ClipperLib.EndType.etClosedPolygon)
  const moved: Corners[] = []
  offset.Execute(moved, -byMm * perMm)
  return outlineOf(moved)
}
