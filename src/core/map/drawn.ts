import type { Prepared } from '@/core/data/prepare'
import { shownOf } from './shown'
import type { Layer, MapSpec, MapView } from './spec'

/** A layer that is seen, with the rows that its filter leaves. */
export type DrawnLayer = { layer: Layer; prepared: Prepared }

/**
 * Whether a layer is switched on: it and its group are not hidden, and the scale lies in its range. Without a
 * view every scale counts as in range.
 */
export function isSwitchedOn(
  layer: Layer,
  { groups }: Pick<MapSpec, 'groups'>,
  view: MapView | null,
): boolean {
  const hidden = groups.some(({ id, visible }) => id === layer.groupId && !visible)
  if (!layer.visible || hidden) return false
  const { closest, farthest } = layer.scales
  return !view || (view.scaleDenominator >= (closest ?? 0) && view.scaleDenominator <= (farthest ?? Infinity))
}

/**
 * The layers that are seen in a view, from the top of the stack down. Nothing else decides what is seen:
 * drawing, labels, legends, checks, credits and what lies under the pointer all ask here. Left out are layers
 * that are hidden or lie in a hidden group, those whose range of scales the view is out of, those whose
 * dataset is not there, and those of which the filter leaves no row. Without a view, as before the first
 * fitting, all scales are in range.
 */
export function drawnLayers(
  map: Pick<MapSpec, 'layers' | 'groups'>,
  view: MapView | null,
  datasets: Map<string, Prepared>,
): DrawnLayer[] {
  return map.layers.flatMap((layer) => {
    const prepared = isSwitchedOn(layer, map, view) ? shownOf(layer, datasets) : null
    const filteredAway = layer.filter.trim() !== '' && prepared?.dataset.rowCount === 0
    return prepared && !filteredAway ? [{ layer, prepared }] : []
  })
}
