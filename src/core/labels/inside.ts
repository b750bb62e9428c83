import { type FontBook } from '@/core/scene/text'
import { pointsToMm } from '@/core/scene/units'
import type { Bounds } from '@/core/scene/bounds'
import { alignedTo } from '@/core/labels/beside'
import { blockBox, type Candidate } from './candidate'
import { blockNodes, halvingWidth, layOutLabel, type Block } from './lettering'
import type { LabelSettings } from './spec'
import { spineOf } from './spine'
import { lettersAlong, lettersOf } from './track'

/** An area on paper: its rings as x, y, x, y…, and the place inside it that is farthest from its borders. */
export type PaperArea = { rings: () => Float64Array[]; x: number; y: number; box: Bounds }

type Span = [from: number, to: number]

/** Where a level line runs inside an area, from the left. */
export function spansAt(rings: Float64Array[], y: number): Span[] {
  const crossings: number[] = []
  for (const ring of rings)
    for (let i = 0; i + 3 < ring.length; i += 2) {
      const [y0, y1] = [ring[i + 1], ring[i + 3]]
      if (y0 <= y !== y1 <= y) crossings.push(ring[i] + ((y - y0) / (y1 - y0)) * (ring[i + 2] - ring[i]))
    }
  crossings.sort((a, b) => a - b)
  return Array.from({ length: crossings.length >> 1 }, (_, i) => [crossings[2 * i], crossings[2 * i + 1]])
}

const common = (a: Span[], b: Span[]): Span[] =>
  a.flatMap(([a0, a1]) =>
    b.flatMap(([b0, b1]): Span[] =>
      Math.max(a0, b0) < Math.min(a1, b1) ? [[Math.max(a0, b0), Math.min(a1, b1)]] : [],
    ),
  )

/**
 * The middle of a box of a size at a height, inside the area and as near to `wanted` as can be; null where it
 * has no room.
 */
function roomAt(
  rings: Float64Array[],
  y: number,
  { width, height, wanted, window }: { width: number; height: number; wanted: number; window: Bounds },
): number | null {
  const levels = [y - height / 2, y - height / 6, y + height / 6, y + height / 2]
  const spans = levels.map((level) => spansAt(rings, level)).reduce(common)
  let best: number | null = null
  for (const [from, to] of spans) {
    const [a, b] = [Math.max(from, window[0]) + width / 2, Math.min(to, window[2]) - width / 2]
    if (a > b) continue
    const x = Math.min(b, Math.max(a, wanted))
    if (best === null || Math.abs(x - wanted) < Math.abs(best - wanted)) best = x
  }
  return best
}

/**
 * Places for the name of an area: inside it in one line or two, near the place farthest from its borders;
 * curved along it where it is long; beyond its borders; outside with a line to it, where `isOpen` says that
 * no area of the layer is. They are made as they are asked for: most names are done with the first.
 */
export function* insideArea(
  fonts: FontBook,
  text: string,
  settings: LabelSettings,
  {
    sizePt,
    area,
    window,
    isOpen,
  }: { sizePt: number; area: PaperArea; window: Bounds; isOpen: (x: number, y: number) => boolean },
): Generator<Candidate> {
  const { form, beyond, outside } = settings.area
  const sizeMm = pointsToMm(sizePt)
  const reachable = outside && openAround(area, sizeMm, isOpen)
  // Areas lower than a letter, or narrower than two, hold no name: nothing has to be measured.
  const hopeless = area.box[3] - area.box[1] < 0.6 * sizeMm || area.box[2] - area.box[0] < sizeMm
  if (hopeless && !beyond && !reachable) return
  const block = layOutLabel(fonts, text, settings, { sizePt })
  let fitted = false
  if (form !== 'curved')
    for (const one of straightInside(fonts, block, settings, { area, window })) {
      fitted = true
      yield one
    }
  const halved = settings.breakAtMm === null ? halvingWidth(fonts, text, settings, sizePt) : null
  const narrow = halved === null ? block : layOutLabel(fonts, text, settings, { sizePt, widest: halved })
  if (form !== 'curved' && halved !== null)
    for (const one of straightInside(fonts, narrow, settings, { area, window })) {
      fitted = true
      yield one
    }
  if (form === 'curved' || (form === 'as fits' && !fitted))
    yield* curvedInside(fonts, text, settings, { block, area })
  if (beyond) yield blockAt(fonts, narrow, settings, { x: area.x, y: area.y, preferred: false })
  if (reachable) yield* outsideArea(fonts, narrow, settings, { area, isOpen })
}

function blockAt(
  fonts: FontBook,
  block: Block,
  settings: LabelSettings,
  {
    x,
    y,
    preferred,
    leader = null,
    align = 'middle',
  }: {
    x: number
    y: number
    preferred: boolean
    leader?: Candidate['leader']
    align?: 'left' | 'middle' | 'right'
  },
): Candidate {
  return {
    boxes: [blockBox(block, x, y)],
    x,
    y,
    preferred,
    leader,
    nodes: () => blockNodes(fonts, block, settings, { x, y, setting: { align, rotationDeg: 0 } }),
  }
}

