import { featureCount } from '@/core/geo/geometry'
import { generalise } from '@/core/geo/generalise'
import { featureOutline } from '@/core/geo/outlines'
import { projectGeometry } from '@/core/geo/projected'
import type { Dataset } from '@/core/data/dataset'
import { createProjection } from '@/core/projection/projection'
import { coloursFor, shadeOf } from '@/core/colour/colouring'
import { valueAt, type Grid } from '@/core/grid/grid'
import { circle, polygon, type Outline } from '@/core/scene/outline'
import { channels, solid, stroke, type Paint } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { unreliablePaint } from '../choropleth/draw'
import type { DrawContext } from '../kind'
import { paperPlaces } from '../marks/places'
import { paintCells } from '../cells-on-paper/paint'
import { pencilled, shareOfClass, spacingFor, type Pencil } from '../pencil'
import { bandsThrough, finerCells, finerTint, linesThrough, rangeOf } from './finer'
import { drawIsolines, onPaper, type PaperLines } from './isolines'
import type { SurfaceLook } from './look'
import { isShown, levelsOf, type SurfacePlan } from './plan'
import { drawShaded } from './shaded'
import { bandLevels, type SurfaceShapes } from './shapes'
import type { FineSource } from './surface'

/** Classes from the lowest, or a tint; then lines; then what is doubtful. */
export function drawSurface(
  plan: SurfacePlan,
  { look: settings, ownGround, fine }: { look: SurfaceLook; ownGround: boolean; fine: FineSource | null },
  context: DrawContext,
  shapes: SurfaceShapes,
): Node[] {
  const { bands, lines, doubtful, tint, peaks } = shapes
  const { form } = settings
  const steps = form === 'shaded' ? stepColours(plan, settings) : plan.colours
  const names =
    form === 'shaded' ? steps.map((_, i) => `step ${i + 1}`) : plan.labels.map((l) => `class ${l}`)
  const strokes = form === 'bands' ? settings.pencil : null
  const traced = (fine && tracedFiner(plan, settings, { fine, shapes, context })) ?? {
    bandOf: bands && outlinesOf(bands, context),
    paper: onPaper(lines, plan.levels, context),
  }
  const { bandOf, paper } = traced
  const filled = bandOf ? areasOf(bandOf, { paints: steps.map(solid), names, pencil: strokes }, context) : []
  const tinted = tint ? tintNodes(tint, plan, { settings, fine }, context) : []
  const drawn = form === 'shaded' ? drawShaded(paper, settings) : drawIsolines(plan, settings, paper, context)
  const veil =
    doubtful && settings.uncertain
      ? areasOf(
          outlinesOf(doubtful, context),
          { paints: [unreliablePaint(settings.uncertain.show)], names: ['doubtful'], pencil: null },
          context,
        )
      : []
  const wrapped = drawn.length ? [group('isolines', drawn)] : []
  const masked = settings.mask ? context.datasetOf(settings.mask.datasetId) : null
  const ground = masked ?? (ownGround ? context.dataset : null)
  const marks = peaks && settings.peaks ? peakMarks(peaks, settings, context) : []
  return [...clipped([...tinted, ...filled, ...wrapped, ...veil], ground, context), ...marks]
}

/** A dot on each peak, ringed so that it is seen on any shade. */
function peakMarks(peaks: Dataset, { peaks: look, lines }: SurfaceLook, context: DrawContext): Node[] {
  const radius = (look?.markMm ?? 0) / 2
  if (!radius || !peaks.rowCount) return []
  const rows = Array.from({ length: peaks.rowCount }, (_, i) => i)
  const dots = paperPlaces(rows, { ...context, dataset: peaks }).map(({ x, y }) =>
    path(circle(x, y, radius), { fill: solid(lines.colour), strokes: [stroke('#ffffff', radius / 4)] }),
  )
  return [group('peaks', dots)]
}

/** A shade for each step between lit lines. */
export const stepColours = ({ levels }: Pick<SurfacePlan, 'levels'>, settings: SurfaceLook): string[] =>
  coloursFor(settings, levels.length + 1)

/** The outline of an area by its number; null where nothing of it is in view. */
type OutlineOf = (i: number) => Outline | null

