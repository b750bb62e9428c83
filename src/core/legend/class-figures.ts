import { polyline, rectangle } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { measureLine, textNode, verticalMetrics, type FontBook } from '@/core/scene/text'
import { swatchIn, type Laid, type LegendLook, type PlacedLine } from './look'
import type { LegendBlock, LegendLine } from './entries'

type Classes = Pick<LegendBlock, 'limits' | 'distribution'> & { classes: LegendLine[] }

/**
 * Classes in another form than a list below each other; null where the list is wanted, or where there are no
 * limits to be named.
 */
export function classFigure(classes: Classes, look: LegendLook, fonts: FontBook): Laid | null {
  const whole = classes.limits.length === classes.classes.length + 1
  if (look.form === 'histogram' && whole && classes.distribution)
    return underBars(classes, classes.distribution, look, fonts)
  if (look.form !== 'upright') return beside(classes, whole && look.labelsAt === 'limits', look, fonts)
  return look.labelsAt === 'limits' && whole ? below(classes, look, fonts) : null
}

const limit = (
  line: LegendLine,
  {
    x,
    y,
    at,
    look,
    fonts,
  }: { x: number; y: number; at: 'start' | 'middle'; look: LegendLook; fonts: FontBook },
): PlacedLine => {
  const { widthMm } = measureLine(fonts, line.text, look.label)
  const left = at === 'middle' ? x - widthMm / 2 : x
  return {
    line,
    x: left,
    y: y - look.label.sizeMm,
    width: widthMm,
    height: look.label.sizeMm * 1.3,
    textX: left,
    nodes: line.text
      ? [textNode(fonts, line.text, look.label, { x: left, y, colour: look.labelColour })]
      : [],
  }
}

const ordered = <T>(list: T[], { lowFirst }: LegendLook): T[] => (lowFirst ? list : [...list].reverse())

/** Boxes below each other with words at the limits between them. */
function below({ classes, limits }: Classes, look: LegendLook, fonts: FontBook): Laid {
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const tall = Math.max(look.swatchHeightMm, capHeightMm * 1.8)
  const top = capHeightMm / 2
  const step = tall + look.gapMm
  const boxes = ordered(classes, look).map((line, i): PlacedLine => {
    const box = { x: 0, y: top + i * step, width: look.swatchWidthMm, height: tall }
    return {
      line,
      ...box,
      textX: look.swatchWidthMm,
      nodes: line.item ? swatchIn(line.item.swatch, box, look.lowFirst ? 'down' : 'up') : [],
    }
  })
  const left = look.swatchWidthMm + 0.5 * look.label.sizeMm
  const ticks: Node[] = []
  const words = ordered(limits, look).map((line, i) => {
    const y = top + Math.min(i * step - (i ? look.gapMm / 2 : 0), classes.length * step - look.gapMm)
    ticks.push(
      path(polyline([look.swatchWidthMm, y, look.swatchWidthMm + 0.3 * look.label.sizeMm, y]), {
        strokes: [stroke(look.labelColour, 0.12)],
      }),
    )
    return limit(line, { x: left, y: y + capHeightMm / 2, at: 'start', look, fonts })
  })
  return {
    width: left + Math.max(...words.map(({ width }) => width)),
    height: top * 2 + classes.length * step - look.gapMm,
    nodes: [group('ticks', ticks)],
    placed: [...boxes, ...words],
  }
}

