import { erode, fixed, sea, worn, type Ground } from './erosion'
import { height, type Land } from './land'
import type { Km } from './mesh'

const cellKm = 0.4
const box = { west: -320, north: 330, columns: 1600, rows: 1675 }

/** Lakes are rings, rivers begin at their source; km. */
export type Water = { rivers: Km[][]; lakes: Km[][] }

const smooth = (from: number, to: number, value: number): number => {
  const share = Math.min(1, Math.max(0, (value - from) / (to - from)))
  return share * share * (3 - 2 * share)
}

/** How much a place belongs to the mountains, 0 to 1: a few massifs. */
const massifAt = ([x, y]: Km, { noise }: Land): number =>
  smooth(-0.25, 0.6, noise(x / 105 + 11, y / 88) + 0.35 * noise(x / 40, y / 40 + 4))

/**
 * Metres above the sea before water runs: massifs with ridges on ridges (Musgrave 1993) among rolling lowland, all of
 * it low at the coast.
 */
function youngHeight(
  [x, y]: Km,
  { noise }: Land,
  { rise, massif }: { rise: number; massif: number },
): number {
  // Bending the ground a little keeps valleys from running like a maze.
  const [u, v] = [x + 9 * noise(x / 45, y / 45 + 20), y + 9 * noise(x / 45 + 20, y / 45)]
  let [ridges, weight, size] = [0, 1, 46]
  for (let octave = 0; octave < 5; octave++, size /= 2.1) {
    const ridge = (1 - Math.abs(noise(u / size + 7 * octave, v / size - 5 * octave))) ** 2
    ridges += (ridge * weight * size) / 46
    weight = Math.min(1, ridge * 1.6)
  }
  const rolling = 85 + 55 * noise(x / 22, y / 22) + 26 * noise(x / 8, y / 8 + 3)
  // Unrest of a few kilometres, without which water would run down a slope in straight lines.
  const unrest =
    noise(x / 5 + 70, y / 5) + 0.7 * noise(x / 2.1, y / 2.1 + 70) + 0.5 * noise(x / 0.9 + 35, y / 0.9)
  return (
    4 +
    rise *
      ((14 + 42 * massif) * unrest + rolling * (1 - 0.5 * massif) + 950 * massif * (0.25 + ridges * 0.55))
  )
}

/**
 * The ground of the country, worn by its rivers: every place drains into a river, a lake or the sea.
 * @param isLand whether a place, in kilometres, is land
 */
export function makeTerrain(land: Land, water: Water, isLand: (at: Km) => boolean): Ground {
  const { columns, rows } = box
  const kinds = new Uint8Array(columns * rows)
  const heights = new Float64Array(columns * rows)
  const rise = new Float64Array(columns * rows)
  const isGround = landCells(isLand)
  for (let i = 0; i < kinds.length; i++) {
    if (!isGround[i]) continue
    const at = placeOf(i)
    kinds[i] = worn
    const inland = smooth(0, 0.42, Math.max(0, height(at, land.noise)))
    const massif = massifAt(at, land)
    heights[i] = Math.max(1, youngHeight(at, land, { rise: inland, massif }))
    rise[i] = inland * (2 + 24 * massif) * (1 + 0.3 * land.noise(at[0] / 3, at[1] / 3 + 90))
  }
  const ground: Ground = { columns, rows, cellM: cellKm * 1000, heights, kinds }
  sinkTowards(ground, water.rivers)
  for (const ring of water.lakes) fillLake(ground, ring)
  for (const line of water.rivers) layBed(ground, line)
  erode(ground, rise, { steps: 20, strength: 0.5, creep: 0.15 })
  return ground
}

/** Which cells are land: looked at one by one near the coast alone. */
function landCells(isLand: (at: Km) => boolean): Uint8Array {
  const { columns, rows } = box
  const found = new Uint8Array(columns * rows)
  const stride = 5
  const across = Math.ceil(columns / stride)
  const down = Math.ceil(rows / stride)
  const middle = (c: number, r: number): number =>
    Math.min(rows - 1, r * stride + 2) * columns + Math.min(columns - 1, c * stride + 2)
  const rough = Uint8Array.from({ length: across * down }, (_, k) =>
    isLand(placeOf(middle(k % across, Math.floor(k / across)))) ? 1 : 0,
  )
  for (let r = 1; r < down - 1; r++)
    for (let c = 1; c < across - 1; c++) {
      let lands = 0
      for (let k = 0; k < 9; k++) lands += rough[(r + Math.floor(k / 3) - 1) * across + c + (k % 3) - 1]
      if (lands === 0) continue
      for (let y = r * stride; y < Math.min(rows - 1, (r + 1) * stride); y++)
        for (let x = c * stride; x < Math.min(columns - 1, (c + 1) * stride); x++)
          if (lands === 9 || isLand(placeOf(y * columns + x))) found[y * columns + x] = 1
    }
  return found
}

/** Ground within some kilometres of a river sinks towards it, so that it runs in a valley. */
function sinkTowards({ columns, rows, heights }: Ground, rivers: Km[][]): void {
  const reach = 24
  const near = new Float32Array(columns * rows).fill(reach)
  for (const at of rivers.flatMap(dense)) near[cellAt(at)] = 0
  // Two passes of distances over neighbours (Borgefors 1986).
  const pass = (from: number, to: number, by: number): void => {
    for (let i = from; i !== to; i += by)
      near[i] = Math.min(
        near[i],
        near[i - by] + 1,
        near[i - by * columns] + 1,
        near[i - by * columns - by] + Math.SQRT2,
        near[i - by * columns + by] + Math.SQRT2,
      )
  }
  pass(columns + 1, near.length, 1)
  pass(near.length - columns - 2, -1, -1)
  for (let i = 0; i < near.length; i++) heights[i] *= 1 - sunk * (1 - near[i] / reach) ** 2
}

