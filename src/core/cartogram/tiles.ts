import { within, type Steps } from '@/core/grid/steps'
import { leastCost } from './assign'
import type { BlockShape } from './block-grid'
import type { Link } from './plane'

/** The grid on which tiles stand: `side` is the distance of two neighbours in a row, unit of the places. */
type TileGrid = { shape: BlockShape; side: number; x0: number; y0: number }

/** Rows of hexagons that stand on a corner lie so far apart, in sides. */
const hexRow = Math.sqrt(3) / 2
/** Rounds of exchanging neighbours; it is mostly still after ten. */
const mostRounds = 60

/** The middle of a tile. */
function middleOf({ shape, side, x0, y0 }: TileGrid, column: number, row: number): [number, number] {
  if (shape === 'squares') return [x0 + column * side, y0 + row * side]
  return [x0 + (column + (row & 1 ? 0.5 : 0)) * side, y0 + row * hexRow * side]
}

/**
 * One tile for each area: first those tiles that cost the least movement in all, then areas change places, or move to
 * an empty tile, as long as that brings neighbours together and keeps directions.
 * @param places where the areas would be, x and y by turns; NaN has no tile
 * @returns the middles of the tiles, x and y by turns
 */
export function* tiled(
  places: Float64Array,
  links: Link[],
  shape: BlockShape,
  side: number,
): Steps<Float64Array> {
  const there = [...Array(places.length / 2).keys()].filter((i) => Number.isFinite(places[2 * i]))
  const out = new Float64Array(places.length).fill(NaN)
  if (!there.length) return out
  const tiles = tilesNear(places, there, shape, side)
  const [n, m] = [there.length, tiles.length / 2]
  const cost = new Float64Array(n * m)
  there.forEach((f, i) => {
    for (let t = 0; t < m; t++)
      cost[i * m + t] =
        ((places[2 * f] - tiles[2 * t]) ** 2 + (places[2 * f + 1] - tiles[2 * t + 1]) ** 2) / side ** 2
  })
  const tileOf = yield* within(leastCost(cost, n, m), 0, 0.7)
  yield* within(exchanged({ tileOf, tiles, cost, there, places, links, side }), 0.7, 1)
  there.forEach((f, i) => {
    out[2 * f] = tiles[2 * tileOf[i]]
    out[2 * f + 1] = tiles[2 * tileOf[i] + 1]
  })
  return out
}

/** Tiles near enough to a place that its area may come to stand there; at least as many as there are areas. */
function tilesNear(places: Float64Array, there: number[], shape: BlockShape, side: number): Float64Array {
  const [xs, ys] = [there.map((f) => places[2 * f]), there.map((f) => places[2 * f + 1])]
  const high = shape === 'squares' ? side : side * hexRow
  for (let reach = 1.6; ; reach *= 1.5) {
    const grid: TileGrid = {
      shape,
      side,
      x0: Math.min(...xs) - Math.ceil(reach) * side,
      y0: Math.min(...ys) - Math.ceil(reach) * high,
    }
    const columns = Math.ceil((Math.max(...xs) - grid.x0) / side + reach) + 1
    const rows = Math.ceil((Math.max(...ys) - grid.y0) / high + reach) + 1
    const near: number[] = []
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        const [x, y] = middleOf(grid, column, row)
        if (there.some((_, i) => Math.hypot(xs[i] - x, ys[i] - y) < reach * side)) near.push(x, y)
      }
    if (near.length / 2 >= there.length) return Float64Array.from(near)
  }
}

/** Neighbours farther apart than this, in sides, do not touch. */
const touching = 1.1

/** Exchanges areas between tiles that touch as long as the layout gets better by it; changes `tileOf`. */
function* exchanged({
  tileOf,
  tiles,
  cost,
  there,
  places,
  links,
  side,
}: {
  tileOf: Int32Array
  tiles: Float64Array
  cost: Float64Array
  there: number[]
  places: Float64Array
  links: Link[]
  side: number
}): Steps<void> {
  const m = tiles.length / 2
  const numberOf = new Map(there.map((f, i) => [f, i]))
  const linked: { other: number; dx: number; dy: number }[][] = there.map(() => [])
  for (const { a, b, gap } of links) {
    const [i, j] = [numberOf.get(a), numberOf.get(b)]
    if (i === undefined || j === undefined || gap > 0) continue
    const [dx, dy] = [places[2 * b] - places[2 * a], places[2 * b + 1] - places[2 * a + 1]]
    const far = Math.hypot(dx, dy) || 1
    linked[i].push({ other: j, dx: dx / far, dy: dy / far })
    linked[j].push({ other: i, dx: -dx / far, dy: -dy / far })
  }
  const areaOn = new Int32Array(m).fill(-1)
  tileOf.forEach((t, i) => (areaOn[t] = i))
  const beside = neighboursOf(tiles, side)
  /** What is wrong with one area on a tile: shift, neighbours that do not touch it, and those in another direction. */
  const wrong = (i: number, tile: number): number => {
    let sum = 0.15 * cost[i * m + tile]
    for (const { other, dx, dy } of linked[i]) {
      const t = tileOf[other]
      const [x, y] = [tiles[2 * t] - tiles[2 * tile], tiles[2 * t + 1] - tiles[2 * tile + 1]]
      const far = Math.hypot(x, y) / side
      if (far < 0.5) continue
      sum +=
        Math.max(0, far - touching) +
        (far > touching ? 0.6 : 0) +
        0.35 * (1 - (x * dx + y * dy) / (far * side))
    }
    return sum
  }
  for (let round = 0; round < mostRounds; round++) {
    let changed = false
    for (let tile = 0; tile < m; tile++)
      for (const other of beside[tile]) {
        const [i, j] = [areaOn[tile], areaOn[other]]
        if (i < 0 || (j >= 0 && other < tile)) continue
        const before = wrong(i, tile) + (j >= 0 ? wrong(j, other) : 0)
        tileOf[i] = other
        if (j >= 0) tileOf[j] = tile
        const after = wrong(i, other) + (j >= 0 ? wrong(j, tile) : 0)
        if (after < before - 1e-9) {
          areaOn[other] = i
          areaOn[tile] = j
          changed = true
          if (j < 0) break
        } else {
          tileOf[i] = tile
          if (j >= 0) tileOf[j] = other
        }
      }
    if (!changed) return
    yield round / mostRounds
  }
}

/** Up to two sides away: farther moves are made in steps. */
function neighboursOf(tiles: Float64Array, side: number): number[][] {
  const m = tiles.length / 2
  return Array.from({ length: m }, (_, t) => {
    const near: number[] = []
    for (let o = 0; o < m; o++)
      if (
        o !== t &&
        Math.abs(tiles[2 * o] - tiles[2 * t]) < 2.1 * side &&
        Math.hypot(tiles[2 * o] - tiles[2 * t], tiles[2 * o + 1] - tiles[2 * t + 1]) < 2.1 * side
      )
        near.push(o)
    return near
  })
}
