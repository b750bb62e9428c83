import { projectGeometry } from '@/core/geo/projected'
import { geometriesOf } from '@/core/data/dataset'
import { mainPartOf } from '@/core/geo/far-parts'
import { coordsOf, type Geometry } from '@/core/geo/geometry'
import { takeFeatures } from '@/core/geo/take-features'
import { geodesicMetres, groundPerProjected } from '@/core/projection/ground'
import { createProjection, type Projection } from '@/core/projection/projection'
import type { PaperTransform, PaperWindow } from '@/core/geo/paper'
import { toMetres } from '@/core/geo/paper'
import { emptyBounds, takeIn, isEmpty } from '@/core/scene/bounds'
import { drawnLayers, type DrawnLayer } from './drawn'
import { shownOf } from './shown'
import type { MapSpec, MapView } from './spec'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'

/** The projection of a map as a view shows it: turned with the view. */
export function viewProjection(
  { projection }: Pick<MapSpec, 'projection'>,
  { turnDeg = 0 }: MapView,
): Projection {
  if (!turnDeg) return createProjection(projection)
  const whole = (projection.turnDeg ?? 0) + turnDeg
  return createProjection({ ...projection, turnDeg: whole - 360 * Math.round(whole / 360) })
}

/**
 * From projected metres to paper for a view in a window. The scale is true on the ground at the window's
 * centre, measured sideways: a millimetre there is `scaleDenominator` millimetres of geodesic.
 */
export function paperTransform(projection: Projection, view: MapView, window: PaperWindow): PaperTransform {
  const mmPerMetre = (1000 * groundPerProjected(projection, view.centre)) / view.scaleDenominator
  const [x, y] = projection.project(...view.centre)
  return {
    mmPerMetre,
    dx: window.x + window.width / 2 - x * mmPerMetre,
    dy: window.y + window.height / 2 - y * mmPerMetre,
  }
}

/** The view that shows the same at the same size, moved on paper; the view itself where that leads off the globe. */
export function movedView(projection: Projection, view: MapView, [dxMm, dyMm]: [number, number]): MapView {
  const { mmPerMetre } = paperTransform(projection, view, { x: 0, y: 0, width: 0, height: 0 })
  const [x, y] = projection.project(...view.centre)
  const centre = projection.invert(x - dxMm / mmPerMetre, y - dyMm / mmPerMetre)
  if (!centre) return view
  const scaleDenominator = (1000 * groundPerProjected(projection, centre)) / mmPerMetre
  return { ...view, centre, scaleDenominator }
}

/** Longitude and latitude under a place on paper; null off the edge of the world. */
export function unproject(
  projection: Projection,
  to: PaperTransform,
  x: number,
  y: number,
): [number, number] | null {
  return projection.invert(...toMetres(to, x, y))
}

/**
 * Ground metres for each millimetre of paper at the window's centre, sideways, along the geodesic over
 * `spanMm`.
 */
export function groundMetresPerMm(projection: Projection, view: MapView, spanMm = 10): number {
  const window = { x: -spanMm / 2, y: 0, width: spanMm, height: 0 }
  const to = paperTransform(projection, view, window)
  const left = unproject(projection, to, -spanMm / 2, 0)
  const right = unproject(projection, to, spanMm / 2, 0)
  return left && right ? geodesicMetres(left, right) / spanMm : view.scaleDenominator / 1000
}

/** The view that shows geometries whole in a window, with a margin (share of the window on each side). */
export function fitView(
  projection: Projection,
  geometries: Geometry[],
  window: { width: number; height: number },
  margin = 0.04,
): MapView | null {
  const bounds = emptyBounds()
  for (const geometry of geometries) takeIn(bounds, coordsOf(projectGeometry(geometry, projection)))
  if (isEmpty(bounds)) return null
  const [x0, y0, x1, y1] = bounds
  const centre = projection.invert((x0 + x1) / 2, (y0 + y1) / 2)
  if (!centre) return null
  const inner = 1 - 2 * margin
  const mmPerMetre = Math.min(
    (window.width * inner) / Math.max(x1 - x0, 1000),
    (window.height * inner) / Math.max(y1 - y0, 1000),
  )
  return { centre, scaleDenominator: (1000 * groundPerProjected(projection, centre)) / mmPerMetre }
}

