import { drawnLayers } from '@/core/map/drawn'
import type { MapSpec } from '@/core/map/spec'
import type { PanelPart } from '@/core/sheet/panel-view'
import type { Sheet } from '@/core/sheet/spec'

/** What lies on the far side of the divider: the same map without a layer, or another map. */
export type Against = { by: 'layer'; layerId: string } | { by: 'map'; mapId: string }

type Datasets = Parameters<typeof drawnLayers>[2]

/** What a map can be compared with: itself without each of the layers that are drawn, and the other maps. */
export function choices(
  map: MapSpec,
  maps: readonly MapSpec[],
  all: Datasets,
): { against: Against; label: string }[] {
  const drawn = drawnLayers(map, null, all).map(({ layer }) => layer)
  return [
    ...drawn.map(({ id, name }) => ({
      against: { by: 'layer' as const, layerId: id },
      label: `Without ${name}`,
    })),
    ...maps
      .filter(({ id }) => id !== map.id)
      .map(({ id, name }) => ({ against: { by: 'map' as const, mapId: id }, label: name })),
  ]
}

/** What the far side shows, in a few words; null where it is no longer there. */
export function againstWords(against: Against, map: MapSpec, maps: readonly MapSpec[]): string | null {
  if (against.by === 'map') return maps.find(({ id }) => id === against.mapId)?.name ?? null
  const layer = map.layers.find(({ id }) => id === against.layerId)
  return layer ? `without ${layer.name}` : null
}

/**
 * The map on the far side, in the projection of the one that it is compared with, so that places lie on each other;
 * null where what it goes by is no longer there.
 */
export function farMap(against: Against, map: MapSpec, maps: readonly MapSpec[]): MapSpec | null {
  if (against.by === 'map') {
    const other = maps.find(({ id }) => id === against.mapId)
    return other ? { ...other, projection: map.projection } : null
  }
  if (!map.layers.some(({ id }) => id === against.layerId)) return null
  return { ...map, layers: map.layers.filter(({ id }) => id !== against.layerId) }
}

/** A sheet on which a panel shows what lies on the far side; null where that is no longer there. */
export function farSheet(
  against: Against,
  sheet: Sheet,
  { panel, maps }: { panel: PanelPart; maps: readonly MapSpec[] },
): Sheet | null {
  const { settings } = panel
  const shown = settings.frozen?.map ?? maps.find(({ id }) => id === settings.mapId)
  if (!shown || againstWords(against, shown, maps) === null) return null
  const changed =
    against.by === 'map'
      ? { ...settings, frozen: null, mapId: against.mapId, hiddenLayers: [] }
      : { ...settings, hiddenLayers: [...settings.hiddenLayers, against.layerId] }
  return {
    ...sheet,
    parts: sheet.parts.map((part) =>
      part.id === panel.id ? ({ ...part, settings: changed } as PanelPart) : part,
    ),
  }
}
