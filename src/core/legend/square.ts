import { polygon, polyline } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics, type FontBook } from '@/core/scene/text'
import type { Laid, LegendLook, PlacedLine } from './look'
import type { LegendBlock, LegendLine } from './entries'

type At = (across: number, up: number) => [number, number]

/**
 * The classes of two fields as a field of colours with an arrow along either side. Turned by an eighth, low on both
 * stands at the foot and neither field is the first. Rows may have different numbers of cells.
 */
export function squareFigure({ figure, across, up }: NonNullable<LegendBlock['square']>, look: LegendLook, fonts: FontBook): Laid {
  const { cells, turned } = figure
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const cell = 0.75 * look.swatchWidthMm
  const width = cell * Math.max(...cells.map((row) => row.length > 1 ? Math.min(4, row.length) : 1))
  const height = cell * cells.length
  const room = 0.9 * look.label.sizeMm + capHeightMm
  const arrow = 0.45 * look.label.sizeMm
  const turn = Math.SQRT1_2
  // From shares of both sides to the page, with room for arrow and words around.
  const side = Math.max(width, height)
  const pad = (room + 1) * turn
  const at: At = turned
    ? (a, u) => [pad + (side + a * width - u * height) * turn, 0.5 + (side * 2 - a * width - u * height) * turn]
    : (a, u) => [room + a * width, 0.5 + height - u * height]
  const nodes = cells.flatMap((row, r) =>
    row.map((colour, c) => {
      const [u0, u1] = [r / cells.length, (r + 1) / cells.length]
      const [a0, a1] = [c / row.length, (c + 1) / row.length]
      return path(polygon([...at(a0, u0), ...at(a1, u0), ...at(a1, u1), ...at(a0, u1), ...at(a0, u0)]), { fill: solid(colour), strokes: [stroke('#ffffff', look.gapMm > 0 ? look.gapMm : 0.12)] })
    }),
  )
  const off = (distance: number): { across: At; up: At } => (turned ? { across: (a) => shift(at(a, 0), [distance * turn, distance * turn]), up: (_, u) => shift(at(0, u), [-distance * turn, distance * turn]) } : { across: (a) => shift(at(a, 0), [0, distance]), up: (_, u) => shift(at(0, u), [-distance, 0]) })
  const arrows = [arrowAlong(off(arrow).across(0, 0), off(arrow).across(1, 0), look), arrowAlong(off(arrow).up(0, 0), off(arrow).up(0, 1), look)]
  const placed: PlacedLine[] = []
  const words = (line: LegendLine | null, middle: [number, number], deg: number) => {
    if (!line) return
    const plain = textNode(fonts, line.text, look.label, { x: 0, y: 0, colour: look.labelColour })
    const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
    const [x, y] = [middle[0] - (c * plain.widthMm) / 2, middle[1] - (s * plain.widthMm) / 2]
    placed.push({ line, x: middle[0] - plain.widthMm / 2, y: middle[1] - look.label.sizeMm, width: plain.widthMm, height: look.label.sizeMm * 1.3, textX: middle[0] - plain.widthMm / 2, nodes: [{ ...plain, x, y, rotationDeg: deg }] })
  }
  const away = arrow + 0.45 * look.label.sizeMm
  if (turned) {
    words(across, off(away + capHeightMm).across(0.5, 0), -45)
    words(up, off(away + capHeightMm).up(0, 0.5), 45)
  } else {
    words(across, off(away + capHeightMm).across(0.5, 0), 0)
    words(up, off(away).up(0, 0.5), -90)
  }
  const total = turned ? { width: 2 * pad + 2 * side * turn, height: 0.5 + 2 * side * turn + pad } : { width: room + width, height: height + room + 1 }
  return { ...total, nodes: [group('cells', nodes), group('arrows', arrows)], placed }
}

const shift = ([x, y]: [number, number], [dx, dy]: [number, number]): [number, number] => [x + dx, y + dy]

function arrowAlong(from: [number, number], to: [number, number], look: LegendLook): Node {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1])
  const [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length]
  const head = 0.28 * look.label.sizeMm
  const barb = (side: 1 | -1): [number, number] => [to[0] - head * (ux - side * 0.6 * uy), to[1] - head * (uy + side * 0.6 * ux)]
  return path(polyline([...from, ...to], [...barb(1), ...to, ...barb(-1)]), { strokes: [stroke(look.labelColour, 0.15)] })
}
