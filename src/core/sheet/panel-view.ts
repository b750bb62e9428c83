import type { Prepared } from '@/core/data/prepare'
import { drawnLayers } from '@/core/map/drawn'
import { stretchedProjection } from '@/core/map/layer-plan'
import type { MapSpec, MapView } from '@/core/map/spec'
import { paperTransform, viewProjection } from '@/core/map/view'
import { createMemory, identity } from '@/core/memory/memory'
import type { Projection } from '@/core/projection/projection'
import type { PanelView } from './part'
import { mapOfVariant } from './parts/panel/variant'
import type { Part, Sheet } from './spec'

export type PanelPart = Extract<Part, { type: 'panel' }>

export const panelsOf = ({ parts }: Pick<Sheet, 'parts'>): PanelPart[] =>
  parts.filter((part) => part.type === 'panel')

/** The panel of a sheet with this id; where there is none, the first that is not hidden, or the first. */
export function panelPart(sheet: Pick<Sheet, 'parts'>, id: string | null): PanelPart | null {
  const panels = panelsOf(sheet)
  const asked = panels.find((part) => part.id === id)
  return asked ?? panels.find((part) => !part.hidden) ?? panels[0] ?? null
}

const rememberMaps = createMemory<MapSpec, MapSpec>('maps as panels show them', {
  maxBytes: 8 * 2 ** 20,
})

/**
 * The map that a panel shows: as it is now, or as it was when the panel was frozen, without the layers that the
 * panel hides, in a projection of the panel's own where it has one. The very same object for the same map and
 * layers. Null for a panel without a map, and where its map is gone.
 */
export function mapOfPanel(
  { settings: { mapId, frozen, hiddenLayers, projection } }: PanelPart,
  maps: readonly MapSpec[],
): MapSpec | null {
  const map = frozen?.map ?? maps.find(({ id }) => id === mapId)
  if (!map) return null
  const hidden = hiddenLayers.filter((id) => map.layers.some((layer) => layer.id === id))
  // What is stretched is so in the plane of its map.
  const own = map.stretchedBy === null ? projection : null
  if (!hidden.length && !own) return map
  return rememberMaps(map, identity([JSON.stringify(own), ...hidden]), () => ({
    ...map,
    projection: own ?? map.projection,
    layers: map.layers.filter(({ id }) => !hidden.includes(id)),
  }))
}

/** The view of a panel; scale, place and turn may be those of others. Panels that go by each other keep their own. */
export function viewOfPanel(part: PanelPart, sheet: Pick<Sheet, 'parts'>): MapView {
  const from = (which: 'sameScaleAs' | 'samePlaceAs'): MapView => {
    const seen = new Set<string>()
    let one = part
    while (!seen.has(one.id)) {
      seen.add(one.id)
      const next = one.settings[which]
      const other = next === null ? undefined : panelsOf(sheet).find(({ id }) => id === next)
      if (!other) return one.settings.view
      one = other
    }
    return part.settings.view
  }
  const { sameScaleAs, samePlaceAs, view } = part.settings
  if (sameScaleAs === null && samePlaceAs === null) return view
  const { scaleDenominator } = from('sameScaleAs')
  const { centre, turnDeg } = from('samePlaceAs')
  return { centre, scaleDenominator, ...(turnDeg !== undefined && { turnDeg }) }
}

const rememberViews = createMemory<object, MapView>('views of panels', { maxBytes: 2 ** 20 })

/** What a panel shows; null where it has no map. */
export function panelView(
  part: PanelPart,
  sheet: Pick<Sheet, 'parts'>,
  {
    maps,
    datasets,
    stretch = (map, straight) => stretchedProjection(map, straight, datasets),
  }: {
    maps: readonly MapSpec[]
    datasets: Map<string, Prepared>
    /** How a map is stretched, for those who may not wait until its cartogram is made. */
    stretch?: (map: MapSpec, straight: Projection) => Projection
  },
): PanelView | null {
  const whole = mapOfPanel(part, maps)
  if (!whole) return null
  const map = mapOfVariant(whole, part.settings.variant, datasets)
  const { id, name, box, rotationDeg, settings } = part
  const made = viewOfPanel(part, sheet)
  // The very same object for the same view, so that what leans on it is not made again.
  const view =
    made === settings.view ? made : rememberViews(map, identity(Object.entries(made).flat(2)), () => made)
  const projection = viewProjection(map, view)
  let lain: Projection | null = null
  return {
    id,
    name,
    map,
    view,
    projection,
    lie: () => (lain ??= stretch(map, projection)),
    to: paperTransform(projection, view, box),
    window: box,
    frame: { box, rotationDeg },
    round: settings.shape.by === 'ellipse',
    layers: drawnLayers(map, view, datasets),
  }
}
