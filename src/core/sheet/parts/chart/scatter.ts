import { rowColours } from '../../figures/row-colours'
import { numbersIn } from '../../figures/rows'
import { footAxis, axis, colourAt, type Drawing, hair, labelOf, scaleOver, widthOf, write } from './drawing'
import { circle, polyline } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { type Node, path } from '@/core/scene/scene'

export function scatter(drawing: Drawing): Node[] {
  const { settings, context, prepared, rows, space, style, capMm } = drawing
  const [xs, ys] = settings.fields.slice(0, 2).map((field) => numbersIn(prepared.dataset, field))
  const known = rows.filter((row) => Number.isFinite(xs[row]) && Number.isFinite(ys[row]))
  if (!known.length) return []
  const raw = scaleOver(
    known.map((row) => ys[row]),
    [0, 1],
    { zero: false },
  )
  const left = Math.max(...raw.marks.map((mark) => widthOf(drawing, raw.words(mark)))) + 1.5
  const top = 1.6 * style.sizeMm
  const plot = {
    x: space.x + left,
    y: space.y + top,
    width: Math.max(4, space.width - left - 1),
    height: Math.max(4, space.height - top - 3.2 * style.sizeMm),
  }
  const across = scaleOver(
    known.map((row) => xs[row]),
    [plot.x, plot.x + plot.width],
    { zero: false },
  )
  const up = scaleOver(
    known.map((row) => ys[row]),
    [plot.y + plot.height, plot.y],
    { zero: false },
  )
  const colourOf = rowColours(context, settings.source, settings.datasetId)
  return [
    ...footAxis(drawing, across, plot),
    ...(settings.gridlines
      ? [
          path(polyline(...up.marks.map((mark) => [plot.x, up.at(mark), plot.x + plot.width, up.at(mark)])), {
            strokes: [hair],
          }),
        ]
      : []),
    ...up.marks.map((mark) => write(drawing, up.words(mark), [plot.x - 1.2, up.at(mark) + capMm / 2], 'end')),
    path(
      polyline([plot.x, plot.y, plot.x, plot.y + plot.height, plot.x + plot.width, plot.y + plot.height]),
      { strokes: [axis] },
    ),
    ...known.map((row) =>
      path(circle(across.at(xs[row]), up.at(ys[row]), 0.6), {
        fill: solid(colourOf?.(row) ?? colourAt(settings, 0)),
      }),
    ),
    write(drawing, labelOf(drawing, settings.fields[1]), [space.x, space.y + capMm]),
    write(
      drawing,
      labelOf(drawing, settings.fields[0]),
      [plot.x + plot.width, plot.y + plot.height + 2.6 * style.sizeMm],
      'end',
    ),
  ]
}
