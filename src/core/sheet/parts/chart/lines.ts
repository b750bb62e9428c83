import { numbersIn } from '../../figures/rows'
import {
  marksThatFit,
  colourAt,
  type Drawing,
  finite,
  hair,
  labelOf,
  nameOf,
  scaleOver,
  widthOf,
  write,
} from './drawing'
import { yearIn } from '@/core/data/series'
import { polyline } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { type Node, path } from '@/core/scene/scene'

export function lines(drawing: Drawing): Node[] {
  const { settings, prepared, rows, space, style, capMm } = drawing
  const series = rows.map((row) => settings.fields.map((field) => numbersIn(prepared.dataset, field)[row]))
  const all = finite(series.flat())
  if (!all.length) return []
  const names = rows.map((row) => nameOf(drawing, row))
  const years = settings.fields.map((field) => yearIn(field)?.year ?? null)
  const places = years.every((year) => year !== null) ? (years as number[]) : settings.fields.map((_, i) => i)
  const [first, last] = [Math.min(...places), Math.max(...places)]
  const inner = (top: number) => ({
    ...space,
    y: space.y + top,
    height: space.height - top - 1.8 * style.sizeMm,
  })
  const upright = scaleOver(all, [0, 1], { zero: false })
  const left = Math.max(...upright.marks.map((mark) => widthOf(drawing, upright.words(mark)))) + 1.5
  const right = Math.max(...names.map((name) => widthOf(drawing, name))) + 1.5
  const plot = inner(capMm / 2)
  const [x0, x1] = [space.x + left, space.x + space.width - right]
  const scale = scaleOver(all, [plot.y + plot.height, plot.y], { zero: false })
  const at = (i: number) => x0 + ((places[i] - first) / (last - first || 1)) * (x1 - x0)
  const ends = spread(
    series.map((values) => scale.at(values.findLast(Number.isFinite) ?? NaN)),
    style.sizeMm * 1.05,
  )
  return [
    ...(settings.gridlines
      ? [
          path(polyline(...scale.marks.map((mark) => [x0, scale.at(mark), x1, scale.at(mark)])), {
            strokes: [hair],
          }),
        ]
      : []),
    ...scale.marks.map((mark) =>
      write(drawing, scale.words(mark), [x0 - 1.2, scale.at(mark) + capMm / 2], 'end'),
    ),
    ...marksThatFit(
      settings.fields.map((field, i) => ({ text: String(years[i] ?? labelOf(drawing, field)), x: at(i) })),
      (text) => widthOf(drawing, text),
    ).map(({ text, x }) =>
      write(drawing, text, [x, plot.y + plot.height + 0.4 * style.sizeMm + capMm], 'middle'),
    ),
    ...series.flatMap((values, i): Node[] => {
      const colour = colourAt(settings, i)
      const runs = runsOfKnown(values).map((run) => run.flatMap((k) => [at(k), scale.at(values[k])]))
      const drawn = runs.filter((run) => run.length > 2)
      return [
        ...(drawn.length ? [path(polyline(...drawn), { strokes: [stroke(colour, 0.5)] })] : []),
        ...(Number.isFinite(ends[i])
          ? [write(drawing, names[i], [x1 + 1.2, ends[i] + capMm / 2, colour])]
          : []),
      ]
    }),
  ]
}

/** Places of values that follow each other without a missing one. */
function runsOfKnown(values: number[]): number[][] {
  const runs: number[][] = [[]]
  values.forEach((value, k) => {
    if (Number.isFinite(value)) runs[runs.length - 1].push(k)
    else if (runs[runs.length - 1].length) runs.push([])
  })
  return runs
}

/** Heights moved apart, as little as needed, so that no two are nearer than `least`. */
export function spread(heights: number[], least: number): number[] {
  const order = heights
    .map((_, i) => i)
    .filter((i) => Number.isFinite(heights[i]))
    .sort((a, b) => heights[a] - heights[b])
  const out = [...heights]
  // Blocks of those that touch, each around the mean of what it holds.
  const blocks: { of: number[]; middle: number }[] = []
  for (const i of order) {
    blocks.push({ of: [i], middle: heights[i] })
    while (blocks.length > 1) {
      const [a, b] = [blocks[blocks.length - 2], blocks[blocks.length - 1]]
      if (b.middle - a.middle >= (least * (a.of.length + b.of.length)) / 2) break
      const of = [...a.of, ...b.of]
      blocks.splice(-2, 2, { of, middle: of.reduce((sum, k) => sum + heights[k], 0) / of.length })
    }
  }
  for (const { of, middle } of blocks)
    of.forEach((i, k) => {
      out[i] = middle + (k - (of.length - 1) / 2) * least
    })
  return out
}
