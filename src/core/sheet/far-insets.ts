import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import { extentOf } from '@/core/geo/extent'
import { farPartsOf, type Cluster } from '@/core/geo/far-parts'
import { coordsOf } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { drawnLayers } from '@/core/map/drawn'
import { hasOwnPlaces } from '@/core/map/fit-made'
import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import type { MapSpec, MapView } from '@/core/map/spec'
import { fitView, movedView, nextRoundScale, paperTransform, viewProjection } from '@/core/map/view'
import { kindOf } from '@/core/kinds/registry'
import { planeAbout } from '@/core/projection/adviser'
import type { ProjectionSpec } from '@/core/projection/catalogue'
import { createProjection } from '@/core/projection/projection'
import { emptyBounds, takeIn } from '@/core/scene/bounds'
import { placeOver, take, type Corner, type Room } from './map-room'
import { freeName } from './free-name'
import type { PanelPart } from './panel-view'
import { PanelSettings } from './parts/panel/spec'
import { plainScaleBar } from './parts/scale-bar'
import { plainText } from './parts/text'
import type { PartBox } from './part'
import { makePart, type Part } from './registry'
import { inStyle } from './type-styles'

/** An inset is no smaller than this, mm. */
const leastMm = 18
/** Shares of the panel that an inset may take, tried one after the other until there is room. */
const shares = [0.34, 0.27, 0.21, 0.16, 0.12]
/** Room around what an inset shows, for its name above it, and for a scale bar within it, mm. */
const [marginMm, nameMm, barMm] = [2, 4.5, 6]
/** An inset may lie over so little of the map. */
export const mostTaken = 0.005
/** A letter of a name is about so wide, and a name gets no more than this, mm. */
const [letterMm, mostNameMm] = [1.25, 48]

/**
 * The far parts of the areas that a map shows, with the data that they are of; null where there are none, and where
 * areas find places of their own.
 */
