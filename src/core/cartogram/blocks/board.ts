import { around, ringAround, type BlockShape } from '../block-grid'

/** What owns a block where no area does: open water, or the rim of the board, which stays empty. */
export const water = -1
export const rim = -2

/** What areas on a board are to be: how many blocks each has, who borders on whom, and which land each is part of. */
export type Wanted = {
  blocks: Int32Array
  /** For two areas `a * count + b`: 1 where they border on the ground, 2 where water lies between their lands. */
  relation: Uint8Array
}

/** What it costs to lose a border, to get one that there is not, or to get one over the water. */
export const [lostCost, falseCost, overWaterCost] = [10, 1.2, 9]

/**
 * Blocks on a rectangle of the grid, and who owns each. It counts who touches whom while blocks change hands.
 */
export class Board {
  readonly owner: Int32Array
  readonly count: Int32Array
  /** How many sides of each area lie on water. */
  private readonly coast: Int32Array
  /** Blocks that share a side, as differences of their places in `owner`. */
  readonly sides: Int32Array
  private readonly ring: Int32Array
  private readonly touching: Uint16Array
  private readonly areas: number

  /** @param q0 the address of the first block; the outermost blocks are the rim */
  constructor(
    readonly shape: BlockShape,
    readonly box: { q0: number; r0: number; width: number; height: number },
    readonly wanted: Wanted,
  ) {
    const { width, height } = box
    this.areas = wanted.blocks.length
    this.owner = new Int32Array(width * height).fill(water)
    for (let i = 0; i < this.owner.length; i++) {
      const [c, r] = [i % width, Math.floor(i / width)]
      if (c === 0 || r === 0 || c === width - 1 || r === height - 1) this.owner[i] = rim
    }
    this.count = new Int32Array(this.areas)
    this.coast = new Int32Array(this.areas)
    this.touching = new Uint16Array(this.areas ** 2)
    this.sides = Int32Array.from(around[shape], ([q, r]) => r * width + q)
    this.ring = Int32Array.from(ringAround[shape], ([q, r]) => r * width + q)
  }

  at(q: number, r: number): number {
    const { q0, r0, width, height } = this.box
    const [c, row] = [q - q0, r - r0]
    return c > 0 && row > 0 && c < width - 1 && row < height - 1 ? row * width + c : -1
  }

  address(i: number): [q: number, r: number] {
    const { q0, r0, width } = this.box
    return [q0 + (i % width), r0 + Math.floor(i / width)]
  }

  /** Whether two areas share a side of some block. */
  touch(a: number, b: number): boolean {
    return this.touching[a * this.areas + b] > 0
  }

  /** The areas that touch one, and the water where it has a coast; for the water all that have one. */
  beside(a: number): number[] {
    const out: number[] = []
    for (let b = 0; b < this.areas; b++)
      if (a === water ? this.coast[b] > 0 : this.touching[a * this.areas + b] > 0) out.push(b)
    if (a !== water && this.coast[a] > 0) out.push(water)
    return out
  }

  /** What it costs, or saves, that two areas come to touch. */
  private meeting(a: number, b: number): number {
    const relation = this.wanted.relation[a * this.areas + b]
    if (relation === 1) return -lostCost
    return relation === 2 ? overWaterCost : falseCost
  }

  /**
   * A block changes hands.
   * @returns by how much the costs of borders, and of sides between different owners, go up
   */
  give(i: number, to: number): number {
    const { owner, sides, touching, coast, areas } = this
    const from = owner[i]
    let cost = 0
    for (let k = 0; k < sides.length; k++) {
      const other = owner[i + sides[k]]
      if (other !== from) cost -= other === rim ? 0 : edgeCost
      if (other !== to) cost += other === rim ? 0 : edgeCost
      if (other === water) {
        if (from >= 0) coast[from]--
        if (to >= 0) coast[to]++
      }
      if (other < 0) continue
      if (from === water) coast[other]--
      if (to === water) coast[other]++
      if (from >= 0 && other !== from) {
        touching[other * areas + from]--
        if (--touching[from * areas + other] === 0) cost -= this.meeting(from, other)
      }
      if (to >= 0 && other !== to) {
        touching[other * areas + to]++
        if (++touching[to * areas + other] === 1) cost += this.meeting(to, other)
      }
    }
    if (from >= 0) this.count[from]--
    if (to >= 0) this.count[to]++
    owner[i] = to
    return cost
  }

  /** Whether an area stays in one piece without a block of it. */
  staysWhole(i: number): boolean {
    const { owner, ring, sides, shape } = this
    const own = owner[i]
    let runs = 0
    if (shape === 'hexagons') {
      let before = owner[i + ring[5]] === own
      for (let k = 0; k < 6; k++) {
        const here = owner[i + ring[k]] === own
        if (here && !before) runs++
        before = here
      }
    } else {
      // Runs of the area along the ring of eight, of which only those count that share a side with the block.
      for (let k = 0; k < 8; k += 2) {
        if (owner[i + ring[k]] !== own) continue
        const [back, corner] = [owner[i + ring[(k + 6) % 8]], owner[i + ring[(k + 7) % 8]]]
        if (back !== own || corner !== own) runs++
      }
    }
    if (runs <= 1) return true
    return this.reaches(
      i,
      [...sides].map((side) => i + side).filter((j) => owner[j] === own),
    )
  }

  /** Whether some blocks of one area hang together without block `i`. */
  private reaches(i: number, ends: number[]): boolean {
    const seen = new Set([i, ends[0]])
    const open = [ends[0]]
    const own = this.owner[ends[0]]
    for (let at = open.pop(); at !== undefined; at = open.pop())
      for (const side of this.sides) {
        const next = at + side
        if (this.owner[next] !== own || seen.has(next)) continue
        seen.add(next)
        open.push(next)
      }
    return ends.every((end) => seen.has(end))
  }

  /** The blocks of every area that hang together, the largest piece of each first. */
  pieces(): number[][][] {
    const seen = new Uint8Array(this.owner.length)
    const out: number[][][] = Array.from({ length: this.areas }, () => [])
    this.owner.forEach((own, start) => {
      if (own < 0 || seen[start]) return
      const piece = [start]
      seen[start] = 1
      for (let k = 0; k < piece.length; k++)
        for (const side of this.sides) {
          const next = piece[k] + side
          if (this.owner[next] !== own || seen[next]) continue
          seen[next] = 1
          piece.push(next)
        }
      out[own].push(piece)
    })
    for (const pieces of out) pieces.sort((a, b) => b.length - a.length)
    return out
  }

  /** The blocks of each area. */
  blocks(): number[][] {
    const out: number[][] = Array.from({ length: this.areas }, () => [])
    this.owner.forEach((own, i) => own >= 0 && out[own].push(i))
    return out
  }
}

/** What each side between different owners costs: outlines are short where nothing else is to be had. */
export const edgeCost = 0.35
