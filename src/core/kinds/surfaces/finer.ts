import { finestMetres, goesRound, middleOfRaster } from '@/core/data/raster-ground'
import { thinned } from '@/core/geo/generalise'
import { reaches, toMetres } from '@/core/geo/paper'
import { blurredCells } from '@/core/grid/blur'
import { contoursOf, linesOf, type LevelRings } from '@/core/grid/contours'
import { drain } from '@/core/grid/steps'
import { groundPerProjected } from '@/core/projection/ground'
import { boundsOf, type Bounds } from '@/core/scene/bounds'
import type { Node } from '@/core/scene/scene'
import { gridOnPaper, type PaperGrid } from '../cells-on-paper/grid'
import { paintSamples } from '../cells-on-paper/paint-samples'
import { sampler, type Sampler } from '../cells-on-paper/sample'
import type { DrawContext } from '../kind'
import type { PaperLines } from './isolines'
import type { FineSource } from './surface'

/** Values at the middles of cells on paper, rows from the top, NaN where there is none. */
export type PaperCells = {
  columns: number
  rows: number
  values: ArrayLike<number>
  /** The upper left corner, and the side of a cell; mm. */
  x: number
  y: number
  cellMm: number
}

/** Lines on smaller cells than these look no smoother, mm. */
const finestMm = 0.3
/** So many cells of paper along one of the raster are enough for its curves. */
const toRasterCell = 4
/** So many of them along a standard deviation of what is smoothed away are enough as well. */
const toSigma = 12
/** No more cells than these, whatever the size of the paper. */
const mostCells = 6_000_000
/** Lines that only cut a corner of what has values, such as the limb of the globe, are crumbs if they are shorter. */
const crumbMm = 1.5
/** Cells around the window, so that lines do not end at its edge. */
const margin = 4
/** Where what is smoothed away is so many cells wide, finer ones show nothing more. */
const smoothCells = 2

type Paper = Pick<DrawContext, 'projection' | 'to' | 'window' | 'toleranceMm'>

/** Cells of paper that show more than the cells of a surface, and what is under them. */
type FineGrid = { grid: PaperGrid; take: Sampler; perMm: number }

/** @param leastMm cells are no smaller than this */
function fineGrid(
  { raster, band, sigmaM, cellM }: FineSource,
  { surfaceM, leastMm, most }: { surfaceM: number; leastMm: number; most: number },
  context: Paper,
): FineGrid | null {
  const rasterM = finestMetres(raster)
  // The plane of a surface ends at a meridian, which is seen as a gap wherever the map does not end there.
  const round = goesRound(raster)
  const shows = Math.max(rasterM, cellM ?? 0) < surfaceM * 0.99 && sigmaM <= smoothCells * surfaceM
  if (!shows && !round) return null
  const samplerFor = (grid: PaperGrid): Sampler => sampler({ raster, band, grid, context, between: 'curves' })
  const first = gridOnPaper(raster.edge, context, leastMm)
  if (!first) return null
  const { projection, to, window } = context
  // How much ground lies under a millimetre differs over a map: that in the middle of the window counts.
  const middle = toMetres(to, window.x + window.width / 2, window.y + window.height / 2)
  const place = projection.invert(...middle) ?? middleOfRaster(raster)
  const perMm = (groundPerProjected(projection, place) || 1) / to.mmPerMetre
  const crowded = first.cellMm * Math.sqrt((first.columns * first.rows) / most)
  const worthMm = Math.max(rasterM / toRasterCell, sigmaM / toSigma, cellM ?? 0) / perMm
  const grid = gridOnPaper(raster.edge, context, Math.max(leastMm, worthMm, crowded))
  return grid && (round || grid.cellMm * perMm < surfaceM) ? { grid, take: samplerFor(grid), perMm } : null
}

/**
 * The values of a raster on cells of the paper, where these are finer than those of the surface and the raster has
 * cells to fill them, or where it goes round the globe; null where the surface shows as much.
 * @param surfaceM side of a cell of the surface, m
 */
export function finerCells(fine: FineSource, surfaceM: number, context: Paper): PaperCells | null {
  const found = fineGrid(fine, { surfaceM, leastMm: finestMm, most: mostCells }, context)
  if (!found) return null
  const { grid, take, perMm } = found
  const { cellMm } = grid
  const sigma = fine.sigmaM / (perMm * cellMm)
  const room = margin + Math.ceil(3 * sigma)
  const [columns, rows] = [grid.columns + 2 * room, grid.rows + 2 * room]
  const { values } = take({ left: -room, top: -room, columns, rows })
  return {
    ...{ columns, rows, cellMm },
    values: sigma > 0 ? drain(blurredCells({ values, columns, rows }, sigma)) : values,
    x: grid.box.x - room * cellMm,
    y: grid.box.y - room * cellMm,
  }
}

