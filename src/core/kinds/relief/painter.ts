import { blurredCells } from '@/core/grid/blur'
import { gradientsOf } from '@/core/grid/relief/gradient'
import { shader, type Light } from '@/core/grid/relief/shade'
import { drain } from '@/core/grid/steps'
import { groundPerProjected } from '@/core/projection/ground'
import { middleOfRaster } from '@/core/data/raster-ground'
import type { Raster } from '@/core/data/raster'
import type { DrawContext } from '../kind'
import type { PaperGrid } from '../cells-on-paper/grid'
import type { Block } from '../cells-on-paper/places'
import { sampler, type Sample, type Sampler } from '../cells-on-paper/sample'
import { createColours, type Tones } from './colours'
import type { ReliefPlan } from './plan'
import type { ReliefSettings, Shading } from './spec'

/** Cells are painted in squares, so that what is under way fits into the quick memory of a processor. */
const side = 256
/** The surface that is left of smoothing is sampled by so many cells to a standard deviation. */
const cellsToSigma = 4
/** Farther than this many standard deviations nothing is seen of a cell in a surface that is smoothed. */
const reachOfBlur = 4

/** Four lights stand so far from each other, degrees; the one that was set is the strongest. */
const apart = 45

/** The lights of a shading: one, or four about it (after Mark 1992, from 90° to its left to 45° to its right). */
export const lightsOf = ({ lights, azimuthDeg }: Pick<Shading, 'lights' | 'azimuthDeg'>): Light[] =>
  lights === 'one'
    ? [{ azimuthDeg, weight: 1 }]
    : [-2, -1, 0, 1].map((k) => ({ azimuthDeg: azimuthDeg + k * apart, weight: k === 0 ? 1.5 : 1 }))

/**
 * Paints a relief row by row. Heights are sampled for the paper, then shaded, tinted and put in mist; a band of rows
 * has the colours that it has in the whole, since nothing depends on where a band begins.
 */
export function reliefPainter(
  plan: NonNullable<ReliefPlan>,
  settings: ReliefSettings,
  { raster, grid, context }: { raster: Raster; grid: PaperGrid; context: DrawContext },
): (from: number, to: number) => Uint8ClampedArray {
  const { shading, band } = settings
  const heights = sampler({ raster, band, grid, context, between: 'curves' })
  const broad =
    shading && (shading.broad || shading.texture)
      ? broadSurface(shading, { raster, band, grid, context })
      : null
  const colour = createColours(settings)
  return (from, to) => {
    const rgba = new Uint8ClampedArray(4 * grid.columns * (to - from))
    for (let top = from - (from % side); top < to; top += side)
      for (let left = 0; left < grid.columns; left += side) {
        const first = Math.max(top, from)
        const block = {
          left,
          top: first,
          columns: Math.min(side, grid.columns - left),
          rows: Math.min(to, top + side) - first,
        }
        const sample = heights(widened(block, 1))
        if (isEmpty(sample)) continue
        const tones = shading ? tonesOf(sample, { shading, plan, broad }) : null
        colour(sample, tones, { rgba, at: (first - from) * grid.columns + left, columns: grid.columns })
      }
    return rgba
  }
}

function isEmpty({ values }: Sample): boolean {
  for (let i = 0; i < values.length; i++) if (values[i] === values[i]) return false
  return true
}

const widened = ({ left, top, columns, rows }: Block, by: number): Block => ({
  left: left - by,
  top: top - by,
  columns: columns + 2 * by,
  rows: rows + 2 * by,
})

/** A surface that was smoothed, in coarser cells: `by` of the paper's cells lie along one of them. */
type Broad = { take: Sampler; by: number; sigma: number; shift: [x: number, y: number] }

/**
 * The surface of which broad shading is made. Its cells lie where they always lie in the plane of the map, whatever is
 * seen of it, so that it does not change while the map is moved.
 */
function broadSurface(
  { reachKm }: Shading,
  { raster, band, grid, context }: { raster: Raster; band: number; grid: PaperGrid; context: DrawContext },
): Broad {
  const { projection, to } = context
  const { box, cellMm } = grid
  const ground = groundPerProjected(projection, middleOfRaster(raster)) || 1
  const sigma = (reachKm * 1000 * to.mmPerMetre) / (ground * cellMm)
  const by = Math.max(1, Math.round(sigma / cellsToSigma))
  const coarse = by * cellMm
  const [x, y] = [
    to.dx + Math.floor((box.x - to.dx) / coarse) * coarse,
    to.dy + Math.floor((box.y - to.dy) / coarse) * coarse,
  ]
  const cells: PaperGrid = {
    box: { ...box, x, y },
    cellMm: coarse,
    columns: Math.ceil(grid.columns / by) + 1,
    rows: Math.ceil(grid.rows / by) + 1,
  }
  return {
    take: sampler({ raster, band, grid: cells, context, between: 'curves' }),
    by,
    sigma: sigma / by,
    shift: [(box.x - x) / cellMm, (box.y - y) / cellMm],
  }
}

