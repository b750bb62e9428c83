import { circle, polyline, rectangle } from '@/core/scene/outline'
import { group, path, type Node } from '@/core/scene/scene'
import { breakLines, textNode, verticalMetrics, type FontBook, type TextStyle } from '@/core/scene/text'
import type { Colour } from '@/core/scene/paint'
import type { LegendLine } from './entries'

export type LegendLook = {
  heading: TextStyle
  headingColour: Colour
  label: TextStyle
  labelColour: Colour
  swatchWidthMm: number
  swatchHeightMm: number
  /** Between boxes of neighbouring classes; 0 joins them. */
  gapMm: number
  /** Whether the lowest class stands first, at the top. */
  lowFirst: boolean
}

/** A placed line, for drawing and for editing in place. */
export type PlacedLine = { line: LegendLine; x: number; y: number; width: number; height: number }

/** Sets lines below each other from (0, 0); the width is what the longest heading or label needs, up to `maxWidthMm`. */
export function drawLegend(lines: LegendLine[], look: LegendLook, fonts: FontBook, maxWidthMm: number): { nodes: Node[]; width: number; height: number; placed: PlacedLine[] } {
  const nodes: Node[] = []
  const placed: PlacedLine[] = []
  const label = verticalMetrics(fonts, look.label)
  const heading = verticalMetrics(fonts, look.heading)
  const indent = look.swatchWidthMm + 0.6 * look.label.sizeMm
  let width = 0
  let y = 0
  let previous: LegendLine | null = null
  for (const line of lines) {
    if (!line.item) {
      if (previous) y += look.heading.sizeMm * 0.9
      const top = y
      for (const words of breakLines(fonts, line.text, look.heading, maxWidthMm)) {
        const node = textNode(fonts, words, look.heading, { x: 0, y: y + heading.ascentMm, colour: look.headingColour })
        width = Math.max(width, node.widthMm)
        y += look.heading.sizeMm * 1.2
        nodes.push(node)
      }
      placed.push({ line, x: 0, y: top, width: maxWidthMm, height: y - top })
      y += look.heading.sizeMm * 0.35
    } else {
      // What is no class stands a little apart from the classes.
      const apart = Boolean(line.item.apart) || !previous?.item || previous.key.split('/')[0] !== line.key.split('/')[0]
      if (previous?.item) y += apart ? Math.max(1.2, look.gapMm) : look.gapMm
      const height = Math.max(look.swatchHeightMm, label.capHeightMm * 1.6)
      const middle = y + height / 2
      const node = textNode(fonts, line.text, look.label, { x: indent, y: middle + label.capHeightMm / 2, colour: look.labelColour })
      nodes.push(group(`legend ${line.text}`, [...swatch(line.item.swatch, y + (height - look.swatchHeightMm) / 2, look), node]))
      width = Math.max(width, indent + node.widthMm)
      placed.push({ line, x: 0, y, width: indent + node.widthMm, height })
      y += height
    }
    previous = line
  }
  return { nodes, width, height: y, placed }
}

function swatch({ shape, fill, stroke, sizeMm, colours = [] }: NonNullable<LegendLine['item']>['swatch'], top: number, { swatchWidthMm: w, swatchHeightMm: h, lowFirst }: LegendLook): Node[] {
  const strokes = stroke ? [stroke] : []
  if (shape === 'box') return [path(rectangle({ x: 0, y: top, width: w, height: h }), { fill, strokes: strokes.map((s) => ({ ...s, join: 'miter' as const })) })]
  if (shape === 'ramp') return [path(rectangle({ x: 0, y: top, width: w, height: h }), { fill: { type: 'linear', from: [0, lowFirst ? top : top + h], to: [0, lowFirst ? top + h : top], stops: colours.map((colour, i) => ({ offset: i / (colours.length - 1), colour })) } })]
  if (shape === 'dot') return [path(circle(w / 2, top + h / 2, (sizeMm ?? 1) / 2), { fill, strokes })]
  return [path(polyline([0, top + h / 2, w, top + h / 2]), { strokes: strokes.map((s) => ({ ...s, cap: 'butt' as const })) })]
}