/** A raster in shades as fine as paper shows it; null where the surface shows as much, or has been smoothed. */
export function finerTint(
  fine: FineSource,
  { surfaceM, shade }: { surfaceM: number; shade: (value: number) => readonly number[] | null },
  context: Paper,
): Node | null {
  const found = fine.sigmaM > 0 ? null : fineGrid(fine, { surfaceM, leastMm: 0, most: Infinity }, context)
  return (
    found &&
    paintSamples(found.grid, [found.take], ([value], rgba, at) => {
      const colour = shade(value)
      if (!colour) return
      for (let i = 0; i < 3; i++) rgba[at + i] = colour[i]
      rgba[at + 3] = 255
    })
  )
}

/** The lowest and the highest value of some cells; null where none has one. */
export function rangeOf({ values }: Pick<PaperCells, 'values'>): { min: number; max: number } | null {
  let [min, max] = [Infinity, -Infinity]
  for (let i = 0; i < values.length; i++) {
    if (values[i] < min) min = values[i]
    if (values[i] > max) max = values[i]
  }
  return max >= min ? { min, max } : null
}

/** The lines of each level on paper; those outside of the window are left out. */
export function linesThrough(
  cells: PaperCells,
  levels: readonly number[],
  { window, toleranceMm }: Pick<DrawContext, 'window' | 'toleranceMm'>,
): PaperLines[] {
  return ringsThrough(cells, levels, toleranceMm).map((one) => ({
    level: one.level,
    lines: linesOf(one).filter((line) => {
      // A straight line may cross the window without a place in it.
      const bounds = boundsOf(line)
      return reaches(bounds, window) && (isClosed(line) || sizeOf(bounds) > crumbMm)
    }),
  }))
}

const isClosed = (line: Float64Array): boolean =>
  line[0] === line[line.length - 2] && line[1] === line[line.length - 1]

const sizeOf = ([x0, y0, x1, y1]: Bounds): number => Math.max(x1 - x0, y1 - y0)

/**
 * The ground from each level to the next, as rings around it and, the other way round, around what is higher; that of
 * the last is all above it.
 */
export function bandsThrough(
  cells: PaperCells,
  levels: readonly number[],
  toleranceMm: number,
): number[][][] {
  const rings = ringsThrough(cells, levels, toleranceMm).map((one) =>
    one.rings.map(({ places }) => [...places]),
  )
  return rings.map((own, k) => [...own, ...(rings[k + 1] ?? []).map(backwards)])
}

/** The rings of each level in millimetres, with no more places than paper shows. */
function ringsThrough(cells: PaperCells, levels: readonly number[], toleranceMm: number): LevelRings[] {
  const { x, y, cellMm } = cells
  return contoursOf(cells, levels).map(({ level, rings }) => ({
    level,
    rings: rings.map(({ places, edge }) =>
      fewerPlaces({ places: places.map((at, i) => (i % 2 ? y : x) + at * cellMm), edge }, toleranceMm),
    ),
  }))
}

type Ring = LevelRings['rings'][number]

/** A ring with the places that are seen; those on the edge of cells stay as they are. */
function fewerPlaces({ places, edge }: Ring, toleranceMm: number): Ring {
  const last = edge.length - 1
  const ends = [0, ...Array.from(edge.keys()).filter((i) => edge[i] === 1 && i > 0 && i < last), last]
  const starts = Uint32Array.from(ends, (end, k) => end + k)
  const coords = new Float64Array(2 * starts[starts.length - 1])
  for (let k = 1; k < ends.length; k++)
    coords.set(places.subarray(2 * ends[k - 1], 2 * ends[k] + 2), 2 * starts[k - 1])
  const thin = thinned({ coords, starts }, toleranceMm)
  const kept: number[] = []
  const flags: number[] = []
  for (let k = 1; k < ends.length; k++) {
    const [from, to] = [ends[k - 1], ends[k]]
    const [first, end] = [thin.starts[k - 1], thin.starts[k] - 1]
    for (let v = first; v < end; v++) {
      kept.push(thin.coords[2 * v], thin.coords[2 * v + 1])
      flags.push(v === first ? edge[from] : 0)
    }
    if (end - first > 1 || to - from < 2) continue
    // A straight line between two places on the edge keeps one between them, or it would be part of the edge.
    const middle = (from + to) >> 1
    kept.push(places[2 * middle], places[2 * middle + 1])
    flags.push(0)
  }
  kept.push(places[2 * last], places[2 * last + 1])
  flags.push(edge[last])
  return { places: Float64Array.from(kept), edge: Uint8Array.from(flags) }
}

function backwards(ring: number[]): number[] {
  const out: number[] = []
  for (let i = ring.length - 2; i >= 0; i -= 2) out.push(ring[i], ring[i + 1])
  return out
}
