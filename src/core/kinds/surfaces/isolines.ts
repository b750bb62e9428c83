import type { Geometry } from '@/core/geo/geometry'
import { eachVertex } from '@/core/geo/geometry'
import { generalise } from '@/core/geo/generalise'
import { isNear, reaches, toPaper } from '@/core/geo/paper'
import { projectGeometry } from '@/core/geo/projected'
import { writeNumber } from '@/core/classify/number-format'
import { boundsOf } from '@/core/scene/bounds'
import { polyline } from '@/core/scene/outline'
import { stroke, type Colour } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { measureLine, textNode, verticalMetrics, type TextStyle } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'
import type { DrawContext } from '../kind'
import { byGround, groundAt } from './line-ground'
import type { SurfaceLook } from './look'
import type { SurfacePlan } from './plan'

/** Lines of one level on paper, x and y by turns; what is higher lies on their right. */
export type PaperLines = { level: number; lines: Float64Array[] }

/** The lines of all levels where they lie on paper; those outside of the window are left out. */
export function onPaper(
  lines: Geometry | null,
  levels: readonly number[],
  { projection, to, window, toleranceMm }: DrawContext,
): PaperLines[] {
  if (lines?.kind !== 'lines') return []
  const projected = generalise(projectGeometry(lines, projection), toleranceMm / to.mmPerMetre)
  if (projected.kind !== 'lines') return []
  const { coords } = projected.arcs
  return levels.map((level, f) => {
    const own: Float64Array[] = []
    for (let r = projected.featureStarts[f]; r < projected.featureStarts[f + 1]; r++) {
      const places: number[] = []
      eachVertex(projected, r, (v) => {
        const [x, y] = toPaper(to, coords[2 * v], coords[2 * v + 1])
        const n = places.length
        if (n && places[n - 2] === x && places[n - 1] === y) return
        places.push(x, y)
      })
      // A straight line may cross the window without a place in it.
      if (places.length > 2 && reaches(boundsOf(places), window, 20)) own.push(Float64Array.from(places))
    }
    return { level, lines: own }
  })
}

/** The lettering of numbers on lines. */
export const numberStyle = ({ lines }: Pick<SurfaceLook, 'lines'>): TextStyle => ({
  font: { family: 'source-sans-3', weight: 400, italic: false },
  sizeMm: pointsToMm(lines.numberPt),
  letterSpacingMm: 0,
})

/** Whether the line at a level is one of the heavier ones: those at whole numbers of so many intervals. */
export function isIndex(level: number, at: number, { lines, interval }: SurfaceLook): boolean {
  if (lines.indexEvery < 1) return false
  const count = interval === null ? at : Math.round(level / interval)
  return count % lines.indexEvery === 0
}

/** Lines of one colour with their numbers in gaps, light ones first. */
export function drawIsolines(
  plan: SurfacePlan,
  settings: SurfaceLook,
  all: PaperLines[],
  context: DrawContext,
): Node[] {
  const { lines: look } = settings
  const ground = groundAt(look, context)
  const groups = all.map(({ level, lines }, k) => {
    const heavy = isIndex(level, k, settings)
    const words = writeNumber(level, settings.numbers, decimalsOf(settings, plan))
    const colourAt = (x: number, y: number): Colour => look.on[ground?.(x, y) ?? -1]?.colour ?? look.colour
    const numbered = look.numbered === 'all' || (look.numbered === 'index' && (heavy || look.indexEvery < 1))
    const cut = numbered
      ? withNumbers(lines, words, { settings, colourAt }, context)
      : { pieces: lines, numbers: [] }
    const widthMm = pointsToMm(heavy ? look.indexWidthPt : look.widthPt)
    const coloured = ground
      ? byGround(cut.pieces, look, ground)
      : [{ colour: look.colour, pieces: cut.pieces }]
    const drawn = coloured
      .filter(({ pieces }) => pieces.length && widthMm > 0)
      .map(({ colour, pieces }) =>
        path(polyline(...pieces.map((piece) => [...piece])), { strokes: [stroke(colour, widthMm)] }),
      )
    const nodes = [...drawn, ...cut.numbers]
    return { heavy, node: nodes.length ? group(`line ${words}`, nodes) : null }
  })
  return [...groups].sort((a, b) => Number(a.heavy) - Number(b.heavy)).flatMap(({ node }) => node ?? [])
}

/** As many decimals as the lines need. */
export const decimalsOf = ({ interval }: SurfaceLook, { decimals }: SurfacePlan): number =>
  interval === null ? decimals : Math.max(0, Math.min(6, -Math.floor(Math.log10(interval) + 1e-9)))

