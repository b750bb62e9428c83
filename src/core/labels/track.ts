import { lettersNode, measureLine, textNode, type FontBook, type TextStyle } from '@/core/scene/text'
import type { Text } from '@/core/scene/scene'
import type { Bounds } from '@/core/scene/bounds'
import { cased, haloOf, labelFont } from './lettering'
import type { LabelSettings } from './spec'

/** A line on paper by the distance along it: `at[i]` is the way to point `i`. */
export type Track = { xs: number[]; ys: number[]; at: number[]; length: number }

export function trackOf(points: ArrayLike<number>): Track {
  const track: Track = { xs: [], ys: [], at: [], length: 0 }
  for (let i = 0; i + 1 < points.length; i += 2) {
    const last = track.xs.length - 1
    const step = last < 0 ? 0 : Math.hypot(points[i] - track.xs[last], points[i + 1] - track.ys[last])
    if (last >= 0 && step < 1e-6) continue
    track.length += step
    track.xs.push(points[i])
    track.ys.push(points[i + 1])
    track.at.push(track.length)
  }
  return track
}

/** Place and direction at a way along a track; before its start and after its end it goes on straight. */
export function pointAt({ xs, ys, at }: Track, way: number): { x: number; y: number; angle: number } {
  let [low, high] = [0, at.length - 1]
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (at[middle] <= way) low = middle
    else high = middle
  }
  const share = (way - at[low]) / (at[high] - at[low] || 1)
  const [dx, dy] = [xs[high] - xs[low], ys[high] - ys[low]]
  return { x: xs[low] + dx * share, y: ys[low] + dy * share, angle: Math.atan2(dy, dx) }
}

/** Points at even steps, each the mean of those around it: bends smaller than `reachMm` are ironed out. */
export function smoothed(track: Track, stepMm: number, reachMm: number): Track {
  const count = Math.max(2, Math.ceil(track.length / stepMm) + 1)
  const points = Array.from({ length: count }, (_, i) => pointAt(track, (track.length * i) / (count - 1)))
  const reach = Math.round(reachMm / stepMm)
  const flat: number[] = []
  points.forEach((_, i) => {
    // Fewer neighbours towards the ends, so that these stay where they are.
    const r = Math.min(reach, i, count - 1 - i)
    let [x, y] = [0, 0]
    for (let k = i - r; k <= i + r; k++) {
      x += points[k].x
      y += points[k].y
    }
    flat.push(x / (2 * r + 1), y / (2 * r + 1))
  })
  return trackOf(flat)
}

export function reversed({ xs, ys }: Track): Track {
  const flat: number[] = []
  for (let i = xs.length - 1; i >= 0; i--) flat.push(xs[i], ys[i])
  return trackOf(flat)
}

/** The letters of a line of text with their sizes and widths. */
export function lettersOf(
  fonts: FontBook,
  text: string,
  settings: LabelSettings,
  { sizeMm, spacingMm }: { sizeMm: number; spacingMm: number },
): { letters: { text: string; style: TextStyle; widthMm: number }[]; widthMm: number } {
  const letters = cased(text, settings.capitals).flatMap(({ text: part, share }) =>
    Array.from(part, (letter) => {
      const style: TextStyle = { font: labelFont(settings), sizeMm: sizeMm * share, letterSpacingMm: 0 }
      return { text: letter, style, widthMm: measureLine(fonts, letter, style).widthMm }
    }),
  )
  return {
    letters,
    widthMm:
      letters.reduce((sum, { widthMm }) => sum + widthMm, 0) + spacingMm * Math.max(0, letters.length - 1),
  }
}

/**
 * Letters along a track from a way on, each turned with it; `baseMm` is how far the baseline lies below the
 * track. The boxes are those of the single letters; `sharpest` is the largest turn between two letters, in
 * radians.
 */
export function lettersAlong(
  letters: { text: string; style: TextStyle; widthMm: number }[],
  spacingMm: number,
  track: Track,
  { from, baseMm, capMm }: { from: number; baseMm: number; capMm: number },
): { boxes: Bounds[]; sharpest: number; nodes: (fonts: FontBook, settings: LabelSettings) => Text[] } {
  let way = from
  let sharpest = 0
  let before: number | null = null
  const boxes: Bounds[] = []
  const places: { x: number; y: number; angle: number }[] = []
  for (const { widthMm } of letters) {
    const { x, y, angle } = pointAt(track, way + widthMm / 2)
    if (before !== null)
      sharpest = Math.max(sharpest, Math.abs(Math.atan2(Math.sin(angle - before), Math.cos(angle - before))))
    before = angle
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
    places.push({
      x: x - (widthMm / 2) * cos - baseMm * sin,
      y: y - (widthMm / 2) * sin + baseMm * cos,
      angle,
    })
    const [cx, cy] = [x - (baseMm - capMm / 2) * sin, y + (baseMm - capMm / 2) * cos]
    const [w, h] = [
      (Math.abs(widthMm * cos) + Math.abs(capMm * 1.15 * sin)) / 2,
      (Math.abs(widthMm * sin) + Math.abs(capMm * 1.15 * cos)) / 2,
    ]
    boxes.push([cx - w, cy - h, cx + w, cy + h])
    way += widthMm + spacingMm
  }
  const nodes = (fonts: FontBook, settings: LabelSettings): Text[] => {
    const look = { colour: settings.colour, halo: haloOf(settings) }
    // Letters of one size are one text.
    const texts: { text: string; style: TextStyle; at: typeof places }[] = []
    letters.forEach(({ text, style }, i) => {
      const last = texts.at(-1)
      if (last?.style.sizeMm === style.sizeMm) {
        last.text += text
        last.at.push(places[i])
      } else texts.push({ text, style, at: [places[i]] })
    })
    return texts.flatMap(({ text, style, at }) => {
      const turned = at.map(({ x, y, angle }) => ({ x, y, rotationDeg: (angle * 180) / Math.PI }))
      return (
        lettersNode(fonts, text, style, { letters: turned, options: look }) ??
        [...text].map((letter, i) => textNode(fonts, letter, style, { ...turned[i], ...look }))
      )
    })
  }
  return { boxes, sharpest, nodes }
}
