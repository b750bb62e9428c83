import { type FontBook } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'
import type { Candidate } from './candidate'
import { blockNodes, layOutLabel } from './lettering'
import type { LabelSettings } from './spec'
import { lettersAlong, lettersOf, pointAt, reversed, smoothed, trackOf, type Track } from './track'

/** No two letters are turned against each other by more than this. */
const sharpestTurn = (22 * Math.PI) / 180

/** Stretches of a track, one for each repetition of its label. */
export function stretches(track: Track, repeatMm: number | null): [from: number, to: number][] {
  const count = repeatMm === null ? 1 : Math.max(1, Math.round(track.length / repeatMm))
  return Array.from({ length: count }, (_, i) => [
    (track.length * i) / count,
    (track.length * (i + 1)) / count,
  ])
}

/** The parts of a line that lie in a window, each a track. */
export function tracksIn(
  points: ArrayLike<number>,
  { x, y, width, height }: { x: number; y: number; width: number; height: number },
): Track[] {
  const tracks: Track[] = []
  let part: number[] = []
  const end = () => {
    if (part.length >= 4) tracks.push(trackOf(part))
    part = []
  }
  for (let i = 0; i + 1 < points.length; i += 2) {
    const [px, py] = [points[i], points[i + 1]]
    if (px >= x && py >= y && px <= x + width && py <= y + height) part.push(px, py)
    else end()
  }
  end()
  return tracks
}

/**
 * Places along a stretch of a line, those in its middle and on its straightest parts first. Text that would
 * bend is set letter by letter where that is wished, and left straight where the line strays from it by less
 * than a fifth of its size.
 */
export function alongLine(
  fonts: FontBook,
  text: string,
  settings: LabelSettings,
  { sizePt, line, span }: { sizePt: number; line: Track; span: [number, number] },
): Candidate[] {
  const [from, to] = span
  const block = layOutLabel(fonts, text.replaceAll('\n', ' '), settings, { sizePt, widest: null })
  const sizeMm = pointsToMm(sizePt)
  const spacingMm = settings.spacing * sizeMm
  const { letters, widthMm } = lettersOf(fonts, block.text, settings, { sizeMm, spacingMm })
  if (to - from < widthMm) return []
  const smooth = smoothed(line, Math.max(0.25, sizeMm / 3), 1.2 * sizeMm)
  const scale = smooth.length / line.length
  const places: { cost: number; candidate: Candidate }[] = []
  const tries = Math.min(15, Math.max(1, Math.floor((2 * (to - from - widthMm)) / widthMm) + 1))
  for (let i = 0; i < tries; i++) {
    const start =
      (from + (tries === 1 ? (to - from - widthMm) / 2 : ((to - from - widthMm) * i) / (tries - 1))) * scale
    const [a, b] = [pointAt(smooth, start), pointAt(smooth, start + widthMm)]
    const leftwards = b.x < a.x
    const track = leftwards ? reversed(smooth) : smooth
    const begin = leftwards ? smooth.length - start - widthMm : start
    const [p, q] = leftwards ? [b, a] : [a, b]
    const angle = Math.atan2(q.y - p.y, q.x - p.x)
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
    // How far the line strays from the straight one between both ends, upwards and downwards.
    let [up, down] = [0, 0]
    for (let s = 0; s <= 8; s++) {
      const { x, y } = pointAt(track, begin + (widthMm * s) / 8)
      const off = -(x - p.x) * sin + (y - p.y) * cos
      up = Math.max(up, -off)
      down = Math.max(down, off)
    }
    const bent = Math.max(up, down)
    const offCentre = Math.abs((start / scale + widthMm / 2 - (from + to) / 2) / (to - from))
    const sides = settings.line.side === 'on' ? [0] : [-1, 1]
    sides.forEach((side, s) => {
      // Where the baseline lies below the line.
      const base = [-0.28 * sizeMm, block.capMm / 2, 0.28 * sizeMm + block.capMm][side + 1]
      if (bent <= 0.2 * sizeMm || !settings.line.curved) {
        if (bent > 1.5 * sizeMm) return
        const shift = base - block.capMm / 2 + [-up, (down - up) / 2, down][side + 1]
        const [x, y] = [(p.x + q.x) / 2 - shift * sin, (p.y + q.y) / 2 + shift * cos]
        const { boxes } = lettersAlong(
          letters,
          spacingMm,
          trackOf([
            x - (widthMm / 2) * cos,
            y - (widthMm / 2) * sin,
            x + (widthMm / 2) * cos,
            y + (widthMm / 2) * sin,
          ]),
          { from: 0, baseMm: block.capMm / 2, capMm: block.capMm },
        )
        places.push({
          cost: offCentre + bent / sizeMm + s,
          candidate: {
            boxes,
            x,
            y,
            preferred: side <= 0 && bent <= 0.2 * sizeMm,
            leader: null,
            nodes: () =>
              blockNodes(fonts, block, settings, {
                x,
                y,
                setting: {
                  align: 'middle',
                  rotationDeg: (angle * 180) / Math.PI,
                },
              }),
          },
        })
      } else {
        const set = lettersAlong(letters, spacingMm, track, { from: begin, baseMm: base, capMm: block.capMm })
        if (set.sharpest > sharpestTurn) return
        const middle = pointAt(track, begin + widthMm / 2)
        places.push({
          cost: offCentre + set.sharpest * 3 + s,
          candidate: {
            boxes: set.boxes,
            x: middle.x,
            y: middle.y,
            preferred: side <= 0,
            leader: null,
            nodes: () => set.nodes(fonts, settings),
          },
        })
      }
    })
  }
  return places.sort((a, b) => a.cost - b.cost).map(({ candidate }) => candidate)
}
