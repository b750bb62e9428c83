import { symbolOutline, symbolReach } from '@/core/kinds/marks/shapes'
import { circle, polyline, rectangle } from '@/core/scene/outline'
import type { Colour } from '@/core/scene/paint'
import { group, path, translate, type Node } from '@/core/scene/scene'
import type { TextStyle } from '@/core/scene/text'
import type { LegendLine } from './entries'

export const legendForms = ['upright', 'lying', 'histogram'] as const

export type LegendLook = {
  heading: TextStyle
  headingColour: Colour
  label: TextStyle
  labelColour: Colour
  swatchWidthMm: number
  swatchHeightMm: number
  /** Between boxes of neighbouring classes; 0 joins them. */
  gapMm: number
  /** Whether the lowest class stands first, at the top or on the left. */
  lowFirst: boolean
  /** How classes are set: below each other, beside each other, or under the bars of their values. */
  form: (typeof legendForms)[number]
  /** Whether words stand at the classes or at the limits between them. */
  labelsAt: 'classes' | 'limits'
  /** Lines that stand below each other are set in so many columns. */
  columns: number
  /** Lines that were moved by hand, millimetres from where they would stand, by key. */
  moved: Record<string, [number, number]>
  /** Words above all entries. */
  title: { text: string; style: TextStyle; colour: Colour } | null
  /** Words below all entries; empty for none. */
  note: string
}

/**
 * A line with its nodes where it stands, for drawing and for editing in place; `textX` is the left end of its
 * words.
 */
export type PlacedLine = {
  line: LegendLine
  x: number
  y: number
  width: number
  height: number
  textX: number
  nodes: Node[]
}

/** Something of a legend that has been laid out from (0, 0). */
export type Laid = {
  width: number
  height: number
  placed: PlacedLine[]
  /** What belongs to no line. */
  nodes: Node[]
}

/** A swatch in a box; a ramp runs from its first colour the way that is told. */
export function swatchIn(
  { shape, symbol, fill, stroke, sizeMm, colours = [], sample }: NonNullable<LegendLine['item']>['swatch'],
  box: { x: number; y: number; width: number; height: number },
  way: 'up' | 'down' | 'right' | 'left',
): Node[] {
  const strokes = stroke ? [stroke] : []
  const { x, y, width: w, height: h } = box
  if (shape === 'box')
    return [path(rectangle(box), { fill, strokes: strokes.map((s) => ({ ...s, join: 'miter' as const })) })]
  if (shape === 'sample')
    return [
      group(
        'sample',
        [group('in place', sample?.({ width: w, height: h }) ?? [], { transform: translate(x, y) })],
        {
          clip: rectangle(box),
        },
      ),
      path(rectangle(box), { strokes: strokes.map((s) => ({ ...s, join: 'miter' as const })) }),
    ]
  if (shape === 'ramp') {
    const [from, to]: [number, number][] = {
      up: [
        [x, y + h],
        [x, y],
      ],
      down: [
        [x, y],
        [x, y + h],
      ],
      right: [
        [x, y],
        [x + w, y],
      ],
      left: [
        [x + w, y],
        [x, y],
      ],
    }[way] as [number, number][]
    return [
      path(rectangle(box), {
        fill: {
          type: 'linear',
          from,
          to,
          stops: colours.map((colour, i) => ({ offset: i / (colours.length - 1), colour })),
        },
      }),
    ]
  }
  if (shape === 'symbol' && symbol && sizeMm) {
    const { left, up, right, down } = symbolReach(symbol, sizeMm, sizeMm / 3)
    return [
      path(
        symbolOutline(symbol, x + w / 2 + (left - right) / 2, {
          y: y + h / 2 + (up - down) / 2,
          sizeMm,
          barWidthMm: sizeMm / 3,
        }),
        { fill, strokes },
      ),
    ]
  }
  if (shape === 'dot') return [path(circle(x + w / 2, y + h / 2, (sizeMm ?? 1) / 2), { fill, strokes })]
  return [
    path(polyline([x, y + h / 2, x + w, y + h / 2]), {
      strokes: strokes.map((s) => ({ ...s, cap: 'butt' as const })),
    }),
  ]
}
