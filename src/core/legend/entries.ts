import type { LegendEntry, LegendItem } from '@/core/kinds/kind'
import { kindOf } from '@/core/kinds/registry'
import { kindData, planOf } from '@/core/map/compose-map'
import type { MapSpec } from '@/core/map/spec'
import type { Prepared } from '@/core/data/prepare'

/** A line of a legend with the key under which its wording is kept, and the wording that follows the map. */
export type LegendLine = { key: string; text: string; proposed: string; item: LegendItem | null }

/**
 * The legend of a map: for each layer that enters it a heading (`item` null, left out where it is empty) and its
 * items, with the wording changes of `words` applied.
 */
export function legendLines(map: MapSpec, datasets: Map<string, Prepared>, words: Record<string, string>): LegendLine[] {
  return map.layers.flatMap((layer) => {
    const prepared = datasets.get(layer.datasetId)
    if (!prepared || !layer.visible || !layer.inLegend) return []
    const entry: LegendEntry = kindOf(layer.symbology.kind).legend(planOf(layer, prepared), layer.symbology.settings, kindData(prepared))
    const line = (key: string, proposed: string, item: LegendItem | null): LegendLine => ({ key: `${layer.id}/${key}`, text: words[`${layer.id}/${key}`] ?? proposed, proposed, item })
    const heading = entry.heading ? [line('heading', entry.heading, null)] : []
    return [...heading, ...entry.items.map((item) => line(item.key, item.label, item))]
  })
}
