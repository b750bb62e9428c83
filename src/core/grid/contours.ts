import type { Grid } from './grid'

/**
 * Where a surface reaches a level: closed rings with what is at least as high on their right, in cells from the upper
 * left corner of the grid, x and y by turns, the first place repeated at the end. `edge[k]` is 1 where place `k` lies
 * on the edge of the grid or of cells without a value, along which the ring is only closed.
 */
export type LevelRings = { level: number; rings: { places: Float64Array; edge: Uint8Array }[] }

/** Sides of a square between four middles. */
const [top, right, bottom, left] = [0, 1, 2, 3]
const nowhere = -1

/**
 * For each pattern of corners that are at least as high (upper left 8, upper right 4, lower right 2, lower left 1) and
 * the side at which a line comes in, the side at which it leaves, with what is higher on its right. Two opposite
 * corners are joined where the middle of the square is high as well.
 */
const ways = new Int8Array(2 * 16 * 4).fill(nowhere)
const way = (pattern: number, from: number, to: number, joined?: boolean): void => {
  for (const high of joined === undefined ? [0, 1] : [Number(joined)])
    ways[(high * 16 + pattern) * 4 + from] = to
}
way(1, left, bottom)
way(2, bottom, right)
way(3, left, right)
way(4, right, top)
way(5, left, bottom, false)
way(5, right, top, false)
way(5, left, top, true)
way(5, right, bottom, true)
way(6, bottom, top)
way(7, left, top)
way(8, top, left)
way(9, top, bottom)
way(10, top, left, false)
way(10, bottom, right, false)
way(10, top, right, true)
way(10, bottom, left, true)
way(11, top, right)
way(12, right, left)
way(13, right, bottom)
way(14, bottom, left)

/**
 * Contours of a grid by marching squares (Lorensen and Cline 1987, in the plane): for each level the rings around what
 * is at least as high. Rings of a higher level lie within those of a lower one and never cross them: on each side of a
 * square both are placed by the same straight line between its ends, and corners are joined by one rule. All squares
 * are looked at once, whatever the number of levels.
 * @param levels ascending
 */
export function contoursOf(
  grid: Pick<Grid, 'columns' | 'rows'> & { values: ArrayLike<number> },
  levels: readonly number[],
): LevelRings[] {
  const { columns, rows, values } = grid
  // A frame of cells without a value closes every ring.
  const [wide, high] = [columns + 2, rows + 2]
  const padded = new Float64Array(wide * high).fill(-Infinity)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const value = values[r * columns + c]
      padded[(r + 1) * wide + c + 1] = Number.isNaN(value) ? -Infinity : value
    }
  const squares = crossed(padded, wide, high, levels)
  const seen = new Uint8Array(wide * high)
  return levels.map((level, k) => {
    const beyond = hair * (levels.length - k)
    const rings = tracedRings({ padded, wide, seen, level, squares: squares[k], beyond })
    for (const square of squares[k]) seen[square] = 0
    return { level, rings }
  })
}

/** For each level the squares that a line of it runs through, by their upper left corner. */
function crossed(padded: Float64Array, wide: number, high: number, levels: readonly number[]): number[][] {
  const squares = levels.map((): number[] => [])
  const count = levels.length
  for (let r = 0; r + 1 < high; r++)
    for (let c = 0; c + 1 < wide; c++) {
      const at = r * wide + c
      const [a, b, d, e] = [padded[at], padded[at + 1], padded[at + wide], padded[at + wide + 1]]
      const least = Math.min(a, b, d, e)
      const most = Math.max(a, b, d, e)
      if (least === most) continue
      for (let k = 0; k < count && levels[k] <= most; k++) if (levels[k] > least) squares[k].push(at)
    }
  return squares
}

/**
 * Along cells without a value rings run so much beyond the last middles for each level above theirs, in cells: those of
 * several levels then lie within each other there as well, and nobody sees it.
 */
const hair = 1e-5

type Tracing = {
  beyond: number
  padded: Float64Array
  wide: number
  seen: Uint8Array
  level: number
  squares: number[]
}