/** Ground beside a river is lower by this share. */
const sunk = 0.5

/** Points along a line, half a cell from each other. */
const dense = (line: Km[]): Km[] =>
  line.flatMap(([ax, ay], k) => {
    const [bx, by] = line[Math.min(line.length - 1, k + 1)]
    const pieces = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / (cellKm / 2)))
    return Array.from({ length: pieces }, (_, p): Km => [
      ax + ((bx - ax) * p) / pieces,
      ay + ((by - ay) * p) / pieces,
    ])
  })

const placeOf = (i: number): Km => [
  box.west + ((i % box.columns) + 0.5) * cellKm,
  box.north - (Math.floor(i / box.columns) + 0.5) * cellKm,
]

/** Lays a lake at the level of the lowest ground round it. */
function fillLake({ columns, rows, heights, kinds }: Ground, ring: Km[]): void {
  const level = Math.max(
    3,
    0.6 * Math.min(...ring.map((at) => heights[cellAt(at)]).filter((metres) => metres > 0)),
  )
  const ys = ring.map(([, y]) => y)
  const [first, last] = [Math.max(...ys), Math.min(...ys)].map((y) => Math.floor((box.north - y) / cellKm))
  for (let row = Math.max(0, first); row <= Math.min(rows - 1, last); row++) {
    const y = box.north - (row + 0.5) * cellKm
    const crossings = ring
      .flatMap(([ax, ay], k) => {
        const [bx, by] = ring[(k + 1) % ring.length]
        return ay > y !== by > y ? [ax + ((y - ay) * (bx - ax)) / (by - ay)] : []
      })
      .sort((a, b) => a - b)
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const [from, to] = [crossings[k], crossings[k + 1]].map((x) =>
        Math.round((x - box.west) / cellKm - 0.5),
      )
      for (let column = from; column <= to; column++) {
        kinds[row * columns + column] = fixed
        heights[row * columns + column] = level
      }
    }
  }
}

const cellAt = ([x, y]: Km): number =>
  Math.floor((box.north - y) / cellKm) * box.columns + Math.floor((x - box.west) / cellKm)

/** A river cuts to this share of the young ground. */
const cut = 0.8

/**
 * Lays the bed of a river from its source downwards, never rising, with a floor that widens towards the mouth. Where it
 * meets a river that was laid before, it ends at that one's height.
 */
function layBed({ columns, heights, kinds }: Ground, line: Km[]): void {
  const path = dense(line)
  const end = cellAt(path[path.length - 1])
  const base = kinds[end] === fixed ? heights[end] : 1
  let level = Infinity
  const bed = path.map((at, k) => {
    const young = heights[cellAt(at)]
    const share = k / path.length
    if (young > 0) level = Math.min(level, base + Math.max(0, young * cut - base) * (1 - share) ** 0.6)
    return level
  })
  const softened = bed.map((_, k) => {
    const near = bed.slice(Math.max(0, k - 25), k + 26)
    return near.reduce((a, b) => a + b, 0) / near.length
  })
  path.forEach((at, k) => {
    const metres = Math.max(1, Math.min(softened[k], k ? softened[k - 1] : Infinity))
    const half = Math.round(0.2 + (1.4 * k) / path.length)
    for (let down = -half; down <= half; down++)
      for (let right = -half; right <= half; right++) {
        const i = cellAt(at) + down * columns + right
        if (kinds[i] !== worn && !(kinds[i] === fixed && heights[i] > metres)) continue
        if (Math.hypot(right, down) > half + 0.3) continue
        kinds[i] = fixed
        heights[i] = Math.min(heights[i], metres)
      }
  })
}

export type Terrain = {
  metres: number
  /** Metres a cell. */
  steep: number
  /** Whether the sea is near enough for the place to lie in it. */
  coast: boolean
}

/** The height at a place from sixteen cells round it (Catmull and Rom 1974); null out at sea. */
export function terrainAt({ columns, rows, heights, kinds }: Ground, [x, y]: Km): Terrain | null {
  const [u, v] = [(x - box.west) / cellKm - 0.5, (box.north - y) / cellKm - 0.5]
  const [column, row] = [Math.floor(u), Math.floor(v)]
  if (column < 1 || row < 1 || column > columns - 3 || row > rows - 3) return null
  const at = row * columns + column
  let lands = 0
  for (let r = -1; r < 3; r++) for (let c = -1; c < 3; c++) if (kinds[at + r * columns + c] !== sea) lands++
  if (!lands) return null
  const [across, down] = [weights(u - column), weights(v - row)]
  let metres = 0
  for (let r = 0; r < 4; r++)
    for (let c = 0; c < 4; c++) metres += down[r] * across[c] * heights[at + (r - 1) * columns + c - 1]
  return {
    metres,
    coast: lands < 16,
    steep: Math.hypot(heights[at + 1] - heights[at], heights[at + columns] - heights[at]),
  }
}

const weights = (t: number): [number, number, number, number] => [
  0.5 * t * (-1 + t * (2 - t)),
  0.5 * (2 + t * t * (3 * t - 5)),
  0.5 * t * (1 + t * (4 - 3 * t)),
  0.5 * t * t * (t - 1),
]