function* straightInside(
  fonts: FontBook,
  block: Block,
  settings: LabelSettings,
  { area, window }: { area: PaperArea; window: Bounds },
): Generator<Candidate> {
  const air = 0.25 * block.sizeMm
  const [width, height] = [block.widthMm + 2 * air, block.heightMm + 2 * air]
  if (width > area.box[2] - area.box[0] || height > area.box[3] - area.box[1]) return
  const step = Math.max(0.4 * block.sizeMm, (area.box[3] - area.box[1]) / 16)
  const middle = Math.min(window[3] - height / 2, Math.max(window[1] + height / 2, area.y))
  const wanted = Math.min(window[2], Math.max(window[0], area.x))
  for (const k of [0, -1, 1, -2, 2, -3, 3, -5, 5, -7, 7]) {
    const y = middle + k * step
    if (
      y - height / 2 < Math.max(area.box[1], window[1]) ||
      y + height / 2 > Math.min(area.box[3], window[3])
    )
      continue
    const x = roomAt(area.rings(), y, { width, height, wanted, window })
    if (x !== null) yield blockAt(fonts, block, settings, { x, y, preferred: true })
  }
}

/** Letters along the middle line of a long area, spread over about two thirds of it. */
function curvedInside(
  fonts: FontBook,
  text: string,
  settings: LabelSettings,
  { block, area }: { block: Block; area: PaperArea },
): Candidate[] {
  if (block.widthMm > Math.hypot(area.box[2] - area.box[0], area.box[3] - area.box[1])) return []
  const spine = spineOf(area.rings(), block.capMm * 1.5)
  if (!spine) return []
  const words = text.replaceAll('\n', ' ')
  const plain = lettersOf(fonts, words, settings, {
    sizeMm: block.sizeMm,
    spacingMm: settings.spacing * block.sizeMm,
  })
  if (plain.widthMm > spine.length * 0.94) return []
  const gaps = Math.max(1, plain.letters.length - 1)
  const wide = (0.66 * spine.length - plain.widthMm) / gaps
  const spacingMm = settings.spacing * block.sizeMm + Math.max(0, Math.min(2 * block.sizeMm, wide))
  return [spacingMm, settings.spacing * block.sizeMm].flatMap((spacing): Candidate[] => {
    const { letters, widthMm } = lettersOf(fonts, words, settings, {
      sizeMm: block.sizeMm,
      spacingMm: spacing,
    })
    const set = lettersAlong(letters, spacing, spine, {
      from: (spine.length - widthMm) / 2,
      baseMm: block.capMm / 2,
      capMm: block.capMm,
    })
    return [
      {
        boxes: set.boxes,
        x: area.x,
        y: area.y,
        preferred: true,
        leader: null,
        nodes: () => set.nodes(fonts, settings),
      },
    ]
  })
}

const distances = [0.7, 2.2, 4.5, 8]
const turns = [0, -30, 30, 180, -150, 150, -60, 60, -120, 120, -90, 90].map((deg): [number, number] => [
  Math.cos((deg * Math.PI) / 180),
  Math.sin((deg * Math.PI) / 180),
])
const farthest = 14

/** The ends of lines from the middle of an area, nearest first. */
function* endsAround(
  area: PaperArea,
  sizeMm: number,
): Generator<{ x: number; y: number; dx: number; dy: number }> {
  for (const far of distances)
    for (const [dx, dy] of turns) {
      const reach = Math.min(toEdge(area, dx, dy), farthest) + far * sizeMm
      yield { x: area.x + dx * reach, y: area.y + dy * reach, dx, dy }
    }
}

function openAround(area: PaperArea, sizeMm: number, isOpen: (x: number, y: number) => boolean): boolean {
  for (const { x, y } of endsAround(area, sizeMm)) if (isOpen(x, y)) return true
  return false
}

/** Around the area at a growing distance, on open ground, with a line to it. */
function* outsideArea(
  fonts: FontBook,
  block: Block,
  settings: LabelSettings,
  { area, isOpen }: { area: PaperArea; isOpen: (x: number, y: number) => boolean },
): Generator<Candidate> {
  for (const { x: ex, y: ey, dx, dy } of endsAround(area, block.sizeMm)) {
    if (!isOpen(ex, ey)) continue
    const x = ex + (Math.abs(dx) > 0.3 ? (Math.sign(dx) * block.widthMm) / 2 : 0)
    const y = ey + (Math.abs(dy) > 0.3 ? (Math.sign(dy) * block.heightMm) / 2 : 0)
    const box = blockBox(block, x, y)
    const free = [
      [box[0], box[1]],
      [box[2], box[1]],
      [box[0], box[3]],
      [box[2], box[3]],
      [x, box[1]],
      [x, box[3]],
      [x, y],
    ].every(([px, py]) => isOpen(px, py))
    if (free)
      yield blockAt(fonts, block, settings, {
        x,
        y,
        preferred: false,
        leader: leaderFrom(box, area.x, area.y),
        align: alignedTo(dx),
      })
  }
}

/** How far it is from an area's middle to the edge of its box in a direction. */
function toEdge({ box, x, y }: PaperArea, dx: number, dy: number): number {
  const across = dx === 0 ? Infinity : (box[dx > 0 ? 2 : 0] - x) / dx
  const down = dy === 0 ? Infinity : (box[dy > 0 ? 3 : 1] - y) / dy
  return Math.min(across, down)
}

/** A line from the nearest point of a box to a place. */
export const leaderFrom = (box: Bounds, x: number, y: number): [number, number, number, number] => [
  Math.min(box[2], Math.max(box[0], x)),
  Math.min(box[3], Math.max(box[1], y)),
  x,
  y,
]