type Surroundings = { right: Float32Array; up: Float32Array; heights: Float64Array; block: Block }

/** The smoothed surface about a block of the paper's cells: its slopes and its heights. */
function surroundingsOf({ take, by, sigma, shift }: Broad, block: Block): Surroundings {
  const margin = Math.ceil(reachOfBlur * sigma) + 2
  const from = (start: number, k: 0 | 1): number => Math.floor((start + shift[k]) / by) - margin
  const [left, top] = [from(block.left, 0), from(block.top, 1)]
  const around: Block = {
    left,
    top,
    columns: Math.ceil((block.left + block.columns + shift[0]) / by) + margin - left,
    rows: Math.ceil((block.top + block.rows + shift[1]) / by) + margin - top,
  }
  const sample = take(around)
  const heights = drain(blurredCells({ ...sample, values: Float64Array.from(sample.values) }, sigma))
  return { ...gradientsOf({ ...sample, values: heights }, sample.steps), heights, block: around }
}

/** How light each cell of a sample is beside level ground, −1 to 1. */
function tonesOf(
  sample: Sample,
  { shading, plan, broad }: { shading: Shading; plan: NonNullable<ReliefPlan>; broad: Broad | null },
): Tones {
  const { right, up } = gradientsOf(sample, sample.steps)
  const around = broad && surroundingsOf(broad, sample)
  const share = around ? shading.broad : 0
  const smooth =
    around && broad && share
      ? { right: spread(around.right, sample, around, broad), up: spread(around.up, sample, around, broad) }
      : null
  const level = around && broad && shading.texture ? spread(around.heights, sample, around, broad) : null
  const light = shader({ ...shading, lights: lightsOf(shading) })
  const bent = 2 ** -shading.curve
  const { values } = sample
  const tone = new Float32Array(values.length)
  const facing = shading.aspect ? new Float32Array(values.length) : null
  const sun = (shading.azimuthDeg * Math.PI) / 180
  const [east, north] = [Math.sin(sun), Math.cos(sun)]
  const [texture, toAbove, flat] = [shading.texture, 1 / (2 * plan.localM), 1 / (4 * shading.exaggeration)]
  for (let i = 0; i < values.length; i++) {
    if (values[i] !== values[i]) continue
    let x = right[i]
    let y = up[i]
    if (smooth) {
      // Beside the edge of a raster there may be no smoothed surface: the fine one stands for it.
      const bx = plan.boost * smooth.right[i]
      const by = plan.boost * smooth.up[i]
      if (bx === bx) x += share * (bx - x)
      if (by === by) y += share * (by - y)
    }
    let value = light(x, y)
    if (level) {
      const above = (values[i] - level[i]) * toAbove
      if (above === above) value += texture * Math.max(-1, Math.min(1, above))
      value = Math.max(-1, Math.min(1, value))
    }
    tone[i] = bent === 1 ? value : Math.sign(value) * Math.abs(value) ** bent
    if (facing) facing[i] = -(x * east + y * north) / (Math.sqrt(x * x + y * y) + flat)
  }
  return { tone, facing }
}

/** Values of coarse cells at the middles of fine ones, each from the four about it, or from the nearest one. */
function spread(
  values: ArrayLike<number>,
  { left, top, columns, rows }: Block,
  { block: coarse }: Surroundings,
  { by, shift }: Broad,
): Float32Array {
  const out = new Float32Array(columns * rows)
  const wide = coarse.columns
  const places = new Int32Array(columns)
  const shares = new Float64Array(columns)
  for (let c = 0; c < columns; c++) {
    const x = (left + c + 0.5 + shift[0]) / by - 0.5 - coarse.left
    places[c] = Math.floor(x)
    shares[c] = x - places[c]
  }
  for (let r = 0, i = 0; r < rows; r++) {
    const y = (top + r + 0.5 + shift[1]) / by - 0.5 - coarse.top
    const v = y - Math.floor(y)
    const row = Math.floor(y) * wide
    for (let c = 0; c < columns; c++, i++) {
      const k = row + places[c]
      const u = shares[c]
      const four =
        (values[k] * (1 - u) + values[k + 1] * u) * (1 - v) +
        (values[k + wide] * (1 - u) + values[k + wide + 1] * u) * v
      out[i] = four === four ? four : values[k + (v < 0.5 ? 0 : wide) + (u < 0.5 ? 0 : 1)]
    }
  }
  return out
}
