import Flatbush from 'flatbush'
import { measureLine, textNode, verticalMetrics, type FontBook, type TextStyle } from '@/core/scene/text'
import type { Text } from '@/core/scene/scene'

export type LabelledPoint = { x: number; y: number; name: string | null }
export type LabelOptions = { fonts: FontBook; style: TextStyle; radiusMm: number; window: { x: number; y: number; width: number; height: number } }

type Rect = [x0: number, y0: number, x1: number, y1: number]

/**
 * Names beside points, the first points first. Each is tried to the right, above right, below right, left, above
 * left, below left, above and below, in the order of preference of Yoeli (1972), and left out where every place
 * would cover a name already set, a dot, or the window's edge. The same points give the same names.
 */
export function placePointLabels(points: LabelledPoint[], { fonts, style, radiusMm, window }: LabelOptions): Text[] {
  const named = points.filter((point) => point.name)
  if (!named.length) return []
  const { capHeightMm, descentMm } = verticalMetrics(fonts, style)
  const dots = new Flatbush(points.length)
  for (const { x, y } of points) dots.add(x - radiusMm, y - radiusMm, x + radiusMm, y + radiusMm)
  dots.finish()
  const taken: Rect[] = []
  const gap = radiusMm + 0.28 * style.sizeMm
  return named.flatMap((point) => {
    const text = point.name ?? ''
    const width = measureLine(fonts, text, style).widthMm
    const d = gap * 0.75
    const middle = point.y + capHeightMm / 2
    const starts: [number, number][] = [
      [point.x + gap, middle],
      [point.x + d, point.y - d],
      [point.x + d, point.y + d + capHeightMm],
      [point.x - gap - width, middle],
      [point.x - d - width, point.y - d],
      [point.x - d - width, point.y + d + capHeightMm],
      [point.x - width / 2, point.y - gap],
      [point.x - width / 2, point.y + gap + capHeightMm],
    ]
    for (const [x, y] of starts) {
      const rect: Rect = [x, y - capHeightMm, x + width, y + descentMm * 0.5]
      const inside = rect[0] > window.x && rect[1] > window.y && rect[2] < window.x + window.width && rect[3] < window.y + window.height
      if (!inside || taken.some((other) => overlap(rect, other)) || dots.search(...rect).length) continue
      taken.push(rect)
      return [textNode(fonts, text, style, { x, y, colour: '#1b1b1b', halo: { colour: '#ffffffd9', widthMm: 0.14 * style.sizeMm } })]
    }
    return []
  })
}

const overlap = (a: Rect, b: Rect): boolean => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3]
