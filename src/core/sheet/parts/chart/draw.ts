import { formatNumber, decimalsFor } from '@/core/classify/labels'
import { textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { yearIn } from '@/core/data/series'
import { circle, polyline, rectangle } from '@/core/scene/outline'
import { channels, solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { textNode, verticalMetrics, type TextStyle } from '@/core/scene/text'
import { classesShown, colourOfValue, rowColours } from '../../figures/row-colours'
import { decimalsOf, numbersIn, roundMarks, sortedRows } from '../../figures/rows'
import type { PartBox, SheetContext } from '../../part'
import { lineStyle } from '../../type-style'
import type { ChartSettings } from './spec'

const ink = '#8a8a8a'
const hair = stroke(ink, 0.12, { cap: 'butt' })
const axis = stroke('#4a4a4a', 0.2, { cap: 'butt' })

type Drawing = {
  settings: ChartSettings
  context: SheetContext
  prepared: Prepared
  rows: number[]
  style: TextStyle
  capMm: number
  /** The space for the chart, under its title. */
  space: PartBox
}

type Anchor = 'start' | 'middle' | 'end'

const write = (
  { settings, context, style }: Drawing,
  text: string,
  [x, y, colour = settings.label.colour]: [x: number, y: number, colour?: string],
  anchor: Anchor = 'start',
): Node => textNode(context.fonts, text, style, { x, y, anchor, colour })

/** Ink that can be read on a colour: dark on light ones, white on dark ones. */
function inkOn(colour: string): string {
  const { r, g, b } = channels(colour)
  return 0.2126 * r + 0.7152 * g + 0.0722 * b > 140 ? '#1b1b1b' : '#ffffff'
}

const widthOf = ({ context, style }: Drawing, text: string): number =>
  textNode(context.fonts, text, style, { x: 0, y: 0, colour: '#000000' }).widthMm

const nameOf = ({ prepared, settings }: Drawing, row: number): string => {
  const column = fieldOf(prepared.dataset, settings.nameField)
  return (column && textAt(column, row)) || String(row + 1)
}

const labelOf = ({ prepared }: Drawing, field: string): string => prepared.fieldMeta(field).label

const colourAt = ({ colours }: ChartSettings, i: number): string => colours[i % colours.length]

const finite = (values: Iterable<number>): number[] => [...values].filter(Number.isFinite)

/** What a chart cannot show, in a sentence; null where all is well. */
export function chartProblem(settings: ChartSettings, prepared: Prepared | undefined): string | null {
  if (!prepared) return 'Its dataset is gone.'
  const need = { bars: 1, lines: 2, histogram: 0, scatter: 2, shares: 2, pyramid: 2 }[settings.form]
  const known = settings.fields.filter((key) => fieldOf(prepared.dataset, key)?.kind === 'number')
  if (known.length < need) return `It needs ${need === 1 ? 'a field' : `${need} fields`} of numbers.`
  if (settings.form === 'histogram' && !settings.source) return 'It needs a layer with classes.'
  return null
}

/** A chart in its box; empty where it has nothing to show. */
export function drawChart(settings: ChartSettings, box: PartBox, context: SheetContext): Node[] {
  const prepared = context.datasets.get(settings.datasetId)
  if (!prepared || chartProblem(settings, prepared)) return []
  const [heading, style] = [lineStyle(settings.heading), lineStyle(settings.label)]
  const head = verticalMetrics(context.fonts, heading)
  const title = settings.title
    ? [
        textNode(context.fonts, context.fill(settings.title), heading, {
          x: box.x,
          y: box.y + head.ascentMm,
          colour: settings.heading.colour,
        }),
      ]
    : []
  const above = title.length ? head.ascentMm + head.descentMm + 1 : 0
  const drawing: Drawing = {
    settings,
    context,
    prepared,
    rows: sortedRows(prepared.dataset, settings.sortBy, settings.descending).slice(0, settings.rows),
    style,
    capMm: verticalMetrics(context.fonts, style).capHeightMm,
    space: { ...box, y: box.y + above, height: Math.max(5, box.height - above) },
  }
  return [...title, ...forms[settings.form](drawing)]
}

/** A scale of values over a length, from round number to round number. */
function scaleOver(values: number[], [from, to]: [number, number], { zero = true, count = 5 } = {}) {
  const low = Math.min(...values, ...(zero ? [0] : []))
  const high = Math.max(...values, ...(zero ? [0] : []))
  const marks = roundMarks(low, high > low ? high : low + 1, count)
  const [first, last] = [marks[0], marks[marks.length - 1]]
  return {
    marks,
    at: (value: number) => from + ((value - first) / (last - first || 1)) * (to - from),
    words: (value: number) => formatNumber(value, decimalsFor(marks)),
  }
}

/** Level lines and numbers of an axis along the foot. */
function footAxis(drawing: Drawing, scale: ReturnType<typeof scaleOver>, { y, height }: PartBox): Node[] {
  const { settings, style, capMm } = drawing
  const bottom = y + height
  return [
    ...(settings.gridlines
      ? [
          path(polyline(...scale.marks.map((mark) => [scale.at(mark), y, scale.at(mark), bottom])), {
            strokes: [hair],
          }),
        ]
      : []),
    ...marksThatFit(
      [...scale.marks]
        .map((mark) => ({ text: scale.words(mark), x: scale.at(mark) }))
        .sort((p, q) => p.x - q.x),
      (text) => widthOf(drawing, text),
    ).map(({ text, x }) => write(drawing, text, [x, bottom + 0.35 * style.sizeMm + capMm], 'middle')),
  ]
}

function bars(drawing: Drawing): Node[] {
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

function lines(drawing: Drawing): Node[] {
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

/** Labels along an axis, without those that would touch the one before. */
function marksThatFit(
  marks: { text: string; x: number }[],
  width: (text: string) => number,
): { text: string; x: number }[] {
  let end = -Infinity
  return marks.filter(({ text, x }) => {
    const half = width(text) / 2
    if (x - half < end + 1) return false
    end = x + half
    return true
  })
}

const binsOf = (values: number[], low: number, high: number, count: number): number[] => {
  const bins = new Array<number>(count).fill(0)
  for (const v of values)
    if (v >= low && v <= high)
      bins[Math.min(count - 1, Math.floor(((v - low) / (high - low || 1)) * count))]++
  return bins
}

function histogram(drawing: Drawing): Node[] {
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

function scatter(drawing: Drawing): Node[] {
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

function shares(drawing: Drawing): Node[] {
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

function pyramid(drawing: Drawing): Node[] {
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

const forms: Record<ChartSettings['form'], (drawing: Drawing) => Node[]> = {
  bars,
  lines,
  histogram,
  scatter,
  shares,
  pyramid,
}

export const chartGroup = (name: string, nodes: Node[]): Node => group(`${name} chart`, nodes)