function tracedRings(tracing: Tracing): LevelRings['rings'] {
  const rings: LevelRings['rings'] = []
  for (const square of tracing.squares)
    for (let from = 0; from < 4; from++) {
      if (tracing.seen[square] & (1 << from) || exitOf(tracing, square, from) === nowhere) continue
      const ring = ringFrom(tracing, square, from)
      if (ring) rings.push(ring)
    }
  return rings
}

function exitOf({ padded, wide, level }: Tracing, at: number, from: number): number {
  const [a, b, e, d] = [padded[at], padded[at + 1], padded[at + wide + 1], padded[at + wide]]
  const pattern = (a >= level ? 8 : 0) | (b >= level ? 4 : 0) | (e >= level ? 2 : 0) | (d >= level ? 1 : 0)
  const joined = (pattern === 5 || pattern === 10) && (a + b + d + e) / 4 >= level ? 16 : 0
  return ways[(joined + pattern) * 4 + from]
}

function ringFrom(tracing: Tracing, start: number, startSide: number): LevelRings['rings'][number] | null {
  const { wide, seen } = tracing
  const steps = [-wide, 1, wide, -1]
  const places: number[] = []
  const edge: number[] = []
  let [square, side] = [start, startSide]
  do {
    seen[square] |= 1 << side
    placeOn(tracing, [square, side], places, edge)
    const out = exitOf(tracing, square, side)
    square += steps[out]
    side = (out + 2) % 4
  } while (square !== start || side !== startSide)
  if (places.length < 6) return null
  places.push(places[0], places[1])
  edge.push(edge[0])
  return { places: Float64Array.from(places), edge: Uint8Array.from(edge) }
}

/** Towards a cell without a value the line stays at the middle of the last one that has some, but for a hair. */
const edgeShare = (first: number, beyond: number): number => (first === -Infinity ? 1 - beyond : beyond)

/** Puts down where the level is reached on a side of a square; a place that was just put down is not repeated. */
function placeOn(
  { padded, wide, level, beyond }: Tracing,
  [square, side]: [square: number, side: number],
  places: number[],
  edge: number[],
): void {
  const one = square + (side === bottom ? wide : Number(side === right))
  const other = one + (side === top || side === bottom ? 1 : wide)
  const [a, b] = [padded[one], padded[other]]
  const atEdge = a === -Infinity || b === -Infinity
  const share = atEdge ? edgeShare(a, beyond) : (level - a) / (b - a)
  const along = side === top || side === bottom
  // Middles of cells lie half a cell from the corner, and the frame is one cell wide.
  const x = (one % wide) - 0.5 + (along ? share : 0)
  const y = Math.floor(one / wide) - 0.5 + (along ? 0 : share)
  const n = places.length
  if (n && places[n - 2] === x && places[n - 1] === y) {
    edge[edge.length - 1] |= Number(atEdge)
    return
  }
  places.push(x, y)
  edge.push(Number(atEdge))
}

/**
 * The lines of a level: its rings without what only closes them along the edge. A line is closed where its first and
 * last place are the same.
 */
export function linesOf({ rings }: LevelRings): Float64Array[] {
  return rings.flatMap(({ places, edge }) => {
    const count = edge.length - 1
    const closes = (k: number): boolean => edge[k % count] === 1 && edge[(k + 1) % count] === 1
    let first = -1
    for (let k = 0; k < count && first < 0; k++) if (closes(k)) first = k + 1
    if (first < 0) return [places]
    const lines: Float64Array[] = []
    let open: number[] = []
    for (let n = 0; n < count; n++) {
      const k = (first + n) % count
      if (closes(k)) {
        if (open.length > 2) lines.push(Float64Array.from(open))
        open = []
        continue
      }
      if (!open.length) open.push(places[2 * k], places[2 * k + 1])
      const next = (k + 1) % count
      open.push(places[2 * next], places[2 * next + 1])
    }
    if (open.length > 2) lines.push(Float64Array.from(open))
    return lines
  })
}
