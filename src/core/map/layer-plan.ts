import type { Dataset } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { drain, within, type Steps } from '@/core/grid/steps'
import type { Geometry } from '@/core/geo/geometry'
import type { Classes, Pointed } from '@/core/kinds/kind'
import { kindOf, symbologyOf } from '@/core/kinds/registry'
import { createMemory, numberOf } from '@/core/memory/memory'
import { bentProjection } from '@/core/projection/bend'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import type { Projection } from '@/core/projection/projection'
import { drawnLayers } from './drawn'
import { shownOf } from './shown'
import type { Layer, MapSpec, MapView } from './spec'

const rememberPlan = createMemory<Dataset, unknown>('plans', { maxBytes: 96 * 2 ** 20 })

/** All that the plan of a layer depends on, as text. */
export function planKey({ symbology }: Layer, prepared: Prepared): string {
  const others = kindOf(symbology.kind)
    .needs(symbology.settings)
    .map((id) => prepared.datasetOf(id))
  return JSON.stringify([
    numberOf(prepared.dataset),
    symbology,
    others.map((other) => other && numberOf(other)),
  ])
}

/** The plan of a layer, made once for the same rows and settings. */
export function planOf(layer: Layer, prepared: Prepared): unknown {
  const { kind, settings } = layer.symbology
  return rememberPlan(prepared.dataset, planKey(layer, prepared), () =>
    kindOf(kind).plan(settings, kindData(prepared)),
  )
}

const rememberShapes = createMemory<Dataset, unknown>('shapes that kinds make', { maxBytes: 128 * 2 ** 20 })

function shapesKey(
  { symbology: { kind, settings } }: Layer,
  prepared: Prepared,
  plane: ProjectionSpec,
): string {
  const { shapes, needs } = kindOf(kind)
  const others = needs(settings).map((id) => prepared.datasetOf(id))
  return JSON.stringify([
    kind,
    shapes?.key(settings),
    others.map((other) => other && numberOf(other)),
    ...(shapes?.onPaper ? [plane] : []),
  ])
}

/**
 * The geometry that a layer's kind makes of its own on a map in some projection, made once for the same rows and what
 * it depends on.
 */
export function shapesOf(layer: Layer, prepared: Prepared, plan: unknown, plane: ProjectionSpec): unknown {
  const { kind, settings } = layer.symbology
  const { shapes } = kindOf(kind)
  if (!shapes) return null
  return rememberShapes(prepared.dataset, shapesKey(layer, prepared, plane), () =>
    drain(shapes.make(plan, settings, kindData(prepared), plane)),
  )
}

/** What lies at a place in the geometry that a layer's kind made; null where there is nothing, or it is not at hand. */
export function pointedAt(
  layer: Layer,
  prepared: Prepared,
  place: [number, number],
  plane: ProjectionSpec,
): Pointed | null {
  const { kind, settings } = layer.symbology
  const { shapes } = kindOf(kind)
  if (!shapes?.at || !rememberShapes.has(prepared.dataset, shapesKey(layer, prepared, plane))) return null
  const plan = planOf(layer, prepared)
  return shapes.at(shapesOf(layer, prepared, plan, plane), place, {
    plan,
    settings,
    data: kindData(prepared),
  })
}

/** The geometry of a layer of which a feature is outlined when it is pointed at. */
export function outlinedOf(layer: Layer, prepared: Prepared, plane: ProjectionSpec): Geometry {
  const { shapes } = kindOf(layer.symbology.kind)
  const made = shapes?.outlined?.(shapesOf(layer, prepared, planOf(layer, prepared), plane))
  return made ?? prepared.dataset.geometry
}

/** What takes long before a layer can have a plan, in pieces; null where it is at hand. */
export function planSteps({ symbology: { kind, settings } }: Layer, prepared: Prepared): Steps<void> | null {
  return kindOf(kind).shapes?.ready?.(settings, kindData(prepared)) ?? null
}

/** What takes long before a layer can be drawn, in pieces; null where all is at hand. */
export function layerSteps(layer: Layer, prepared: Prepared, plane: ProjectionSpec): Steps<void> | null {
  const { kind, settings } = layer.symbology
  const { shapes } = kindOf(kind)
  if (!shapes) return null
  const key = shapesKey(layer, prepared, plane)
  if (rememberShapes.has(prepared.dataset, key)) return null
  const data = kindData(prepared)
  return (function* () {
    const before = planSteps(layer, prepared)
    if (before) yield* within(before, 0, 0.8)
    const made = yield* within(
      shapes.make(planOf(layer, prepared), settings, data, plane),
      before ? 0.8 : 0,
      1,
    )
    rememberShapes(prepared.dataset, key, () => made)
  })()
}

