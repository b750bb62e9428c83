import { eachVertex, featureCount, type Areas } from '@/core/geo/geometry'
import { createCoverage, leastCovered, type Coverage } from '@/core/grid/coverage'
import type { Steps } from '@/core/grid/steps'
import { metresPerDegree } from '@/core/projection/ground'
import { fromDegrees } from '@/core/projection/reference'
import { gridPlace, type Raster } from './raster'
import { periodOf } from './raster-ground'
import { cellsOf, finestLevel, levelHeld, sizeOf } from './raster-cells'

/** What lies of a raster in each area; NaN where there is nothing. */
export type ZoneStatistics = {
  mean: Float64Array
  sum: Float64Array
  min: Float64Array
  max: Float64Array
  /** Share of an area that lies on cells with a value, 0 to 1. */
  covered: Float64Array
  /** Share of each value that was asked for, of what is covered, value by value. */
  shares: Float64Array[]
  /** Areas round a pole, which have no place in the raster's columns. */
  left: number
}

/** Rows are taken together up to so many cells. */
const cellsAtOnce = 4_000_000
/** Edges are bent into a reference system in pieces no longer than this, degrees. */
const pieceDeg = 0.02

/**
 * Statistics of a band within each area, every cell counted by the part of it that the area covers and by the ground
 * that it lies on. The sum counts values by covered parts alone, as is right for cells that hold numbers of something.
 * @param values the values whose shares are wanted
 */
export function* statisticsInAreas(
  raster: Raster,
  areas: Areas,
  { band, values = [] }: { band: number; values?: number[] },
): Steps<ZoneStatistics> {
  const count = featureCount(areas)
  const out: ZoneStatistics = {
    mean: new Float64Array(count).fill(NaN),
    sum: new Float64Array(count).fill(NaN),
    min: new Float64Array(count).fill(NaN),
    max: new Float64Array(count).fill(NaN),
    covered: new Float64Array(count),
    shares: values.map(() => new Float64Array(count).fill(NaN)),
    left: 0,
  }
  const level = finestLevel(raster)
  const scale = 2 ** (levelHeld(raster) - level)
  const size = sizeOf(raster, level)
  const isHeld = level === levelHeld(raster)
  const ground = groundOfRows(raster, size.rows, scale)
  const at = new Map(values.map((value, k) => [value, k]))
  const period = periodOf(raster)
  for (let f = 0; f < count; f++) {
    if (f % 16 === 0) yield f / count
    const own = ringsIn(raster, areas, f, scale)
    if (!own) out.left++
    const laid = own && laidOut(own, size, period * scale)
    if (!own || !laid) continue
    const { rings, box } = laid
    const [left, top, right, bottom] = box
    const columns = right - left
    const step = Math.max(1, Math.floor(cellsAtOnce / columns))
    const shares = new Float64Array(values.length)
    let [cellsKnown, known, weighted, sum, min, max] = [0, 0, 0, 0, Infinity, -Infinity]
    for (let from = top; from < bottom; from += step) {
      const rows = Math.min(step, bottom - from)
      // Whole rows of held cells are looked at where they are; others are copied.
      const window = {
        left: isHeld ? 0 : left / scale,
        top: from / scale,
        right: isHeld ? raster.columns : right / scale,
        bottom: (from + rows) / scale,
      }
      const cells = cellsOf(raster, { band, level, window })
      const coverage = createCoverage(columns, rows)
      for (const ring of rings) addRing(coverage, ring, left, from)
      coverage.rows((row, first, end, steps) => {
        const start = (from + row - cells.top) * cells.columns + left - cells.left
        addRow({ values: cells.values, start, steps }, first, end)
        const weight = ground[from + row]
        cellsKnown += inRow.parts
        known += weight * inRow.parts
        weighted += weight * inRow.sum
        sum += inRow.sum
        if (inRow.min < min) min = inRow.min
        if (inRow.max > max) max = inRow.max
        let part = 0
        for (let c = first; shares.length && c < end; c++) {
          part += steps[c]
          const k = at.get(cells.values[start + c])
          if (k !== undefined && Math.abs(part) > leastCovered) shares[k] += weight * Math.abs(part)
        }
      })
    }
    if (!(known > 0)) continue
    out.mean[f] = Math.min(max, Math.max(min, weighted / known))
    out.sum[f] = sum
    out.min[f] = min
    out.max[f] = max
    out.covered[f] = Math.min(1, cellsKnown / sizeOfRings(own))
    shares.forEach((share, k) => (out.shares[k][f] = share / known))
  }
  return out
}

