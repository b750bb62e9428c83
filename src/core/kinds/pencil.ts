import { z } from 'zod'
import { trace, polyline, type Outline } from '@/core/scene/outline'
import { stroke, type Colour, type Stroke } from '@/core/scene/paint'
import { path, type Node } from '@/core/scene/scene'
import type { LegendItem } from './kind'

/** Strokes as if by pencil in place of flat colour. Lengths are in millimetres on paper. */
export const Pencil = z.object({
  /** Which way strokes run, degrees clockwise from the horizontal. */
  directionDeg: z.number().min(-90).max(90),
  spacingMm: z.number().min(0.2).max(20),
  /** Higher classes are drawn denser, up to the spacing. */
  denser: z.boolean(),
  /** How hard the pencil is pressed: wide and even, or thin and faint. */
  pressure: z.number().min(0).max(1),
  /** How unsteady the hand is; 0 rules every line. */
  roughness: z.number().min(0).max(1),
  /** How often the ground is gone over, each time in a slightly other direction. */
  passes: z.number().int().min(1).max(4),
  seed: z.number().int().min(0).max(999_999),
})
export type Pencil = z.infer<typeof Pencil>

export const plainPencil = (): Pencil => ({
  directionDeg: -35,
  spacingMm: 0.7,
  denser: false,
  pressure: 0.5,
  roughness: 0.5,
  passes: 2,
  seed: 1,
})

/** Between 0 and 1, the same for the same whole numbers (a hash after Wang 2007). */
function chance(a: number, b: number, c: number): number {
  let h = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b) ^ Math.imul(c, 0xc2b2ae35)) >>> 0
  h = Math.imul(h ^ 61 ^ (h >>> 16), 9)
  h = Math.imul(h ^ (h >>> 4), 0x27d4eb2d)
  return ((h ^ (h >>> 15)) >>> 0) / 2 ** 32
}

/** How much further apart the strokes of the lowest class are than those of the highest. */
const thinnest = 3

/** The distance of strokes for a class, `share` being 0 for the lowest and 1 for the highest. */
export const spacingFor = ({ spacingMm, denser }: Pencil, share: number): number =>
  denser ? spacingMm * (thinnest - (thinnest - 1) * share) : spacingMm

/**
 * An outline filled with strokes: each pass runs lines across it (a scan line by the rule of even and odd in a turned
 * frame), which begin and end about at its border and waver on their way. Strokes are fixed to `origin`, a place of the
 * map on paper, so that they stay where they are when the map is moved.
 * @param spacingMm between lines
 */
export function pencilled(
  outline: Outline,
  colour: Colour,
  pencil: Pencil,
  { origin, spacingMm }: { origin: [number, number]; spacingMm: number },
): Node[] {
  const strokes = [[], [], []] as number[][][]
  for (let pass = 0; pass < pencil.passes; pass++) {
    // Each time the hand comes from a slightly other side.
    const swing = pass ? (pass % 2 ? 1 : -1) * (6 + 4 * pass) * (0.3 + pencil.roughness) : 0
    const turn = ((pencil.directionDeg + swing) * Math.PI) / 180
    for (const [line, from, to] of spansAcross(outline, { turn, origin, spacingMm, pass }))
      for (const one of wavering(line, [from, to], pencil, { pass, spacingMm })) {
        const weight = Math.floor(3 * chance(pencil.seed + 7, line, pass * 1009 + Math.round(from * 3)))
        strokes[weight].push(backOnPaper(one, turn, origin))
      }
  }
  const width = 0.1 + 0.32 * pencil.pressure
  const alpha = Math.round(255 * (0.45 + 0.45 * pencil.pressure))
    .toString(16)
    .padStart(2, '0')
  return strokes.flatMap((own, weight) =>
    own.length
      ? [
          path(polyline(...own), {
            strokes: [stroke(`${colour.slice(0, 7)}${alpha}`, width * (0.7 + 0.3 * weight))],
          }),
        ]
      : [],
  )
}

type Across = { turn: number; origin: [number, number]; spacingMm: number; pass: number }