/** Boxes beside each other, with words under them or under the limits between them. */
function beside({ classes, limits }: Classes, atLimits: boolean, look: LegendLook, fonts: FontBook): Laid {
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const widest = Math.max(
    ...(atLimits ? limits : classes).map((line) => measureLine(fonts, line.text, look.label).widthMm),
  )
  // Words must not run into each other; boxes are made as wide as that needs.
  const wide = Math.max(look.swatchWidthMm, widest + 0.5 * look.label.sizeMm - look.gapMm)
  const step = wide + look.gapMm
  const baseline = look.swatchHeightMm + 0.45 * look.label.sizeMm + capHeightMm
  const first = atLimits ? measureLine(fonts, ordered(limits, look)[0].text, look.label).widthMm / 2 : 0
  const boxes = ordered(classes, look).map((line, i): PlacedLine => {
    const box = { x: first + i * step, y: 0, width: wide, height: look.swatchHeightMm }
    const words = atLimits
      ? null
      : limit(line, { x: box.x + wide / 2, y: baseline, at: 'middle', look, fonts })
    return {
      line,
      x: box.x,
      y: 0,
      width: wide,
      height: words ? baseline : look.swatchHeightMm,
      textX: words?.textX ?? box.x,
      nodes: [
        ...(line.item ? swatchIn(line.item.swatch, box, look.lowFirst ? 'right' : 'left') : []),
        ...(words?.nodes ?? []),
      ],
    }
  })
  const words = atLimits
    ? ordered(limits, look).map((line, i) =>
        limit(line, {
          x: first + Math.min(i * step - (i ? look.gapMm / 2 : 0), classes.length * step - look.gapMm),
          y: baseline,
          at: 'middle',
          look,
          fonts,
        }),
      )
    : []
  const right = Math.max(...[...boxes, ...words].map(({ x, width }) => x + width))
  return {
    width: right,
    height: baseline + 0.25 * look.label.sizeMm,
    nodes: [],
    placed: [...boxes, ...words],
  }
}

/** The bars of the values in the colours of their classes, on a scale of which the limits are named. */
function underBars(
  { limits, classes }: Classes,
  { low, high, at, bins }: NonNullable<LegendBlock['distribution']>,
  look: LegendLook,
  fonts: FontBook,
): Laid {
  const { capHeightMm } = verticalMetrics(fonts, look.label)
  const [width, barHeight] = [look.swatchWidthMm * classes.length, 3.2 * look.swatchHeightMm]
  const strip = 0.4 * look.swatchHeightMm
  const span = high - low || 1
  const first = measureLine(fonts, limits[0].text, look.label).widthMm / 2
  const x = (value: number) => first + ((value - low) / span) * width
  const top = Math.max(1, ...bins.map(({ count }) => count))
  const bars = bins.flatMap(({ from, to, count, colour }) => {
    const tall = (count / top) * barHeight
    return count
      ? [
          path(
            rectangle({
              x: x(from),
              y: barHeight - tall,
              width: Math.max(0.1, x(to) - x(from) - 0.12),
              height: tall,
            }),
            { fill: solid(colour) },
          ),
        ]
      : []
  })
  const line = path(polyline([x(low), barHeight, x(high), barHeight]), {
    strokes: [stroke(look.labelColour, 0.12)],
  })
  const boxes = classes.map((one, i): PlacedLine => {
    const box = { x: x(at[i]), y: barHeight + 0.3, width: x(at[i + 1]) - x(at[i]), height: strip }
    return { line: one, ...box, textX: box.x, nodes: one.item ? swatchIn(one.item.swatch, box, 'right') : [] }
  })
  const baseline = barHeight + 0.3 + strip + 0.4 * look.label.sizeMm + capHeightMm
  const ends = [-Infinity, -Infinity]
  const words = limits.map((one, i) => {
    const width = measureLine(fonts, one.text, look.label).widthMm
    // Limits that are too near each other for their words stand in two rows.
    const row = x(at[i]) - width / 2 > ends[0] + 0.2 * look.label.sizeMm || ends[0] <= ends[1] ? 0 : 1
    ends[row] = x(at[i]) + width / 2
    return limit(one, { x: x(at[i]), y: baseline + row * look.label.sizeMm * 1.1, at: 'middle', look, fonts })
  })
  const rows = words.some(({ y }) => y > baseline) ? 2 : 1
  return {
    width: Math.max(...[...boxes, ...words].map((one) => one.x + one.width)),
    height: baseline + (rows - 1) * look.label.sizeMm * 1.1 + 0.25 * look.label.sizeMm,
    nodes: [group('bars', [...bars, line])],
    placed: [...boxes, ...words],
  }
}