/** What a row holds: covered parts of cells with a value, values by these, the least and the most. */
const inRow = { parts: 0, sum: 0, min: Infinity, max: -Infinity }

type Row = { values: Float32Array; start: number; steps: Float64Array }

/**
 * Goes through the cells of a row once, adding up what is covered of each. Within an area all cells of a run are
 * covered alike, and are counted together.
 */
function addRow({ values, start, steps }: Row, first: number, end: number): void {
  let covered = 0
  let parts = 0
  let sum = 0
  let min = Infinity
  let max = -Infinity
  for (let c = first; c < end;) {
    covered += steps[c]
    let behind = c + 1
    while (behind < end && steps[behind] === 0) behind++
    const part = covered < 0 ? -covered : covered
    if (part >= leastCovered) {
      let count = behind - c
      let plain = 0
      for (let i = start + c; i < start + behind; i++) {
        const value = values[i]
        plain += value
        if (value < min) min = value
        if (value > max) max = value
      }
      // One cell without a value leaves no sum: the run is gone through again without such cells.
      if (plain !== plain) {
        count = plain = 0
        for (let i = start + c; i < start + behind; i++) {
          if (values[i] !== values[i]) continue
          count++
          plain += values[i]
        }
      }
      parts += part * count
      sum += part * plain
    }
    c = behind
  }
  inRow.parts = parts
  inRow.sum = sum
  inRow.min = min
  inRow.max = max
}

/** Ground of a cell of each row, up to a factor, where cells are of degrees; 1 elsewhere. */
function groundOfRows(raster: Raster, rows: number, scale: number): Float64Array {
  const { crs, transform } = raster
  if (crs || transform[2] || transform[4]) return new Float64Array(rows).fill(1)
  return Float64Array.from({ length: rows }, (_, r) => {
    const [east, north] = metresPerDegree(transform[3] + (transform[5] * (r + 0.5)) / scale)
    return Math.max(0, east * north)
  })
}

/** The rings of an area in columns and rows of a level; null where one goes round a pole. */
function ringsIn(raster: Raster, areas: Areas, f: number, scale: number): Float64Array[] | null {
  const toSystem = fromDegrees(raster.crs)
  const { coords } = areas.arcs
  const period = periodOf(raster)
  const middle = raster.columns / 2
  const rings: Float64Array[] = []
  for (let p = areas.featureStarts[f]; p < areas.featureStarts[f + 1]; p++)
    for (let r = areas.polygonStarts[p]; r < areas.polygonStarts[p + 1]; r++) {
      const places: number[] = []
      let [lonBefore, latBefore, columnBefore] = [NaN, NaN, middle]
      const add = (lon: number, lat: number): void => {
        const [column, row] = gridPlace(raster, ...toSystem(lon, lat))
        const near = period ? column + period * Math.round((columnBefore - column) / period) : column
        places.push(near * scale, row * scale)
        columnBefore = near
      }
      eachVertex(areas, r, (v) => {
        const [lon, lat] = [coords[2 * v], coords[2 * v + 1]]
        const across = lon - lonBefore
        const way = across - 360 * Math.round(across / 360)
        // Straight lines of degrees are bent in a projected system.
        const pieces = raster.crs && way === way ? Math.ceil(Math.hypot(way, lat - latBefore) / pieceDeg) : 1
        for (let k = 1; k < pieces; k++)
          add(lonBefore + (way * k) / pieces, latBefore + ((lat - latBefore) * k) / pieces)
        add(lon, lat)
        ;[lonBefore, latBefore] = [lon, lat]
      })
      const end = places.length - 2
      if (period && Math.abs(places[0] - places[end]) > (period * scale) / 2) return null
      rings.push(new Float64Array(places))
    }
  return rings
}

