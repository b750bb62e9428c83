import { group, translate, type Node } from '@/core/scene/scene'
import type { Colour } from '@/core/scene/paint'
import { breakLines, textNode, verticalMetrics, type FontBook, type TextStyle } from '@/core/scene/text'
import { classFigure } from './class-figures'
import type { LegendBlock, LegendLine } from './entries'
import { swatchIn, type Laid, type LegendLook, type PlacedLine } from './look'
import { sizeFigure } from './sizes'
import { squareFigure } from './square'

/**
 * Sets blocks below each other from (0, 0); the width is what the longest heading or label needs. Headings
 * break at `maxWidthMm`.
 */
export function drawLegend(
  blocks: LegendBlock[],
  look: LegendLook,
  fonts: FontBook,
  maxWidthMm: number,
): { nodes: Node[]; width: number; height: number; placed: PlacedLine[] } {
  const nodes: Node[] = []
  const placed: PlacedLine[] = []
  let width = 0
  let y = 0
  const take = (laid: Laid) => {
    nodes.push(
      ...(y ? laid.nodes.map((node) => group('figure', [node], { transform: translate(0, y) })) : laid.nodes),
    )
    for (const one of laid.placed)
      placed.push({
        ...one,
        y: one.y + y,
        nodes: y ? [group(one.line.key, one.nodes, { transform: translate(0, y) })] : one.nodes,
      })
    width = Math.max(width, laid.width)
    y += laid.height
  }
  if (look.title) {
    const { text, style, colour } = look.title
    const line: LegendLine = { key: 'title', text, proposed: text, role: 'title', item: null }
    take(brokenLines(line, style, colour, { fonts, maxWidthMm }))
    y += style.sizeMm * 0.5
  }
  blocks.forEach(({ heading, items, limits, distribution, square, sizes, itemsHeading }, b) => {
    if (b && (heading || items.length || square || sizes))
      y += heading ? look.heading.sizeMm * 0.9 : Math.max(1.2, look.gapMm)
    if (heading) {
      take(headingLines(heading, look, fonts, maxWidthMm))
      y += look.heading.sizeMm * 0.35
    }
    if (square) take(squareFigure(square, look, fonts))
    if (sizes) take(sizeFigure(sizes, look, fonts))
    if (itemsHeading) {
      y += look.heading.sizeMm * 0.7
      take(headingLines(itemsHeading, look, fonts, maxWidthMm))
      y += look.heading.sizeMm * 0.35
    }
    const classes = items.filter((line) => line.item?.key.startsWith('class-') && !line.item.apart)
    const rest = items.filter((line) => !classes.includes(line))
    const figure = classes.length > 1 ? classFigure({ classes, limits, distribution }, look, fonts) : null
    if (figure) take(figure)
    const list = figure ? rest : [...(look.lowFirst ? classes : [...classes].reverse()), ...rest]
    if ((figure || square || (sizes && !itemsHeading)) && list.length) y += Math.max(1.2, look.gapMm)
    if (list.length) take(inColumns(list, look, fonts))
  })
  if (look.note) {
    if (y) y += look.label.sizeMm * 0.6
    take(
      brokenLines(
        { key: 'note', text: look.note, proposed: look.note, role: 'note', item: null },
        look.label,
        look.labelColour,
        { fonts, maxWidthMm },
      ),
    )
  }
  return {
    nodes: [
      ...nodes,
      ...placed.map(({ line, nodes: own }) =>
        group(`legend ${line.text}`, own, {
          transform: look.moved[line.key] ? translate(...look.moved[line.key]) : null,
        }),
      ),
    ],
    width,
    height: y,
    placed: placed.map((one) => {
      const [dx, dy] = look.moved[one.line.key] ?? [0, 0]
      return { ...one, x: one.x + dx, y: one.y + dy, textX: one.textX + dx }
    }),
  }
}

const headingLines = (line: LegendLine, look: LegendLook, fonts: FontBook, maxWidthMm: number): Laid =>
  brokenLines(line, look.heading, look.headingColour, { fonts, maxWidthMm })

function brokenLines(
  line: LegendLine,
  style: TextStyle,
  colour: Colour,
  { fonts, maxWidthMm }: { fonts: FontBook; maxWidthMm: number },
): Laid {
  const { ascentMm } = verticalMetrics(fonts, style)
  const nodes = breakLines(fonts, line.text, style, maxWidthMm).map((words, i) =>
    textNode(fonts, words, style, { x: 0, y: i * style.sizeMm * 1.2 + ascentMm, colour }),
  )
  const [width, height] = [
    Math.max(0, ...nodes.map((node) => node.widthMm)),
    nodes.length * style.sizeMm * 1.2,
  ]
  return {
    width,
    height,
    nodes: [],
    placed: [{ line, x: 0, y: 0, width: maxWidthMm, height, textX: 0, nodes }],
  }
}

/** Lines with their swatches below each other, in as many columns as are wanted. */
function inColumns(lines: LegendLine[], look: LegendLook, fonts: FontBook): Laid {
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const rooms = lines.map(({ item }) => item?.swatch.roomMm?.width ?? 0)
  const indent = Math.max(look.swatchWidthMm, ...rooms) + 0.6 * look.label.sizeMm
  // Samples are large squares; dots beside them need no such room.
  const sampled = lines.some(({ item }) => item?.swatch.shape === 'sample')
  const inEach = Math.ceil(lines.length / Math.max(1, look.columns))
  const placed: PlacedLine[] = []
  let [left, width, height] = [0, 0, 0]
  for (let start = 0; start < lines.length; start += inEach) {
    let y = 0
    let columnWidth = 0
    lines.slice(start, start + inEach).forEach((line, i) => {
      // What is no class stands a little apart from the classes.
      if (i) y += line.item?.apart ? Math.max(1.2, look.gapMm) : look.gapMm
      const room = line.item?.swatch.roomMm
      const small = sampled && line.item?.swatch.shape === 'dot'
      const own = Math.max(small ? 2.2 * capHeightMm : look.swatchHeightMm, room?.height ?? 0)
      const tall = Math.max(own, capHeightMm * 1.6, line.item?.swatch.sizeMm ?? 0)
      const node = textNode(fonts, line.text, look.label, {
        x: left + indent,
        y: y + tall / 2 + capHeightMm / 2,
        colour: look.labelColour,
      })
      const box = {
        x: left,
        y: y + (tall - own) / 2,
        width: Math.max(look.swatchWidthMm, room?.width ?? 0),
        height: own,
      }
      placed.push({
        line,
        x: left,
        y,
        width: indent + node.widthMm,
        height: tall,
        textX: left + indent,
        nodes: [...(line.item ? swatchIn(line.item.swatch, box, look.lowFirst ? 'down' : 'up') : []), node],
      })
      columnWidth = Math.max(columnWidth, indent + node.widthMm)
      y += tall
    })
    height = Math.max(height, y)
    width = left + columnWidth
    left = width + 1.2 * look.label.sizeMm
  }
  return { width, height, nodes: [], placed }
}
