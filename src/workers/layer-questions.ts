import type { MethodId } from '@/core/classify/classify'
import { type Prepared } from '@/core/data/prepare'
import { generalise } from '@/core/geo/generalise'
import { featureOutline } from '@/core/geo/outlines'
import { projectGeometry } from '@/core/geo/projected'
import { shrinking } from '@/core/kinds/marks/overlap'
import { missesOf, variogramView, type VariogramView } from '@/core/kinds/interpolated/judge'
import type { InterpolatedSettings } from '@/core/kinds/interpolated/spec'
import { heightsInView } from '@/core/kinds/relief/in-view'
import type { KindData, Pointed } from '@/core/kinds/kind'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { createProjection, type Bend } from '@/core/projection/projection'
import { kindOf } from '@/core/kinds/registry'
import {
  kindData,
  layerSteps,
  liesStraight,
  mapSteps,
  outlinedOf,
  planOf,
  planSteps,
  pointedAt,
  shapesOf,
  stretchedProjection,
  stretching,
} from '@/core/map/layer-plan'
import { fitMade } from '@/core/map/fit-made'
import { paperTransform, viewProjection } from '@/core/map/view'
import { trace } from '@/core/scene/outline'
import { shownOf } from '@/core/map/shown'
import type { Layer, MapSpec, MapView } from '@/core/map/spec'
import { judge, takeWay, wayOf, waysOf, type Judgement, type Way } from '@/core/map/ways'
import { mmPerPx } from '@/core/scene/units'
import { inPieces } from './pieces'

/** What is to be said of the geometry that a kind made; both empty for nothing. */
export type ShapesSaid = { remark: string; figures: string[] }

/**
 * What is asked of one layer: its plan and classes, what lies under the pointer, and what only its kind knows.
 * `datasets` are those at hand when a question comes.
 */
