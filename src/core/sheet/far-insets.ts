import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import { farPartsOf, type Cluster } from '@/core/geo/far-parts'
import { coordsOf } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { drawnLayers } from '@/core/map/drawn'
import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import type { MapSpec } from '@/core/map/spec'
import { fitView, nextRoundScale, paperTransform } from '@/core/map/view'
import { kindOf } from '@/core/kinds/registry'
import { createProjection } from '@/core/projection/projection'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import { placeOver, roomIn, take } from './map-room'
import { freeName } from './free-name'
import type { PanelPart } from './panel-view'
import { PanelSettings } from './parts/panel/spec'
import { plainScaleBar } from './parts/scale-bar'
import { plainText } from './parts/text'
import type { PartBox } from './part'
import { makePart, type Part } from './registry'
import { inStyle } from './type-styles'

/** An inset is no smaller than this, and no larger than this share of its panel. */
const [leastMm, mostShare] = [18, 0.34]
/** Room around what an inset shows, and for its name, mm. */
const [marginMm, nameMm] = [2.5, 4]

/** The far parts of the areas that a map shows, with the data that they are of; null where there are none. */
export function farPartsOfMap(
  map: MapSpec,
  datasets: Map<string, Prepared>,
): { far: Cluster[]; prepared: Prepared } | null {
  const layers = drawnLayers(map, null, datasets)
  const leading = [...layers.filter(({ layer }) => kindOf(layer.symbology.kind).thematic), ...layers]
  for (const { prepared } of leading) {
    const { geometry } = prepared.dataset
    const found = geometry.kind === 'areas' ? farPartsOf(geometry) : null
    if (found) return { far: found.far, prepared }
  }
  return null
}

/**
 * Panels that show the far parts of a panel's map, in room that nothing of it takes, each with its name: at the scale
 * of the panel where that is not too large, else at a round one with a scale bar of its own. They follow the map as
 * the panel does; none where the map has no far parts.
 */
export function farInsets({
  panel,
  others,
  map,
  datasets,
  newId,
}: {
  panel: PanelPart
  /** What else stands on the page, and keeps its place and name. */
  others: readonly Part[]
  map: MapSpec
  datasets: Map<string, Prepared>
  newId: () => string
}): Part[] {
  const found = farPartsOfMap(map, datasets)
  if (!found) return []
  const { view } = panel.settings
  const room = roomIn(map, datasets, view, panel.box)
  for (const part of others) if (!part.hidden) take(room, part.box)
  const parts: Part[] = []
  for (const cluster of found.far) {
    const name = freeName([...others, ...parts], nameOf(cluster, found.prepared))
    const { size, denominator } = sizeFor(cluster, map, panel)
    const { box } = placeOver(room, size, cornersFor(cluster, map, panel))
    take(room, box)
    const inner = { width: box.width, height: box.height - nameMm }
    const fitted = fitView(createProjection(map.projection), [cluster.areas], inner)
    if (!fitted) continue
    const own = { centre: fitted.centre, scaleDenominator: denominator }
    const id = newId()
    parts.push(
      makePart(
        'panel',
        { id, name, box },
        PanelSettings.parse({
          mapId: map.id,
          view: own,
          hiddenLayers: panel.settings.hiddenLayers,
          frame: { colour: '#8a979c', widthPt: 0.5 },
        }),
      ),
      caption(newId(), name, box),
    )
    if (denominator !== view.scaleDenominator && scaleChange(map, own, box) <= mostScaleChange)
      parts.push(barIn(newId(), id, name, box))
  }
  return parts
}

/** The one feature that an inset shows, or the largest of several and how many more. */
function nameOf({ features }: Cluster, prepared: Prepared): string {
  const names = features.map((row) => rowName(prepared, row))
  if (names.length === 1) return names[0]
  return names.length === 2 ? names.join(' and ') : `${names[0]} and ${names.length - 1} more`
}

/** How large an inset is, and at which scale: the panel's own where that gives a size between least and most. */
function sizeFor(cluster: Cluster, map: MapSpec, { box, settings: { view } }: PanelPart) {
  const projection = createProjection(map.projection)
  const bounds = emptyBounds()
  takeIn(bounds, coordsOf(projectGeometry(cluster.areas, projection)))
  const { mmPerMetre } = paperTransform(projection, view, { ...box })
  const [wide, high] = [(bounds[2] - bounds[0]) * mmPerMetre, (bounds[3] - bounds[1]) * mmPerMetre]
  const most = {
    width: mostShare * box.width - 2 * marginMm,
    height: mostShare * box.height - 2 * marginMm - nameMm,
  }
  const over = Math.max(wide / most.width, high / most.height)
  const denominator = over > 1 ? roundUp(view.scaleDenominator * over) : view.scaleDenominator
  const share = view.scaleDenominator / denominator
  return {
    denominator,
    size: {
      width: Math.max(leastMm, wide * share + 2 * marginMm),
      height: Math.max(leastMm, high * share + 2 * marginMm + nameMm),
    },
  }
}

/** The next round scale that is not larger than one. */
function roundUp(denominator: number): number {
  const near = nextRoundScale(denominator)
  return near >= denominator ? near : nextRoundScale(denominator * 1.3)
}

/** The corners of a panel, those on the side where a far part lies first. */
function cornersFor(cluster: Cluster, map: MapSpec, { box, settings: { view } }: PanelPart) {
  const projection = createProjection(map.projection)
  const to = paperTransform(projection, view, { ...box })
  const bounds = emptyBounds()
  takeIn(bounds, coordsOf(projectGeometry(cluster.areas, projection)))
  const x = ((bounds[0] + bounds[2]) / 2) * to.mmPerMetre + to.dx
  const side = x < box.x + box.width / 2 ? 'left' : 'right'
  const other = side === 'left' ? 'right' : 'left'
  return [`bottom ${side}`, `bottom ${other}`, `top ${side}`, `top ${other}`] as const
}

const caption = (id: string, name: string, box: PartBox): Part =>
  makePart(
    'text',
    { id, name: `Name of ${name}`, box: { x: box.x + 1, y: box.y + 0.8, width: box.width - 2, height: 3.2 } },
    plainText({ text: name, style: inStyle('note', { sizePt: 7, named: null }) }),
  )

const barIn = (id: string, panelId: string, name: string, box: PartBox): Part =>
  makePart(
    'scale-bar',
    {
      id,
      name: `Scale bar of ${name}`,
      box: { x: box.x + 2, y: box.y + box.height - 6.5, width: Math.min(24, box.width / 2), height: 5 },
    },
    plainScaleBar({ panelId }),
  )
