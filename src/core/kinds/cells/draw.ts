import { geometryFromShapes } from '@/core/geo/shapes'
import { generalise } from '@/core/geo/generalise'
import { isNear, toPaper } from '@/core/geo/paper'
import { projectGeometry } from '@/core/geo/projected'
import { cellPolygons, middleOfCell } from '@/core/grid/cells'
import { createMemory } from '@/core/memory/memory'
import { createProjection } from '@/core/projection/projection'
import { polygon } from '@/core/scene/outline'
import { solid, stroke } from '@/core/scene/paint'
import { group, path, type Node } from '@/core/scene/scene'
import { pointsToMm } from '@/core/scene/units'
import type { Geometry } from '@/core/geo/geometry'
import { darker } from '../area-drawing'
import { drawChoropleth } from '../choropleth/draw'
import type { DrawContext } from '../kind'
import type { Gathered } from './gather'
import { asChoropleth, type CellPlan } from './plan'
import type { CellSettings } from './spec'

const rememberSized = createMemory<Gathered, Geometry>('sized cells', { maxBytes: 32 * 2 ** 20 })

export function drawCells(
  plan: CellPlan,
  settings: CellSettings,
  context: DrawContext,
  found: Gathered | null,
): Node[] {
  if (!found) return []
  if (settings.form === 'spikes') return drawSpikes(plan, settings, found, context)
  const geometry = settings.form === 'sized' ? sizedGeometry(plan, found) : found.dataset.geometry
  const projected = generalise(
    projectGeometry(geometry, context.projection),
    context.toleranceMm / context.to.mmPerMetre,
  )
  return drawChoropleth(plan, asChoropleth(settings), {
    ...context,
    dataset: { ...found.dataset, geometry },
    projected,
    featureName: (cell) => `cell ${found.cells[cell].join(', ')}`,
  })
}

/** Each cell as large as its value, the largest filling its place. */
function sizedGeometry({ values, largest }: CellPlan, found: Gathered): Geometry {
  return rememberSized(found, String(largest), () => {
    const scales = Float64Array.from(values, (value) => (value > 0 ? Math.sqrt(value / largest) : 0))
    const shapes = cellPolygons(found.tiling, found.cells, scales)
    return geometryFromShapes(
      shapes.map((shape, c) => (scales[c] > 0.01 ? shape : null)),
      true,
    )
  })
}

/** The height of a spike on paper. */
export const spikeMm = (
  value: number,
  { largest }: Pick<CellPlan, 'largest'>,
  { highestMm }: CellSettings,
): number => (largest > 0 && value > 0 ? (value / largest) * highestMm : 0)

/** A spike from the foot up, `wide` at its foot. */
export const spike = (x: number, y: number, wide: number, high: number) =>
  polygon([x - wide / 2, y, x, y - high, x + wide / 2, y])

/** Spikes on the middles of cells, those farther back first. */
function drawSpikes(
  plan: CellPlan,
  settings: CellSettings,
  { tiling, cells }: Gathered,
  { projection, to, window }: DrawContext,
): Node[] {
  const plane = createProjection(tiling.plane)
  const wide = Math.min(6, 0.5 * tiling.spacing * to.mmPerMetre)
  const feet = cells.flatMap((cell, c) => {
    const high = spikeMm(plan.values[c], plan, settings)
    const place = high > 0 ? plane.invert(...middleOfCell(tiling, cell)) : null
    if (!place) return []
    const [x, y] = toPaper(to, ...projection.project(place[0], place[1]))
    return isNear(window, x, y, settings.highestMm) ? [{ c, x, y, high }] : []
  })
  const widthMm = pointsToMm(settings.outline.widthPt)
  return feet
    .sort((a, b) => a.y - b.y || a.x - b.x)
    .map(({ c, x, y, high }) => {
      const at = plan.classOf[c]
      const colour = at >= 0 ? plan.colours[at] : settings.missing.colour
      return group(`cell ${cells[c].join(', ')}`, [
        path(spike(x, y, wide, high), {
          fill: solid(colour),
          strokes: widthMm > 0 ? [stroke(darker(colour), widthMm)] : [],
        }),
      ])
    })
}
