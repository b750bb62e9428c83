import { fillRuleOf, firstPicture, symbolOutline, symbolReach } from '@/core/kinds/marks/shapes'
import { spreadOut } from '@/core/labels/spread-out'
import { polyline } from '@/core/scene/outline'
import { stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { measureLine, textNode, verticalMetrics, type FontBook } from '@/core/scene/text'
import type { LegendBlock } from './entries'
import type { Laid, LegendLook, PlacedLine } from './look'

type Sizes = NonNullable<LegendBlock['sizes']>

/**
 * Symbols of the sizes that they have on the map: in each other with leader lines, beside each other, or in a
 * list.
 */
export function sizeFigure(sizes: Sizes, look: LegendLook, fonts: FontBook): Laid {
  if (!sizes.lines.length) return { width: 0, height: 0, nodes: [], placed: [] }
  const { form, shape } = sizes.figure
  // Bars and pictures in each other cannot be told apart.
  if (form === 'beside' || (form !== 'list' && (shape === 'bar' || shape === 'picture')))
    return beside(sizes, look, fonts)
  return form === 'nested' || form === 'concentric' ? nested(sizes, look, fonts) : list(sizes, look, fonts)
}

/** Width, height, and where the place of a symbol lies in its box. */
function boxOf({ shape, barWidthMm, picture }: Sizes['figure'], sizeMm: number) {
  const { left, up, right, down } = symbolReach(shape, sizeMm, barWidthMm, picture)
  return { width: left + right, height: up + down, x: left, y: up }
}

const symbol = (
  { shape, barWidthMm, picture = firstPicture, fill, stroke: line }: Sizes['figure'],
  x: number,
  y: number,
  sizeMm: number,
): Node =>
  path(symbolOutline(shape, x, { y, sizeMm, barWidthMm, picture }), {
    fill,
    fillRule: fillRuleOf(shape, picture),
    strokes: line ? [line] : [],
  })

/**
 * All on one foot or around one middle, the smaller ones in front, each with a line from its top to its
 * words.
 */
function nested({ figure, lines }: Sizes, look: LegendLook, fonts: FontBook): Laid {
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const boxes = lines.map(({ sizeMm }) => boxOf(figure, sizeMm))
  const [width, tall] = [
    Math.max(...boxes.map((box) => box.width)),
    Math.max(...boxes.map((box) => box.height)),
  ]
  const step = Math.max(look.label.sizeMm * 1.15, capHeightMm * 1.6)
  // The place of the largest symbol is the middle of all where they lie around one.
  const middle = boxes.find((box) => box.height === tall)?.y ?? tall / 2
  const tops = boxes.map((box) => (figure.form === 'concentric' ? middle - box.y : tall - box.height))
  const at = spreadOut(
    tops,
    tops.map(() => step),
    0,
  )
  const above = Math.max(0, capHeightMm / 2 - Math.min(...at))
  const left = width + 1.1 * look.label.sizeMm
  const symbols = lines.map(({ sizeMm }, i) =>
    symbol(figure, width / 2, above + tops[i] + boxes[i].y, sizeMm),
  )
  const leaders = lines.map((_, i) =>
    path(
      polyline([
        width / 2,
        above + tops[i],
        width + 0.35 * look.label.sizeMm,
        above + tops[i],
        left - 0.25 * look.label.sizeMm,
        above + at[i],
      ]),
      { strokes: [stroke(look.labelColour, 0.12)] },
    ),
  )
  const placed = lines.map(({ line }, i): PlacedLine => {
    const node = textNode(fonts, line.text, look.label, {
      x: left,
      y: above + at[i] + capHeightMm / 2,
      colour: look.labelColour,
    })
    return {
      line,
      x: left,
      y: above + at[i] - step / 2,
      width: node.widthMm,
      height: step,
      textX: left,
      nodes: [node],
    }
  })
  return {
    width: Math.max(...placed.map((one) => one.x + one.width)),
    height: Math.max(above + tall, above + Math.max(...at) + step / 2),
    nodes: [group('sizes', symbols), group('leaders', leaders)],
    placed,
  }
}

/** On one foot beside each other, the words below. */
function beside({ figure, lines }: Sizes, look: LegendLook, fonts: FontBook): Laid {
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const boxes = lines.map(({ sizeMm }) => boxOf(figure, sizeMm))
  const tall = Math.max(...boxes.map((box) => box.height))
  const baseline = tall + 0.5 * look.label.sizeMm + capHeightMm
  let x = 0
  const placed = lines.map(({ line, sizeMm }, i): PlacedLine => {
    const { widthMm } = measureLine(fonts, line.text, look.label)
    const room = Math.max(boxes[i].width, widthMm)
    const middle = x + room / 2
    x += room + 0.8 * look.label.sizeMm
    const textX = middle - widthMm / 2
    return {
      line,
      x: middle - room / 2,
      y: 0,
      width: room,
      height: baseline,
      textX,
      nodes: [
        symbol(figure, middle - boxes[i].width / 2 + boxes[i].x, tall - boxes[i].height + boxes[i].y, sizeMm),
        textNode(fonts, line.text, look.label, { x: textX, y: baseline, colour: look.labelColour }),
      ],
    }
  })
  return { width: x - 0.8 * look.label.sizeMm, height: baseline + 0.3 * look.label.sizeMm, nodes: [], placed }
}

/** Below each other, in the middle of one column. */
function list({ figure, lines }: Sizes, look: LegendLook, fonts: FontBook): Laid {
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const boxes = lines.map(({ sizeMm }) => boxOf(figure, sizeMm))
  const width = Math.max(...boxes.map((box) => box.width))
  const left = width + 0.8 * look.label.sizeMm
  let y = 0
  const placed = lines.map(({ line, sizeMm }, i): PlacedLine => {
    const height = Math.max(boxes[i].height, capHeightMm * 1.8)
    const node = textNode(fonts, line.text, look.label, {
      x: left,
      y: y + height / 2 + capHeightMm / 2,
      colour: look.labelColour,
    })
    const top = y
    y += height + 0.25 * look.label.sizeMm
    return {
      line,
      x: 0,
      y: top,
      width: left + node.widthMm,
      height,
      textX: left,
      nodes: [
        symbol(
          figure,
          width / 2 - boxes[i].width / 2 + boxes[i].x,
          top + height / 2 - boxes[i].height / 2 + boxes[i].y,
          sizeMm,
        ),
        node,
      ],
    }
  })
  return { width: Math.max(...placed.map((one) => one.width)), height: y, nodes: [], placed }
}
