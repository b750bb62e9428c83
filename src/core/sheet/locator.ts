import type { Prepared } from '@/core/data/prepare'
import type { MapSpec } from '@/core/map/spec'
import { overlaps } from '@/core/scene/bounds'
import { boundsOf, type Frame } from './frame'
import { freeName } from './free-name'
import type { PanelPart } from './panel-view'
import type { PartBox } from './part'
import { panelOf } from './parts/panel'
import { makePart } from './registry'
import type { Part, Sheet } from './spec'

/** How large a locator is, as a share of the shorter side of the panel that it explains, and at least, mm. */
const size = { share: 0.28, leastMm: 18 }
const marginMm = 3

/** The corner of a panel in which a box covers least of what lies there. */
function freestCorner(panel: PartBox, side: number, others: readonly Frame[]): PartBox {
  const [left, right] = [panel.x + marginMm, panel.x + panel.width - side - marginMm]
  const [top, foot] = [panel.y + marginMm, panel.y + panel.height - side - marginMm]
  const places: [number, number][] = [
    [right, top],
    [right, foot],
    [left, foot],
    [left, top],
  ]
  const corners = places.map(([x, y]) => ({ x, y, width: side, height: side }))
  const covered = (box: PartBox) => {
    const bounds = boundsOf({ box, rotationDeg: 0 })
    return others.filter((frame) => overlaps(bounds, boundsOf(frame))).length
  }
  return corners.reduce((best, one) => (covered(one) < covered(best) ? one : best))
}

type Given = {
  sheet: Sheet
  map: MapSpec
  datasets: Map<string, Prepared>
  id: string
  frameOf: (part: Part) => Frame
}

/**
 * A locator for a panel: round, with the whole of the map's data, and the panel's footprint in it, in the corner of the
 * panel that is free.
 */
export function locatorFor(panel: PanelPart, { sheet, map, datasets, id, frameOf }: Given): Part {
  const side = Math.max(size.leastMm, size.share * Math.min(panel.box.width, panel.box.height))
  const others = sheet.parts.filter((part) => part.id !== panel.id && !part.hidden && part.type !== 'shade')
  const box = freestCorner(
    panel.box,
    side,
    others.map((part) => frameOf(part)),
  )
  // Names would only clutter so small a map.
  const names = map.layers.filter(({ labels, symbology }) => labels !== null && symbology.kind === 'plain')
  return makePart(
    'panel',
    { id, name: freeName(sheet.parts, 'Locator'), box },
    {
      ...panelOf(map, datasets, box),
      mapId: panel.settings.mapId,
      hiddenLayers: names.map((layer) => layer.id),
      shape: { by: 'ellipse' },
      frame: { colour: '#4a4a4a', widthPt: 0.75, more: [] },
      footprints: [
        {
          panelId: panel.id,
          fill: '#9c1f5e',
          fillOpacity: 0.2,
          colour: '#9c1f5e',
          widthPt: 1,
          joined: false,
        },
      ],
    },
  )
}