export function layerQuestions(datasets: () => Map<string, Prepared>) {
  /** The outline of one feature in a window of CSS pixels, as SVG path data. */
  function outlineOf(
    map: MapSpec,
    view: MapView,
    {
      layerId,
      feature,
      widthPx,
      heightPx,
    }: { layerId: string; feature: number; widthPx: number; heightPx: number },
  ): string {
    const layer = map.layers.find(({ id }) => id === layerId)
    const geometry = layer && onLayer(layer, (prepared) => outlinedOf(layer, prepared, map.projection))
    if (!geometry || (geometry.kind !== 'areas' && geometry.kind !== 'lines')) return ''
    const window = { x: 0, y: 0, width: widthPx * mmPerPx, height: heightPx * mmPerPx }
    const projection = viewProjection(map, view)
    const to = paperTransform(projection, view, window)
    const own = liesStraight(layer) ? projection : stretchedProjection(map, projection, datasets())
    const projected = generalise(projectGeometry(geometry, own), (0.5 * mmPerPx) / to.mmPerMetre)
    const parts: string[] = []
    const px = (mm: number) => (mm / mmPerPx).toFixed(1)
    trace(featureOutline(projected, [feature], to, window).outline, {
      moveTo: (x, y) => parts.push(`M${px(x)} ${px(y)}`),
      lineTo: (x, y) => parts.push(`L${px(x)} ${px(y)}`),
      bezierCurveTo: () => undefined,
      closePath: () => parts.push('Z'),
    })
    return parts.join('')
  }

  /** The lowest and the highest land of a relief in a window of CSS pixels; null where there is none. */
  function heightsOnMap(
    map: MapSpec,
    layerId: string,
    view: MapView,
    { widthPx, heightPx }: { widthPx: number; heightPx: number },
  ): { low: number; high: number } | null {
    const layer = map.layers.find(({ id }) => id === layerId)
    const raster = layer && onLayer(layer, ({ dataset }) => dataset.raster)
    if (!raster || layer.symbology.kind !== 'relief') return null
    const window = { x: 0, y: 0, width: widthPx * mmPerPx, height: heightPx * mmPerPx }
    const projection = viewProjection(map, view)
    const to = paperTransform(projection, view, window)
    return heightsInView(raster, layer.symbology.settings.band, { projection, to, window })
  }

  const onLayer = <T>(layer: Layer, of: (prepared: Prepared) => T): T | null => {
    const prepared = shownOf(layer, datasets())
    return prepared ? of(prepared) : null
  }
  /** For each layer, which wish for its plan is the latest. */
  const planWishes = new Map<string, number>()

  /**
   * The plan of a layer as it is drawn, with the number of rows that it is for; null where another one of the same
   * layer was asked for meanwhile.
   */
  async function planOfLayer(layer: Layer): Promise<{ plan: unknown; rowCount: number } | null> {
    const mine = (planWishes.get(layer.id) ?? 0) + 1
    planWishes.set(layer.id, mine)
    const ready = await inPieces(() => onLayer(layer, (prepared) => planSteps(layer, prepared)), {
      isDropped: () => planWishes.get(layer.id) !== mine,
    })
    if (!ready) return null
    return onLayer(layer, (prepared) => ({
      plan: planOf(layer, prepared),
      rowCount: prepared.dataset.rowCount,
    }))
  }

  /** What lies at a place in what a layer's kind made. */
  const pointedOn = (layer: Layer, place: [number, number], plane: ProjectionSpec): Pointed | null =>
    onLayer(layer, (prepared) => pointedAt(layer, prepared, place, plane))

  /** The place that is seen at another one on a map that is stretched; null where there is none. */
  function groundUnder(map: MapSpec, place: [number, number]): [number, number] | null {
    const straight = createProjection(map.projection)
    const bent = stretchedProjection(map, straight, datasets())
    return bent === straight ? place : bent.invert(...straight.project(...place))
  }

  /** How a map is stretched for layers that follow a cartogram; null for one that is not. */
  async function bendOn(map: MapSpec): Promise<Bend | null> {
    const by = stretching(map, datasets())
    if (!by) return null
    const { layer, prepared } = by
    await inPieces(() => layerSteps(layer, prepared, map.projection), { isDropped: () => false })
    const shapes = shapesOf(layer, prepared, planOf(layer, prepared), map.projection)
    return kindOf(layer.symbology.kind).shapes?.bend?.(shapes) ?? null
  }

  /** The view that shows a map whole with the shapes that its kinds make, in a window of mm. */
  async function fitShapes(map: MapSpec, window: { width: number; height: number }): Promise<MapView | null> {
    await inPieces(() => mapSteps(map, null, datasets()), { isDropped: () => false })
    return fitMade(map, datasets(), window)
  }

  /** For each layer, which wish for what is said of its shapes is the latest. */
  const saidWishes = new Map<string, number>()

  /**
   * What is to be said of the geometry that a layer's kind made: what was lost, and how good it is. With `latest`
   * nothing is made for a wish that another one of the same layer has followed meanwhile.
   */
  async function shapesSaid(layer: Layer, plane: ProjectionSpec, latest: boolean): Promise<ShapesSaid> {
    const nothing: ShapesSaid = { remark: '', figures: [] }
    const mine = (saidWishes.get(layer.id) ?? 0) + 1
    if (latest) saidWishes.set(layer.id, mine)
    const made = await inPieces(() => onLayer(layer, (prepared) => layerSteps(layer, prepared, plane)), {
      isDropped: () => latest && saidWishes.get(layer.id) !== mine,
    })
    if (!made) return nothing
    return (
      onLayer(layer, (prepared) => {
        const { shapes } = kindOf(layer.symbology.kind)
        if (!shapes) return nothing
        const made = shapesOf(layer, prepared, planOf(layer, prepared), plane)
        return { remark: shapes.remark(made), figures: shapes.figures?.(made) ?? [] }
      }) ?? nothing
    )
  }

  /** Of a layer that is a surface between points: its variogram, and how far each method misses. */
  const interpolatedOn = <T>(
    layer: Layer,
    of: (settings: InterpolatedSettings, data: KindData) => T,
  ): T | null => {
    const { symbology } = layer
    if (symbology.kind !== 'interpolated') return null
    return onLayer(layer, (prepared) => of(symbology.settings as InterpolatedSettings, kindData(prepared)))
  }
  const variogramOfLayer = (layer: Layer): VariogramView | null => interpolatedOn(layer, variogramView)
  const missesOfLayer = (layer: Layer): ReturnType<typeof missesOf> => interpolatedOn(layer, missesOf) ?? []

  /** Tries a method out beside the drawing and keeps its classes, for the plan that will ask for them. */
  function readyMethod(layer: Layer, which: number, id: MethodId): void {
    onLayer(layer, (prepared) => {
      const way = wayOf(layer, prepared, which, id)
      if (way) takeWay(layer, prepared, which, way)
    })
  }

  /** Every method's classes; whichever is chosen then need not be reckoned again. */
  const waysOfLayer = (layer: Layer, which: number): Way[] =>
    onLayer(layer, (prepared) => {
      const ways = waysOf(layer, prepared, which)
      for (const way of ways) takeWay(layer, prepared, which, way)
      return ways
    }) ?? []
  const judgeLayer = (layer: Layer, which: number): Judgement | null =>
    onLayer(layer, (prepared) => judge(layer, prepared, which))

  let overlapKnown: { key: string; measured: { share: number; factor: number } } | null = null

  /**
   * How much of a layer's symbols lies under others, and by how much smaller they were to be for `limit` of it;
   * null for layers without symbols. Drawing goes on in between; symbols that lie as before are not looked at
   * again.
   */
  async function overlap(
    map: MapSpec,
    view: MapView,
    layerId: string,
    limit: number,
  ): Promise<{ share: number; factor: number } | null> {
    const layer = map.layers.find(({ id }) => id === layerId)
    const prepared = layer && shownOf(layer, datasets())
    if (!prepared) return null
    const projection = viewProjection(map, view)
    const to = paperTransform(projection, view, { x: 0, y: 0, width: 100, height: 100 })
    const marks = kindOf(layer.symbology.kind).marks(planOf(layer, prepared), layer.symbology.settings, {
      dataset: prepared.dataset,
      projection,
      to,
    })
    if (!marks.length) return null
    const discs = marks.map(({ x, y, left, up, right, down }) => ({
      x: x - marks[0].x,
      y: y - marks[0].y,
      r: Math.max(left + right, up + down) / 2,
    }))
    const key = `${limit} ${discs.length} ${discs.reduce((sum, { x, y, r }, i) => (sum * 31 + x + 3 * y + 7 * r * (i + 1)) % 1e9, 7)}`
    if (overlapKnown?.key === key) return overlapKnown.measured
    const steps = shrinking(discs, limit)
    for (let step = steps.next(); ; step = steps.next()) {
      if (step.done) {
        overlapKnown = { key, measured: step.value }
        return step.value
      }
      await new Promise((resolve) => setTimeout(resolve, 0))
    }
  }

  return {
    overlap,
    waysOf: waysOfLayer,
    planOf: planOfLayer,
    readyMethod,
    judge: judgeLayer,
    shapesSaid,
    pointedOn,
    groundUnder,
    fitShapes,
    bendOn,
    variogramOf: variogramOfLayer,
    missesOf: missesOfLayer,
    outlineOf,
    heightsInView: heightsOnMap,
  }
}
