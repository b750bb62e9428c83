import { numbersIn } from '../../figures/rows'
import {
  footAxis,
  colourAt,
  type Drawing,
  finite,
  labelOf,
  nameOf,
  scaleOver,
  widthOf,
  write,
} from './drawing'
import { rectangle } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { type Node, path } from '@/core/scene/scene'

export function pyramid(drawing: Drawing): Node[] {
  const { settings, prepared, rows, space, style, capMm } = drawing
  const sides = settings.fields.slice(0, 2).map((field) => numbersIn(prepared.dataset, field))
  const names = rows.map((row) => nameOf(drawing, row))
  const middleWidth = Math.max(...names.map((name) => widthOf(drawing, name))) + 3
  const half = (space.width - middleWidth) / 2
  const top = 1.7 * style.sizeMm
  const plot = { ...space, y: space.y + top, height: space.height - top - 1.8 * style.sizeMm }
  const all = finite(rows.flatMap((row) => sides.map((side) => Math.abs(side[row]))))
  if (!all.length) return []
  const right = scaleOver(all, [space.x + space.width - half, space.x + space.width], { count: 3 })
  const left = scaleOver(all, [space.x + half, space.x], { count: 3 })
  const pace = plot.height / rows.length
  // The first row lies at the foot, as ages do.
  const middle = (i: number) => plot.y + plot.height - (i + 0.5) * pace
  const bar = (from: number, to: number, i: number, side: number): Node =>
    path(
      rectangle({
        x: Math.min(from, to),
        y: middle(i) - pace * 0.44,
        width: Math.abs(to - from),
        height: pace * 0.88,
      }),
      {
        fill: solid(colourAt(settings, side)),
      },
    )
  return [
    write(drawing, labelOf(drawing, settings.fields[0]), [space.x + half, space.y + capMm], 'end'),
    write(drawing, labelOf(drawing, settings.fields[1]), [space.x + space.width - half, space.y + capMm]),
    ...footAxis(drawing, left, plot),
    ...footAxis(drawing, right, plot),
    ...rows.flatMap((row, i): Node[] => [
      write(drawing, names[i], [space.x + space.width / 2, middle(i) + capMm / 2], 'middle'),
      ...(Number.isFinite(sides[0][row]) ? [bar(left.at(0), left.at(Math.abs(sides[0][row])), i, 0)] : []),
      ...(Number.isFinite(sides[1][row]) ? [bar(right.at(0), right.at(Math.abs(sides[1][row])), i, 1)] : []),
    ]),
  ]
}
