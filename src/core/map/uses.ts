import { stepNeeds } from '@/core/data/steps/registry'
import type { DatasetEntry } from '@/core/data/entry'
import { layerNeeds } from './layer-plan'
import type { Layer, MapSpec } from './spec'

/** Every dataset that some layers and land tints draw on, and `more`, through all the steps that are on. */
export function datasetsUsed(
  shown: readonly { map: Pick<MapSpec, 'land'>; layers: readonly Layer[] }[],
  entryOf: (id: string) => DatasetEntry | undefined,
  more: readonly string[] = [],
): Set<string> {
  const used = new Set<string>()
  const use = (id: string): void => {
    if (used.has(id)) return
    used.add(id)
    for (const step of entryOf(id)?.steps ?? []) if (step.on) stepNeeds(step).forEach(use)
  }
  more.forEach(use)
  for (const { map, layers } of shown) {
    if (map.land) use(map.land.datasetId)
    for (const layer of layers) layerNeeds(layer).forEach(use)
  }
  return used
}
