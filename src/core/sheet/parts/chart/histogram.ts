import { classesShown, colourOfValue } from '../../figures/row-colours'
import { marksThatFit, axis, colourAt, type Drawing, finite, widthOf, write } from './drawing'
import { decimalsFor, formatNumber } from '@/core/classify/labels'
import { polyline, rectangle } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { type Node, path } from '@/core/scene/scene'

const binsOf = (values: number[], low: number, high: number, count: number): number[] => {
  const bins = new Array<number>(count).fill(0)
  for (const v of values)
    if (v >= low && v <= high)
      bins[Math.min(count - 1, Math.floor(((v - low) / (high - low || 1)) * count))]++
  return bins
}

export function histogram(drawing: Drawing): Node[] {
  const { settings, context, space, style, capMm } = drawing
  const { source } = settings
  const classes = source && classesShown(context.panel(source.panelId), source.layerId)
  if (!classes) return []
  const { breaks } = classes.result
  const [low, high] = [breaks[0], breaks[breaks.length - 1]]
  const values = finite(classes.values)
  const count = Math.max(10, Math.min(60, Math.round(space.width / 1.6)))
  const bins = binsOf(values, low, high, count)
  const most = Math.max(1, ...bins)
  const plot = { ...space, height: space.height - 1.8 * style.sizeMm }
  const bottom = plot.y + plot.height
  const each = plot.width / count
  const x = (value: number) => plot.x + ((value - low) / (high - low || 1)) * plot.width
  const decimals = decimalsFor(breaks)
  return [
    ...bins.flatMap((n, i): Node[] => {
      if (!n) return []
      const height = (n / most) * plot.height
      const middle = low + ((i + 0.5) / count) * (high - low)
      return [
        path(rectangle({ x: plot.x + i * each, y: bottom - height, width: each * 0.86, height }), {
          fill: solid(colourOfValue(classes, middle) ?? colourAt(settings, 0)),
        }),
      ]
    }),
    path(
      polyline(
        [plot.x, bottom, plot.x + plot.width, bottom],
        ...breaks.slice(1, -1).map((b) => [x(b), bottom, x(b), bottom + 1]),
      ),
      {
        strokes: [axis],
      },
    ),
    ...marksThatFit(
      breaks.slice(1, -1).map((b) => ({ text: formatNumber(b, decimals), x: x(b) })),
      (text) => widthOf(drawing, text),
    ).map((mark) => write(drawing, mark.text, [mark.x, bottom + 1.2 + capMm], 'middle')),
  ]
}
