import { inkOn } from '../../figures/first-colours'
import { numbersIn } from '../../figures/rows'
import type { PartBox } from '../../part'
import { colourAt, type Drawing, labelOf, nameOf, widthOf, write } from './drawing'
import { formatNumber } from '@/core/classify/labels'
import { rectangle } from '@/core/scene/outline'
import { solid } from '@/core/scene/paint'
import { type Node, path } from '@/core/scene/scene'

export function shares(drawing: Drawing): Node[] {
  const { settings, prepared, rows, space, style, capMm } = drawing
  const numbers = settings.fields.map((field) => numbersIn(prepared.dataset, field))
  const names = rows.map((row) => nameOf(drawing, row))
  const left = Math.max(...names.map((name) => widthOf(drawing, name))) + 1.5
  const key = keyOf(
    drawing,
    settings.fields.map((field) => labelOf(drawing, field)),
    space,
  )
  const plot = {
    x: space.x + left,
    y: space.y + key.height,
    width: space.width - left,
    height: space.height - key.height,
  }
  const pace = plot.height / rows.length
  return [
    ...key.nodes,
    ...rows.flatMap((row, i): Node[] => {
      const parts = numbers.map((column) => (column[row] > 0 ? column[row] : 0))
      const whole = parts.reduce((sum, v) => sum + v, 0)
      const middle = plot.y + (i + 0.5) * pace
      const name = write(drawing, names[i], [plot.x - 1.2, middle + capMm / 2], 'end')
      if (!whole) return [name]
      let x = plot.x
      const pieces = parts.map((part, k) => {
        const width = (part / whole) * plot.width
        const piece = path(rectangle({ x, y: middle - pace * 0.38, width, height: pace * 0.76 }), {
          fill: solid(colourAt(settings, k)),
        })
        const text = `${formatNumber((100 * part) / whole, 0)} %`
        const fits = settings.values && width > widthOf(drawing, text) + 1 && pace * 0.76 > style.sizeMm
        const words = fits
          ? [
              write(
                drawing,
                text,
                [x + width / 2, middle + capMm / 2, inkOn(colourAt(settings, k))],
                'middle',
              ),
            ]
          : []
        x += width
        return [piece, ...words]
      })
      return [name, ...pieces.flat()]
    }),
  ]
}

/** Boxes of colour with their words, in as many lines as they need. */
function keyOf(drawing: Drawing, labels: string[], space: PartBox): { nodes: Node[]; height: number } {
  const { settings, style, capMm } = drawing
  const size = capMm * 1.1
  let [x, line] = [space.x, 0]
  const nodes = labels.flatMap((label, i): Node[] => {
    const width = size + 1 + widthOf(drawing, label) + 3
    if (x > space.x && x + width - 3 > space.x + space.width) [x, line] = [space.x, line + 1]
    const y = space.y + line * style.sizeMm * 1.35
    const out = [
      path(rectangle({ x, y, width: size, height: size }), { fill: solid(colourAt(settings, i)) }),
      write(drawing, label, [x + size + 1, y + capMm]),
    ]
    x += width
    return out
  })
  return { nodes, height: (line + 1) * style.sizeMm * 1.35 + 1 }
}