/** Cells within rings, holes taken away. */
function sizeOfRings(rings: Float64Array[]): number {
  let twice = 0
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      const next = (i + 2) % ring.length
      twice += ring[i] * ring[next + 1] - ring[next] * ring[i + 1]
    }
  return Math.abs(twice) / 2
}

/** A ring where the raster has it: at its place, and once round the globe before or after, where that is in it. */
function inRounds(ring: Float64Array, period: number, columns: number): Float64Array[] {
  let [least, most] = [Infinity, -Infinity]
  for (let i = 0; i < ring.length; i += 2) {
    least = Math.min(least, ring[i])
    most = Math.max(most, ring[i])
  }
  return [-1, 0, 1].flatMap((round) => {
    const shift = round * period
    if (most + shift <= 0 || least + shift >= columns) return []
    return [round ? ring.map((value, i) => (i % 2 ? value : value + shift)) : ring]
  })
}

type Laid = { rings: Float64Array[]; box: [left: number, top: number, right: number, bottom: number] }

/** Rings where the raster has them, and the cells that they lie on; null for none. */
function laidOut(own: Float64Array[], size: { columns: number; rows: number }, period: number): Laid | null {
  const rings = period ? own.flatMap((ring) => inRounds(ring, period, size.columns)) : own
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const ring of rings)
    for (let i = 0; i < ring.length; i += 2) {
      left = Math.min(left, ring[i])
      right = Math.max(right, ring[i])
      top = Math.min(top, ring[i + 1])
      bottom = Math.max(bottom, ring[i + 1])
    }
  const box: Laid['box'] = [
    Math.max(0, Math.floor(left)),
    Math.max(0, Math.floor(top)),
    Math.min(size.columns, Math.ceil(right)),
    Math.min(size.rows, Math.ceil(bottom)),
  ]
  return box[2] > box[0] && box[3] > box[1] ? { rings, box } : null
}

function addRing({ edge }: Coverage, ring: Float64Array, left: number, top: number): void {
  for (let i = 0; i + 3 < ring.length; i += 2)
    edge(ring[i] - left, ring[i + 1] - top, ring[i + 2] - left, ring[i + 3] - top)
  const end = ring.length - 2
  edge(ring[end] - left, ring[end + 1] - top, ring[0] - left, ring[1] - top)
}

/** The part of each held cell that areas cover together, 0 to 1, and how many areas round a pole were left out. */
export function cellsInAreas(raster: Raster, areas: Areas): { covered: Float32Array; left: number } {
  const { columns, rows } = raster
  const covered = new Float32Array(columns * rows)
  const period = periodOf(raster)
  let left = 0
  for (let f = 0; f < featureCount(areas); f++) {
    const own = ringsIn(raster, areas, f, 1)
    if (!own) left++
    const laid = own && laidOut(own, raster, period)
    if (!laid) continue
    const { rings, box } = laid
    const coverage = createCoverage(box[2] - box[0], box[3] - box[1])
    for (const ring of rings) addRing(coverage, ring, box[0], box[1])
    coverage.rows((row, first, end, steps) => {
      const at = (box[1] + row) * columns + box[0]
      let part = 0
      for (let c = first; c < end; c++) {
        part += steps[c]
        covered[at + c] = Math.min(1, covered[at + c] + Math.abs(part))
      }
    })
  }
  return { covered, left }
}