/** The layer that stretches a map for the others, seen or not; null where none does. */
export function stretching(
  { layers, stretchedBy }: Pick<MapSpec, 'layers' | 'stretchedBy'>,
  datasets: Map<string, Prepared>,
): { layer: Layer; prepared: Prepared } | null {
  const layer = stretchedBy === null ? undefined : layers.find(({ id }) => id === stretchedBy)
  const prepared = layer && kindOf(layer.symbology.kind).shapes?.bend ? shownOf(layer, datasets) : null
  return layer && prepared ? { layer, prepared } : null
}

/**
 * The projection of a map in some view as it is stretched for layers that follow a cartogram; the same as it is where
 * nothing is stretched.
 * @param straight that of the view
 */
export function stretchedProjection(
  map: Pick<MapSpec, 'layers' | 'stretchedBy' | 'projection'>,
  straight: Projection,
  datasets: Map<string, Prepared>,
): Projection {
  const by = stretching(map, datasets)
  if (!by) return straight
  const { layer, prepared } = by
  const shapes = shapesOf(layer, prepared, planOf(layer, prepared), map.projection)
  const bend = kindOf(layer.symbology.kind).shapes?.bend?.(shapes)
  const turnDeg = (straight.spec.turnDeg ?? 0) - (map.projection.turnDeg ?? 0)
  return bend ? bentProjection(straight, bend, turnDeg) : straight
}

/** Whether a layer lies in the plane as it is, having found its own places there. */
export const liesStraight = ({ symbology: { kind } }: Layer): boolean => kindOf(kind).shapes?.onPaper ?? false

/** The same of all layers of a map that are seen. */
export function mapSteps(
  map: MapSpec,
  view: MapView | null,
  datasets: Map<string, Prepared>,
): Steps<void> | null {
  const drawn = drawnLayers(map, view, datasets)
  const by = stretching(map, datasets)
  const needed = by && !drawn.some(({ layer }) => layer === by.layer) ? [...drawn, by] : drawn
  const steps = needed.flatMap(({ layer, prepared }) => layerSteps(layer, prepared, map.projection) ?? [])
  if (!steps.length) return null
  return (function* () {
    for (const [i, one] of steps.entries()) yield* within(one, i / steps.length, (i + 1) / steps.length)
  })()
}

/** A map for a first look: layers that take long are reckoned roughly; null where none knows a rougher way. */
export function roughMap(
  map: MapSpec,
  view: MapView | null,
  datasets: Map<string, Prepared>,
): MapSpec | null {
  const rough = new Map(
    drawnLayers(map, view, datasets).flatMap(({ layer, prepared }) => {
      const { kind, settings } = layer.symbology
      const roughly = kindOf(kind).shapes?.rough
      if (!roughly || !layerSteps(layer, prepared, map.projection)) return []
      return [[layer.id, symbologyOf(kind, roughly(settings, kindData(prepared)))]]
    }),
  )
  if (!rough.size) return null
  return {
    ...map,
    layers: map.layers.map((layer) => ({ ...layer, symbology: rough.get(layer.id) ?? layer.symbology })),
  }
}

/** Every dataset that a layer draws on, its own first. */
export const layerNeeds = ({ datasetId, symbology }: Layer): string[] => [
  datasetId,
  ...kindOf(symbology.kind).needs(symbology.settings),
]

/** The classes of a layer's field at `which`; null for kinds without classes. */
export const classesOf = (layer: Layer, prepared: Prepared, which = 0): Classes | null =>
  classesIn(planOf(layer, prepared), layer, prepared, which)

/** The same, of a plan that is at hand. */
export const classesIn = (plan: unknown, layer: Layer, prepared: Prepared, which: number): Classes | null =>
  kindOf(layer.symbology.kind).classification(plan, layer.symbology.settings, kindData(prepared), which)

/** The classes of all fields of a layer that have some. */
export const allClassesOf = (layer: Layer, prepared: Prepared): Classes[] =>
  kindOf(layer.symbology.kind)
    .classings(layer.symbology.settings)
    .flatMap((_, which) => classesOf(layer, prepared, which) ?? [])

export const kindData = (prepared: Prepared) => ({
  dataset: prepared.dataset,
  name: prepared.entry.name,
  fieldMeta: prepared.fieldMeta,
  datasetOf: prepared.datasetOf,
  datasetIds: prepared.datasetIds,
})
