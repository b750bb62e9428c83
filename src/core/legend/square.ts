import { polygon, polyline } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, translate, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics, type FontBook } from '@/core/scene/text'
import type { Laid, LegendLook, PlacedLine } from './look'
import type { LegendBlock, LegendLine } from './entries'

type At = (across: number, up: number) => [number, number]

/**
 * The classes of two fields as a field of colours with an arrow along either side. Turned by an eighth, low
 * on both stands at the foot and neither field is the first. Rows may have different numbers of cells.
 */
export function squareFigure(
  { figure, across, up }: NonNullable<LegendBlock['square']>,
  look: LegendLook,
  fonts: FontBook,
): Laid {
  const { cells, turned } = figure
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const cell = 0.75 * look.swatchWidthMm
  const width = cell * Math.max(...cells.map((row) => (row.length > 1 ? Math.min(4, row.length) : 1)))
  const height = cell * cells.length
  const arrow = 0.45 * look.label.sizeMm
  const turn = Math.SQRT1_2
  // From shares of both sides to the page, low on both at the origin.
  const at: At = turned
    ? (a, u) => [(a * width - u * height) * turn, -(a * width + u * height) * turn]
    : (a, u) => [a * width, -u * height]
  const nodes = cells.flatMap((row, r) =>
    row.map((colour, c) => {
      const [u0, u1] = [r / cells.length, (r + 1) / cells.length]
      const [a0, a1] = [c / row.length, (c + 1) / row.length]
      const outline = polygon([...at(a0, u0), ...at(a1, u0), ...at(a1, u1), ...at(a0, u1), ...at(a0, u0)])
      if (figure.filled) return group(`${r + 1} up, ${c + 1} across`, figure.filled(outline, colour))
      return path(outline, {
        fill: solid(colour),
        strokes: [stroke('#ffffff', look.gapMm > 0 ? look.gapMm : 0.12)],
      })
    }),
  )
  const off = (distance: number): { across: At; up: At } =>
    turned
      ? {
          across: (a) => shift(at(a, 0), [distance * turn, distance * turn]),
          up: (_, u) => shift(at(0, u), [-distance * turn, distance * turn]),
        }
      : { across: (a) => shift(at(a, 0), [0, distance]), up: (_, u) => shift(at(0, u), [-distance, 0]) }
  const arrows = [
    arrowAlong(off(arrow).across(0, 0), off(arrow).across(1, 0), look),
    arrowAlong(off(arrow).up(0, 0), off(arrow).up(0, 1), look),
  ]
  const placed: PlacedLine[] = []
  const corners: [number, number][] = [at(0, 0), at(1, 0), at(0, 1), at(1, 1)]
  const words = (line: LegendLine | null, middle: [number, number], deg: number) => {
    if (!line) return
    const plain = textNode(fonts, line.text, look.label, { x: 0, y: 0, colour: look.labelColour })
    const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
    const [x, y] = [middle[0] - (c * plain.widthMm) / 2, middle[1] - (s * plain.widthMm) / 2]
    // The corners of the turned words: long ones may reach beyond the square.
    for (const [along, across] of [
      [0, -capHeightMm],
      [0, 0.25 * look.label.sizeMm],
      [plain.widthMm, -capHeightMm],
      [plain.widthMm, 0.25 * look.label.sizeMm],
    ])
      corners.push([x + c * along - s * across, y + s * along + c * across])
    placed.push({
      line,
      x: middle[0] - plain.widthMm / 2,
      y: middle[1] - look.label.sizeMm,
      width: plain.widthMm,
      height: look.label.sizeMm * 1.3,
      textX: middle[0] - plain.widthMm / 2,
      nodes: [{ ...plain, x, y, rotationDeg: deg }],
    })
  }
  const away = arrow + 0.45 * look.label.sizeMm
  if (turned) {
    words(across, off(away + capHeightMm).across(0.5, 0), -45)
    words(up, off(away + capHeightMm).up(0, 0.5), 45)
  } else {
    words(across, off(away + capHeightMm).across(0.5, 0), 0)
    words(up, off(away).up(0, 0.5), -90)
  }
  const [x0, y0] = [0, 1].map((axis) => Math.min(...corners.map((corner) => corner[axis])))
  const [x1, y1] = [0, 1].map((axis) => Math.max(...corners.map((corner) => corner[axis])))
  const home = translate(-x0, -y0)
  return {
    width: x1 - x0,
    height: y1 - y0 + 0.4 * look.label.sizeMm,
    nodes: [group('cells', nodes, { transform: home }), group('arrows', arrows, { transform: home })],
    placed: placed.map((one) => ({
      ...one,
      x: one.x - x0,
      y: one.y - y0,
      textX: one.textX - x0,
      nodes: [group(one.line.key, one.nodes, { transform: home })],
    })),
  }
}

const shift = ([x, y]: [number, number], [dx, dy]: [number, number]): [number, number] => [x + dx, y + dy]

function arrowAlong(from: [number, number], to: [number, number], look: LegendLook): Node {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1])
  const [ux, uy] = [(to[0] - from[0]) / length, (to[1] - from[1]) / length]
  const head = 0.28 * look.label.sizeMm
  const barb = (side: 1 | -1): [number, number] => [
    to[0] - head * (ux - side * 0.6 * uy),
    to[1] - head * (uy + side * 0.6 * ux),
  ]
  return path(polyline([...from, ...to], [...barb(1), ...to, ...barb(-1)]), {
    strokes: [stroke(look.labelColour, 0.15)],
  })
}