/**
 * The geometries that decide a map's first extent: those that its thematic layers show or draw on, or all of
 * them where there are none.
 */
export function leadingGeometries(map: MapSpec, datasets: Map<string, Prepared>): Geometry[] {
  const visible = drawnLayers(map, null, datasets).map((drawn) => ({
    thematic: kindOf(drawn.layer.symbology.kind).thematic,
    places: placesShown(drawn, datasets),
  }))
  const thematic = visible.filter((one) => one.thematic && one.places.length)
  return (thematic.length ? thematic : visible).flatMap(({ places }) => places)
}

/** Where a layer lies: its own shapes, or, for rows without any, those of the datasets that it draws on. */
export function placesShown({ layer, prepared }: DrawnLayer, datasets: Map<string, Prepared>): Geometry[] {
  const own = geometriesOf(prepared.dataset).filter(({ kind }) => kind !== 'none')
  return own.length
    ? own
    : kindOf(layer.symbology.kind)
        .needs(layer.symbology.settings)
        .flatMap((id) => geometriesOf(datasets.get(id)?.dataset))
}

/** The view that shows a map in a window; far parts of areas are left out. */
export const fitMap = (
  map: MapSpec,
  datasets: Map<string, Prepared>,
  window: { width: number; height: number },
  margin?: number,
): MapView | null =>
  fitView(
    createProjection(map.projection),
    leadingGeometries(map, datasets).map(mainGeometry),
    window,
    margin,
  )

/** The view that shows a map with all that its thematic layers reach to, far parts as well. */
export const fitWhole = (
  map: MapSpec,
  datasets: Map<string, Prepared>,
  window: { width: number; height: number },
  margin?: number,
): MapView | null =>
  fitView(createProjection(map.projection), leadingGeometries(map, datasets), window, margin)

/** A geometry without parts far from the main land, which insets show. */
export const mainGeometry = (geometry: Geometry): Geometry =>
  geometry.kind === 'areas' ? mainPartOf(geometry) : geometry

/** The nearest scale that people like to read: two digits, the second one 0 or 5. */
export function roundScale(denominator: number): number {
  const step = 10 ** Math.floor(Math.log10(denominator)) / 20
  return Math.max(1, Math.ceil(denominator / step - 1e-9) * step)
}

/** The numbers that scales of printed maps have, times a power of ten. */
const roundNumbers = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 7.5, 10]

/** The nearest scale of the printed page: 1, 1.5, 2, 2.5, 3, 4, 5, 6 or 7.5 times a power of ten. */
export function nextRoundScale(denominator: number): number {
  const power = 10 ** Math.floor(Math.log10(denominator))
  const far = (n: number) => Math.abs(Math.log((n * power) / denominator))
  return roundNumbers.reduce((best, n) => (far(n) < far(best) ? n : best)) * power
}

/**
 * The view that shows one layer whole, or one of its features by row, with the map turned as it is; null where nothing
 * of it is seen.
 */
export function fitLayer(
  map: MapSpec,
  layerId: string,
  {
    datasets,
    window,
    turnDeg,
    feature,
  }: {
    datasets: Map<string, Prepared>
    window: { width: number; height: number }
    turnDeg?: number
    feature?: number
  },
): MapView | null {
  const layer = map.layers.find(({ id }) => id === layerId)
  const shown = layer && shownOf(layer, datasets)
  if (!shown) return null
  const turn = { centre: map.projection.centre, scaleDenominator: 1, turnDeg }
  const whole = geometriesOf(shown.dataset)
  const geometries = feature === undefined ? whole : whole.map((one) => takeFeatures(one, [feature]))
  const fitted = fitView(viewProjection(map, turn), geometries, window)
  return fitted && { ...fitted, ...(turnDeg !== undefined && { turnDeg }) }
}
