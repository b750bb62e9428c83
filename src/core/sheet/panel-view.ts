import type { Prepared } from '@/core/data/prepare'
import { drawnLayers } from '@/core/map/drawn'
import type { MapSpec } from '@/core/map/spec'
import { paperTransform } from '@/core/map/view'
import { createProjection } from '@/core/projection/projection'
import type { PanelView } from './part'
import type { Part, Sheet } from './spec'

export type PanelPart = Extract<Part, { type: 'panel' }>

/** The panel of a sheet with this id; where there is none, the first that is not hidden, or the first. */
export function panelPart(sheet: Sheet, id: string | null): PanelPart | null {
  const panels = sheet.parts.filter((part) => part.type === 'panel')
  const asked = panels.find((part) => part.id === id)
  return asked ?? panels.find((part) => !part.hidden) ?? panels[0] ?? null
}

/** What a panel shows; null where its map is gone. */
export function panelView(
  { id, name, box, settings }: PanelPart,
  maps: MapSpec[],
  datasets: Map<string, Prepared>,
): PanelView | null {
  const map = maps.find((one) => one.id === settings.mapId)
  if (!map) return null
  const { view } = settings
  const projection = createProjection(map.projection)
  return {
    id,
    name,
    map,
    view,
    projection,
    to: paperTransform(projection, view, box),
    window: box,
    layers: drawnLayers(map, view, datasets),
  }
}