/** Where numbered lines run within an outline: line, from and to, in the turned frame about the origin. */
function spansAcross(
  outline: Outline,
  { turn, origin, spacingMm, pass }: Across,
): [number, number, number][] {
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
  const shift = pass * 0.43
  const crossings = new Map<number, number[]>()
  let [first, last]: [number, number][] = [
    [0, 0],
    [0, 0],
  ]
  const turned = (x: number, y: number): [number, number] => [
    (x - origin[0]) * cos + (y - origin[1]) * sin,
    ((y - origin[1]) * cos - (x - origin[0]) * sin) / spacingMm - shift,
  ]
  const edge = ([ax, ay]: [number, number], [bx, by]: [number, number]): void => {
    if (ay === by) return
    const [low, high] = ay < by ? [ay, by] : [by, ay]
    for (let k = Math.ceil(low); k < high; k++) {
      const at = ax + ((bx - ax) * (k - ay)) / (by - ay)
      const known = crossings.get(k)
      if (known) known.push(at)
      else crossings.set(k, [at])
    }
  }
  trace(outline, {
    moveTo(x, y) {
      first = last = turned(x, y)
    },
    lineTo(x, y) {
      const next = turned(x, y)
      edge(last, next)
      last = next
    },
    bezierCurveTo(...curve) {
      const next = turned(curve[4], curve[5])
      edge(last, next)
      last = next
    },
    closePath() {
      edge(last, first)
      last = first
    },
  })
  const spans: [number, number, number][] = []
  for (const [line, places] of [...crossings].sort(([a], [b]) => a - b)) {
    places.sort((a, b) => a - b)
    for (let i = 0; i + 1 < places.length; i += 2)
      if (places[i + 1] - places[i] > 0.15) spans.push([line + shift, places[i], places[i + 1]])
  }
  return spans
}

/** Vertices of a stroke are so far apart. */
const stepMm = 2.5
/** A stroke is no longer than an arm's easy reach. */
const longestMm = 26

/** A line as one or several unsteady strokes, x along it and y across, in the turned frame; mm. */
function wavering(
  line: number,
  [from, to]: [number, number],
  { seed, roughness }: Pencil,
  { pass, spacingMm }: { pass: number; spacingMm: number },
): number[][] {
  const key = Math.round(line * 100)
  const rough = (k: number, n: number) => (chance(seed + n, key, k + 7919 * pass) - 0.5) * 2 * roughness
  const strokes: number[][] = []
  const drift = rough(1, 1) * 0.35 * spacingMm
  // Pieces are counted from the origin, so that they are the same whatever is seen of the line.
  const begin = Math.floor(from / longestMm)
  for (let piece = begin; piece * longestMm < to; piece++) {
    const start = Math.max(from, piece * longestMm + rough(piece, 2) * 3)
    const end = Math.min(to, (piece + 1) * longestMm + rough(piece + 1, 2) * 3 + roughness * 1.5)
    if (end - start < 0.2) continue
    const [a, b] = [start - rough(piece, 3) * 0.25, end + rough(piece, 4) * 0.25]
    const count = roughness > 0 ? Math.max(1, Math.ceil((b - a) / stepMm)) : 1
    const tilt = rough(piece, 5) * 0.2 * spacingMm
    strokes.push(
      Array.from({ length: count + 1 }, (_, i) => {
        const x = a + ((b - a) * i) / count
        const waver = rough(Math.round(x / stepMm), 6) * 0.16 * Math.min(1, spacingMm)
        return [x, line * spacingMm + drift + tilt * (i / count - 0.5) + waver]
      }).flat(),
    )
  }
  return strokes
}

function backOnPaper(places: number[], turn: number, [ox, oy]: [number, number]): number[] {
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
  const out = new Array<number>(places.length)
  for (let i = 0; i < places.length; i += 2) {
    out[i] = ox + places[i] * cos - places[i + 1] * sin
    out[i + 1] = oy + places[i] * sin + places[i + 1] * cos
  }
  return out
}

/** How high the i-th of some classes is, 0 to 1. */
export const shareOfClass = (i: number, count: number): number => (count > 1 ? i / (count - 1) : 1)

/** A line of a legend: pencilled ground as large as its box. */
export const pencilSwatch = (
  colour: Colour,
  pencil: Pencil,
  share: number,
  edge: Stroke | null,
): LegendItem['swatch'] => ({
  shape: 'sample',
  fill: null,
  stroke: edge,
  sample: ({ width, height }) =>
    pencilled(
      { kind: 'rings', ...boxRing(width, height), closed: true, place: { scale: 1, dx: 0, dy: 0 } },
      colour,
      pencil,
      { origin: [0, 0], spacingMm: spacingFor(pencil, share) },
    ),
})

const boxRing = (width: number, height: number) => ({
  coords: Float64Array.of(0, 0, width, 0, width, height, 0, height),
  starts: Uint32Array.of(0),
  ends: Uint32Array.of(4),
})