/** What is drawn through finer cells than those of the surface; null where paper shows no more than these. */
function tracedFiner(
  plan: SurfacePlan,
  settings: SurfaceLook,
  { fine, shapes, context }: { fine: FineSource; shapes: SurfaceShapes; context: DrawContext },
): { bandOf: OutlineOf | null; paper: PaperLines[] } | null {
  const { bands, lines } = shapes
  const cells = bands || lines ? finerCells(fine, plan.cellM, context) : null
  const ends = cells && rangeOf(cells)
  if (!cells || !ends) return null
  // Finer cells reach farther down and up than their means.
  const min = plan.least === null ? Math.min(plan.min, ends.min) : plan.min
  const max = Math.max(plan.max, ends.max)
  const { breaks = [] } = plan.classification ?? {}
  // Steps between lit lines have the colours that they have all over the map.
  const levels =
    settings.form === 'shaded' ? plan.levels : levelsOf(settings, breaks, { min, max, least: plan.least })
  const areas = bands && bandsThrough(cells, bandLevels({ ...plan, min }, settings), context.toleranceMm)
  return {
    bandOf: areas && ((i) => (areas[i]?.length ? polygon(...areas[i]) : null)),
    paper: lines ? linesThrough(cells, levels, context) : [],
  }
}

function outlinesOf(
  geometry: NonNullable<SurfaceShapes['bands']>,
  { projection, to, window, toleranceMm }: DrawContext,
): OutlineOf {
  const projected = generalise(projectGeometry(geometry, projection), toleranceMm / to.mmPerMetre)
  return (i) => {
    if (projected.kind !== 'areas' || i >= featureCount(projected)) return null
    const { outline, kept } = featureOutline(projected, [i], to, window)
    return kept.length ? outline : null
  }
}

/** One path for each area, in the order of their numbers. */
function areasOf(
  outlineOf: OutlineOf,
  { paints, names, pencil }: { paints: Paint[]; names: string[]; pencil: Pencil | null },
  { to }: Pick<DrawContext, 'to'>,
): Node[] {
  return paints.flatMap((fill, i) => {
    const outline = outlineOf(i)
    if (!outline) return []
    if (!pencil || fill.type !== 'solid') return [group(names[i], [path(outline, { fill })])]
    const spacingMm = spacingFor(pencil, shareOfClass(i, paints.length))
    return [group(names[i], pencilled(outline, fill.colour, pencil, { origin: [to.dx, to.dy], spacingMm }))]
  })
}

/** Nothing outside of the areas that the surface is kept within. */
function clipped(
  nodes: Node[],
  ground: Dataset | null,
  { projection, to, window, toleranceMm }: DrawContext,
): Node[] {
  if (ground?.geometry.kind !== 'areas' || !nodes.length) return nodes
  const projected = generalise(projectGeometry(ground.geometry, projection), toleranceMm / to.mmPerMetre)
  const all = Array.from({ length: featureCount(projected) }, (_, f) => f)
  return [group('within the mask', nodes, { clip: featureOutline(projected, all, to, window).outline })]
}

/** The whole range of values as one smooth run of shades. */
function tintNodes(
  grid: Grid,
  { min, max, least, cellM }: SurfacePlan,
  { settings, fine }: { settings: SurfaceLook; fine: FineSource | null },
  context: DrawContext,
): Node[] {
  const plane = createProjection(grid.plane)
  const shades = Array.from({ length: 256 }, (_, i) => {
    const { r, g, b } = channels(shadeOf(settings, i / 255))
    return [r, g, b] as const
  })
  const shade = (value: number) => {
    if (!isShown(value, least)) return null
    const share = max > min ? (value - min) / (max - min) : 0
    return shades[Math.round(255 * Math.min(1, Math.max(0, share)))]
  }
  const finer = fine && finerTint(fine, { surfaceM: cellM, shade }, context)
  if (finer) return [finer]
  return paintCells(
    {
      edge: edgeOf(grid),
      place: (lon, lat) => plane.project(lon, lat),
      shade: (x, y) => shade(valueAt(grid, x, y)),
    },
    context,
  )
}

/** Places along the edge of a grid in degrees. */
function edgeOf({ plane, x0, y0, cell, columns, rows }: Grid): Float64Array {
  const projection = createProjection(plane)
  const places: number[] = []
  const steps = 40
  for (let i = 0; i <= steps; i++)
    for (const [u, v] of [
      [i / steps, 0],
      [i / steps, 1],
      [0, i / steps],
      [1, i / steps],
    ]) {
      const at = projection.invert(x0 + u * columns * cell, y0 + v * rows * cell)
      if (at) places.push(...at)
    }
  return Float64Array.from(places)
}
