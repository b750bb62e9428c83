import type { FontBook } from '@/core/scene/text'
import { blockBox, type Candidate } from './candidate'
import { blockNodes, type Block, type Setting } from './lettering'
import type { LabelSettings } from './spec'

/** A symbol on paper: its place, and how far it reaches from there, mm. */
export type Mark = {
  feature: number
  x: number
  y: number
  left: number
  up: number
  right: number
  down: number
}

/** How the lines of a label stand that lies in this direction of its mark. */
export function alignedTo(dx: number): 'left' | 'right' | 'middle' {
  if (Math.abs(dx) <= 0.3) return 'middle'
  return dx > 0 ? 'left' : 'right'
}

type Side = [across: -1 | 0 | 1, down: -1 | 0 | 1]

const usual: Record<LabelSettings['point']['first'], Side[]> = {
  right: [
    [1, 0],
    [1, -1],
    [1, 1],
    [-1, 0],
    [-1, -1],
    [-1, 1],
    [0, -1],
    [0, 1],
  ],
  above: [
    [0, -1],
    [1, -1],
    [-1, -1],
    [1, 0],
    [-1, 0],
    [0, 1],
    [1, 1],
    [-1, 1],
  ],
  left: [
    [-1, 0],
    [-1, -1],
    [-1, 1],
    [1, 0],
    [1, -1],
    [1, 1],
    [0, -1],
    [0, 1],
  ],
  below: [
    [0, 1],
    [1, 1],
    [-1, 1],
    [1, 0],
    [-1, 0],
    [0, -1],
    [1, -1],
    [-1, -1],
  ],
}

/** Around a symbol at a growing distance, with a line to its edge. */
function fartherOff(fonts: FontBook, block: Block, settings: LabelSettings, mark: Mark): Candidate[] {
  const reach = Math.max(mark.left, mark.up, mark.right, mark.down)
  return [1.2, 2.4, 4, 6].flatMap((far) =>
    [-45, 45, -135, 135, 0, 180, -90, 90].map((turn): Candidate => {
      const [dx, dy] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
      const off = reach + far * block.sizeMm
      const x = mark.x + dx * off + (Math.abs(dx) > 0.3 ? (Math.sign(dx) * block.widthMm) / 2 : 0)
      const y = mark.y + dy * off + (Math.abs(dy) > 0.3 ? (Math.sign(dy) * block.heightMm) / 2 : 0)
      const box = blockBox(block, x, y)
      const from = [Math.min(box[2], Math.max(box[0], mark.x)), Math.min(box[3], Math.max(box[1], mark.y))]
      const length = Math.hypot(from[0] - mark.x, from[1] - mark.y) || 1
      const align = alignedTo(dx)
      return {
        boxes: [box],
        x,
        y,
        preferred: false,
        leader: [
          from[0],
          from[1],
          mark.x + ((from[0] - mark.x) * reach) / length,
          mark.y + ((from[1] - mark.y) * reach) / length,
        ],
        nodes: () => blockNodes(fonts, block, settings, { x, y, setting: { align, rotationDeg: 0 } }),
      }
    }),
  )
}

const alignments: Record<number, Setting['align']> = { [-1]: 'right', 0: 'middle', 1: 'left' }

/**
 * The eight usual places beside a symbol, the best first: beside it at its height, then above, then below,
 * the side that is read first before the other (after Imhof 1975). On the symbol where that is wanted and the
 * text has room.
 */
export function besideMark(fonts: FontBook, block: Block, settings: LabelSettings, mark: Mark): Candidate[] {
  const { gapMm, within, first } = settings.point
  const candidates: Candidate[] = []
  const add = (x: number, y: number, align: Setting['align'], preferred: boolean): void =>
    void candidates.push({
      boxes: [blockBox(block, x, y)],
      x,
      y,
      preferred,
      leader: null,
      nodes: () => blockNodes(fonts, block, settings, { x, y, setting: { align, rotationDeg: 0 } }),
    })
  const [middleX, middleY] = [mark.x + (mark.right - mark.left) / 2, mark.y + (mark.down - mark.up) / 2]
  const room = 0.86
  if (
    within &&
    block.widthMm <= room * (mark.left + mark.right) &&
    block.heightMm <= room * (mark.up + mark.down)
  )
    add(middleX, middleY, 'middle', true)
  // Beside corners a round symbol leaves room; how much depends on its size.
  const corner = Math.SQRT1_2
  const air = gapMm + 0.08 * block.sizeMm
  usual[first].forEach(([across, down], i) => {
    const slant = across !== 0 && down !== 0 ? corner : 1
    const reachX = across > 0 ? mark.right : mark.left
    const reachY = down > 0 ? mark.down : mark.up
    const x =
      across === 0
        ? middleX
        : (down === 0 ? mark.x : middleX) +
          across * ((down === 0 ? reachX : reachX * slant) + air + block.widthMm / 2)
    const y =
      down === 0
        ? middleY
        : mark.y +
          down * (reachY * slant + air + block.heightMm / 2) +
          (down < 0 ? -block.descentMm * 0.3 : 0)
    add(x, y, alignments[across], i < 2)
  })
  return settings.point.far ? [...candidates, ...fartherOff(fonts, block, settings, mark)] : candidates
}
