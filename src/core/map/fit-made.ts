import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { createProjection } from '@/core/projection/projection'
import { drawnLayers } from './drawn'
import { planOf, shapesOf } from './layer-plan'
import type { MapSpec, MapView } from './spec'
import { fitView, leadingGeometries } from './view'

/** Whether a map has layers whose areas find places of their own, so that its ground does not tell where it lies. */
export const hasOwnPlaces = (map: MapSpec, datasets: Map<string, Prepared>): boolean =>
  drawnLayers(map, null, datasets).some(({ layer }) => kindOf(layer.symbology.kind).shapes?.rows)

/**
 * The view that shows a map whole with the shapes that its kinds made, where `fitMap` goes by the ground of their
 * areas. Shapes are made if they are not at hand.
 */
export function fitMade(
  map: MapSpec,
  datasets: Map<string, Prepared>,
  window: { width: number; height: number },
): MapView | null {
  const made = drawnLayers(map, null, datasets).flatMap(({ layer, prepared }) => {
    const { shapes } = kindOf(layer.symbology.kind)
    const rows = shapes?.rows?.(shapesOf(layer, prepared, planOf(layer, prepared), map.projection))
    return rows && rows.geometry.kind !== 'none' ? [rows.geometry] : []
  })
  const geometries = made.length ? made : leadingGeometries(map, datasets)
  return fitView(createProjection(map.projection), geometries, window)
}