export function farPartsOfMap(
  map: MapSpec,
  datasets: Map<string, Prepared>,
): { far: Cluster[]; prepared: Prepared } | null {
  if (hasOwnPlaces(map, datasets)) return null
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
 * Panels that show the far parts of a panel's map, in room that nothing of it takes, each with its name above it: at
 * the scale of the panel where that leaves room, else at a round one with a scale bar of its own, and in a plane about
 * the part, which stands upright so. They follow the map as the panel does; none where the map has no far parts.
 */
export function farInsets({
  panel,
  others,
  map,
  datasets,
  newId,
  room,
}: {
  panel: PanelPart
  /** What else stands on the page, and keeps its name. */
  others: readonly Part[]
  map: MapSpec
  datasets: Map<string, Prepared>
  newId: () => string
  /** The part of the page that they may lie in, with what is taken of it; they take their places in it. */
  room: Room
}): { parts: Part[]; taken: number } {
  const found = farPartsOfMap(map, datasets)
  if (!found) return { parts: [], taken: 0 }
  const parts: Part[] = []
  let taken = 0
  for (const cluster of found.far) {
    const name = freeName([...others, ...parts], nameOf(cluster, found.prepared))
    const inset = placed(cluster, { name, map, panel, room })
    if (!inset) continue
    taken = Math.max(taken, inset.taken)
    take(room, inset.slot)
    const { box, view, projection } = inset
    const id = newId()
    parts.push(
      makePart(
        'panel',
        { id, name, box },
        PanelSettings.parse({
          mapId: map.id,
          view,
          projection,
          hiddenLayers: panel.settings.hiddenLayers,
          frame: { colour: '#8a979c', widthPt: 0.5 },
        }),
      ),
      caption(newId(), name, { ...inset.slot, height: nameMm }),
    )
    if (inset.hasBar) parts.push(barIn(newId(), id, name, box))
  }
  return { parts, taken }
}

/** The one feature that an inset shows, or the first of several and how many more. */
function nameOf({ features }: Cluster, prepared: Prepared): string {
  const [first, ...more] = features.map((row) => rowName(prepared, row))
  return more.length ? `${first} and ${more.length} more` : first
}

type Inset = {
  box: PartBox
  /** The box with what stands above it. */
  slot: PartBox
  view: MapView
  projection: ProjectionSpec | null
  hasBar: boolean
  /** How much of the slot lies over something, as a share of it. */
  taken: number
}

/** The largest inset of a cluster that finds room; where none does, the one that lies over least. */
function placed(
  cluster: Cluster,
  { name, map, panel, room }: { name: string; map: MapSpec; panel: PanelPart; room: Room },
): Inset | null {
  const extent = extentOf([cluster.areas])
  if (!extent) return null
  const middle = [(extent[0] + extent[2]) / 2, (extent[1] + extent[3]) / 2] as const
  // What is stretched is so in the plane of its map.
  const own = map.stretchedBy === null ? planeAbout(map.projection, middle) : null
  const projection = createProjection(own ?? map.projection)
  const fitted = fitView(projection, [cluster.areas], { width: 100, height: 100 })
  if (!fitted) return null
  const bounds = emptyBounds()
  takeIn(bounds, coordsOf(projectGeometry(cluster.areas, projection)))
  const corners = cornersFor(cluster, map, panel)
  let best: Inset | null = null
  for (const share of shares) {
    const { width, height, view, hasBar } = sizeAt(share)
    const slot = {
      width: Math.max(width, Math.min(mostNameMm, letterMm * name.length + 2)),
      height: height + nameMm,
    }
    const place = placeOver(room, slot, corners)
    const box = { x: place.box.x, y: place.box.y + nameMm, width, height }
    const inset = { box, slot: place.box, view, projection: own, hasBar, taken: place.taken }
    if (!best || inset.taken < best.taken) best = inset
    if (inset.taken <= mostTaken) break
  }
  return best

  /** How large the inset is where it may take a share of the panel: at the panel's scale, or at a round one. */
  function sizeAt(share: number) {
    const { scaleDenominator: same } = panel.settings.view
    const [wide, high] = sizeOn(same)
    const most = { width: share * panel.box.width, height: share * panel.box.height }
    const over = Math.max(
      wide / Math.max(leastMm, most.width - 2 * marginMm),
      high / Math.max(leastMm, most.height - 2 * marginMm - nameMm),
    )
    const scaleDenominator = over > 1 ? roundUp(same * over) : same
    const [ownWide, ownHigh] = sizeOn(scaleDenominator)
    const plain = {
      width: Math.max(leastMm, ownWide + 2 * marginMm),
      height: Math.max(leastMm, ownHigh + 2 * marginMm),
    }
    const centred = { centre: (fitted as MapView).centre, scaleDenominator }
    const inMap = { ...map, projection: own ?? map.projection }
    const hasBar = scaleDenominator !== same && scaleChange(inMap, centred, plain) <= mostScaleChange
    return {
      ...plain,
      height: plain.height + (hasBar ? barMm : 0),
      // The shape stands in what the bar leaves.
      view: hasBar
        ? { ...movedView(projection, centred, [0, -barMm / 2]), scaleDenominator }
        : { ...centred },
      hasBar,
    }
  }

  /** The breadth and height of the cluster on paper, mm. */
  function sizeOn(scaleDenominator: number): [number, number] {
    const view = { centre: (fitted as MapView).centre, scaleDenominator }
    const { mmPerMetre } = paperTransform(projection, view, { x: 0, y: 0, width: 1, height: 1 })
    return [(bounds[2] - bounds[0]) * mmPerMetre, (bounds[3] - bounds[1]) * mmPerMetre]
  }
}

/** The next round scale that is not larger than one. */
function roundUp(denominator: number): number {
  const near = nextRoundScale(denominator)
  return near >= denominator ? near : nextRoundScale(denominator * 1.3)
}

/** The corners of a panel, those on the side where a far part lies first. */
function cornersFor(cluster: Cluster, map: MapSpec, { box, settings: { view } }: PanelPart): Corner[] {
  const projection = viewProjection(map, view)
  const to = paperTransform(projection, view, box)
  const bounds = emptyBounds()
  takeIn(bounds, coordsOf(projectGeometry(cluster.areas, projection)))
  const x = ((bounds[0] + bounds[2]) / 2) * to.mmPerMetre + to.dx
  const side = x < box.x + box.width / 2 ? 'left' : 'right'
  const other = side === 'left' ? 'right' : 'left'
  return [`bottom ${side}`, `bottom ${other}`, `top ${side}`, `top ${other}`]
}

const caption = (id: string, name: string, { x, y, width }: PartBox): Part =>
  makePart(
    'text',
    { id, name: `Name of ${name}`, box: { x, y: y + 0.6, width, height: 3.2 } },
    plainText({ text: name, style: inStyle('note', { sizePt: 7, named: null }) }),
  )

const barIn = (id: string, panelId: string, name: string, box: PartBox): Part =>
  makePart(
    'scale-bar',
    {
      id,
      name: `Scale bar of ${name}`,
      box: { x: box.x + 2, y: box.y + box.height - 6, width: Math.min(24, box.width - 4), height: 5 },
    },
    plainScaleBar({ panelId }),
  )