/** Lengths along a line from its start, one for each place. */
function lengthsOf(line: Float64Array): Float64Array {
  const out = new Float64Array(line.length / 2)
  for (let i = 1; i < out.length; i++)
    out[i] = out[i - 1] + Math.hypot(line[2 * i] - line[2 * i - 2], line[2 * i + 1] - line[2 * i - 1])
  return out
}

function placeAt(line: Float64Array, lengths: Float64Array, along: number): [number, number] {
  let [low, high] = [0, lengths.length - 1]
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (lengths[middle] <= along) low = middle
    else high = middle
  }
  const span = lengths[high] - lengths[low]
  const t = span > 0 ? (along - lengths[low]) / span : 0
  return [
    line[2 * low] + (line[2 * high] - line[2 * low]) * t,
    line[2 * low + 1] + (line[2 * high + 1] - line[2 * low + 1]) * t,
  ]
}

/** How far numbers may be from the straight, as a share of their length. */
const straightEnough = 0.9
/** Places that are tried for a number within its stretch of the line. */
const tried = 12

/** Lines with gaps in which their number stands, where they are straightest. */
function withNumbers(
  lines: Float64Array[],
  words: string,
  { settings, colourAt }: { settings: SurfaceLook; colourAt: (x: number, y: number) => Colour },
  { fonts, window }: DrawContext,
): { pieces: Float64Array[]; numbers: Node[] } {
  const style = numberStyle(settings)
  const { widthMm } = measureLine(fonts, words, style)
  const { capHeightMm } = verticalMetrics(fonts, style)
  const gap = widthMm + capHeightMm * 0.9
  const pieces: Float64Array[] = []
  const numbers: Node[] = []
  for (const line of lines) {
    const lengths = lengthsOf(line)
    const total = lengths[lengths.length - 1]
    let begin = 0
    const stretches = Math.max(1, Math.floor(total / settings.lines.apartMm))
    for (let s = 0; s < stretches && total > gap * 2.5; s++) {
      const [from, to] = [s, s + 1].map((n) => (n * total) / stretches)
      const at = straightest(line, lengths, { from: Math.max(from, begin), to, gap })
      if (at === null) continue
      const [ax, ay] = placeAt(line, lengths, at)
      const [bx, by] = placeAt(line, lengths, at + gap)
      const [mx, my] = [(ax + bx) / 2, (ay + by) / 2]
      if (!isNear(window, mx, my)) continue
      let turn = Math.atan2(by - ay, bx - ax)
      // What is higher lies on the right of the line: text along it has its foot there, so uphill runs against it.
      if (settings.lines.uphill) turn += Math.PI
      else if (Math.cos(turn) < 0) turn += Math.PI
      const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
      numbers.push(
        textNode(fonts, words, style, {
          x: mx - (cos * widthMm) / 2 - (sin * capHeightMm) / 2,
          y: my - (sin * widthMm) / 2 + (cos * capHeightMm) / 2,
          rotationDeg: (turn * 180) / Math.PI,
          colour: colourAt(mx, my),
        }),
      )
      pieces.push(partOf(line, lengths, begin, at))
      begin = at + gap
    }
    pieces.push(partOf(line, lengths, begin, total))
  }
  return { pieces: pieces.filter((piece) => piece.length > 2), numbers }
}

/** Where a stretch of the line is straightest for a number; null where it bends too much. */
function straightest(
  line: Float64Array,
  lengths: Float64Array,
  { from, to, gap }: { from: number; to: number; gap: number },
): number | null {
  let [best, share] = [null as number | null, straightEnough]
  for (let k = 0; k < tried; k++) {
    const at = from + ((to - from - gap) * (k + 0.5)) / tried
    if (at < from || at + gap > to) continue
    const [ax, ay] = placeAt(line, lengths, at)
    const [bx, by] = placeAt(line, lengths, at + gap)
    const straight = Math.hypot(bx - ax, by - ay) / gap
    if (straight > share) [best, share] = [at, straight]
  }
  return best
}

function partOf(line: Float64Array, lengths: Float64Array, from: number, to: number): Float64Array {
  if (from <= 0 && to >= lengths[lengths.length - 1]) return line
  if (to - from < 1e-6) return new Float64Array(0)
  const places = [...placeAt(line, lengths, from)]
  for (let i = 0; i < lengths.length; i++)
    if (lengths[i] > from && lengths[i] < to) places.push(line[2 * i], line[2 * i + 1])
  places.push(...placeAt(line, lengths, to))
  return Float64Array.from(places)
}
