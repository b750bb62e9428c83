import { rowColours } from '../../figures/row-colours'
import { decimalsOf, numbersIn } from '../../figures/rows'
import { axis, colourAt, type Drawing, finite, footAxis, nameOf, scaleOver, widthOf, write } from './drawing'
import { formatNumber } from '@/core/classify/labels'
import { fieldOf } from '@/core/data/dataset'
import { polyline, rectangle } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { type Node, path } from '@/core/scene/scene'

export function bars(drawing: Drawing): Node[] {
  const { settings, context, prepared, rows, space, capMm, style } = drawing
  const [field] = settings.fields
  const numbers = numbersIn(prepared.dataset, field)
  const values = rows.map((row) => numbers[row])
  const shown = finite(values)
  if (!shown.length) return []
  const names = rows.map((row) => nameOf(drawing, row))
  const column = fieldOf(prepared.dataset, field)
  const digits = column ? decimalsOf(column, rows) : 0
  const left = Math.max(...names.map((name) => widthOf(drawing, name))) + 1.5
  const right = settings.values
    ? Math.max(...shown.map((v) => widthOf(drawing, formatNumber(v, digits)))) + 1
    : 1
  const foot = settings.gridlines ? 1.6 * style.sizeMm : 0
  const plot = {
    ...space,
    x: space.x + left,
    width: Math.max(4, space.width - left - right),
    height: space.height - foot,
  }
  const scale = scaleOver(shown, [plot.x, plot.x + plot.width])
  const pace = plot.height / rows.length
  const colourOf = rowColours(context, settings.source, settings.datasetId)
  const zero = scale.at(0)
  return [
    ...(settings.gridlines ? footAxis(drawing, scale, plot) : []),
    ...rows.flatMap((row, i): Node[] => {
      const middle = plot.y + (i + 0.5) * pace
      const value = values[i]
      const name = write(drawing, names[i], [plot.x - 1.2, middle + capMm / 2], 'end')
      if (!Number.isFinite(value)) return [name]
      const end = scale.at(value)
      const bar = path(
        rectangle({
          x: Math.min(zero, end),
          y: middle - pace * 0.36,
          width: Math.abs(end - zero),
          height: pace * 0.72,
        }),
        { fill: solid(colourOf?.(row) ?? colourAt(settings, 0)) },
      )
      const words = settings.values
        ? [write(drawing, formatNumber(value, digits), [Math.max(end, zero) + 0.8, middle + capMm / 2])]
        : []
      return [name, bar, ...words]
    }),
    path(polyline([zero, plot.y, zero, plot.y + plot.height]), { strokes: [axis] }),
  ]
}
