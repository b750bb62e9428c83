import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import type { Layer, MapSpec } from '@/core/map/spec'
import { movedView, viewProjection } from '@/core/map/view'
import type { TextFont } from '@/core/scene/fonts'
import type { FontBook } from '@/core/scene/text'
import { effectiveBox, sheetContext, sheetFonts } from './compose-sheet'
import { farInsets, mostTaken } from './far-insets'
import { placeOver, roomIn, take, type Corner } from './map-room'
import type { PanelPart } from './panel-view'
import type { PartBox } from './part'
import { plainLegend } from './parts/legend'
import { panelOf } from './parts/panel'
import { plainScaleBar } from './parts/scale-bar'
import { makePart, type Part } from './registry'
import { makeSheet, type Sheet } from './spec'
import type { NamedTypeStyle } from './type-style'

/** A legend may lie over so little of the map. */
const mostUnderLegend = 0.02
/** Room between a legend and a map beside it, mm. */
const gutterMm = 6

/** What words are measured by: typefaces that are at hand, and the named styles of the folio. */
export type Lettering = { fonts: FontBook; typeStyles?: readonly NamedTypeStyle[] }

/**
 * A map on the part of a page that is left for it: its panel with legend, scale bar and insets. They lie over the
 * ground of the map where there is room; else the land is moved aside to make some; else the legend stands beside.
 */
export function mapOnPage(
  map: MapSpec,
  datasets: Map<string, Prepared>,
  { whole, newId, lettering }: { whole: PartBox; newId: () => string; lettering?: Lettering },
): Part[] {
  const size = legendSize(map, datasets, { whole, lettering })
  const given = { map, datasets, whole, size, newId }
  const land = besides(whole, size ?? { width: 30, height: 30 })
  for (const fitted of [whole, land]) {
    const { parts, fits } = laidOut(given, panelIn(given, fitted, whole))
    if (fits) return parts
  }
  return laidOut(given, panelIn(given, land, land)).parts
}

type Size = { width: number; height: number }
type Given = {
  map: MapSpec
  datasets: Map<string, Prepared>
  whole: PartBox
  /** How large the legend is; null for a map that needs none. */
  size: Size | null
  newId: () => string
}

/** A panel that fills a box, with its map fitted into a part of it. */
function panelIn({ map, datasets, newId }: Given, land: PartBox, box: PartBox): PanelPart {
  const settings = panelOf(map, datasets, land)
  const aside: [number, number] = [
    land.x + land.width / 2 - box.x - box.width / 2,
    land.y + land.height / 2 - box.y - box.height / 2,
  ]
  const { scaleDenominator } = settings.view
  const view = { ...movedView(viewProjection(map, settings.view), settings.view, aside), scaleDenominator }
  return makePart('panel', { id: newId(), name: 'Panel', box }, { ...settings, view }) as PanelPart
}

/** What explains a panel, in the room that its map leaves, and whether there was enough of it. */
function laidOut(
  { map, datasets, whole, size, newId }: Given,
  panel: PanelPart,
): { parts: Part[]; fits: boolean } {
  const { box } = panel
  const { view } = panel.settings
  const parts: Part[] = [panel]
  const room = roomIn(map, datasets, { view, panel: box, box: whole })
  let fits = true
  if (size) {
    const corners: Corner[] =
      size.height > 0.6 * whole.height || box.width < whole.width
        ? ['top left', 'bottom left', 'bottom right', 'top right']
        : ['bottom left', 'top left', 'bottom right', 'top right']
    const place = placeOver(room, size, corners)
    fits = place.taken <= mostUnderLegend
    take(room, place.box)
    parts.push(
      makePart('legend', { id: newId(), name: 'Legend', box: place.box }, plainLegend({ panelId: panel.id })),
    )
  }
  if (scaleChange(map, view, box) <= mostScaleChange) {
    const corners: Corner[] = ['bottom right', 'bottom left', 'top right']
    const bar = placeOver(room, { width: 40, height: 7 }, corners, box)
    take(room, bar.box)
    parts.push(
      makePart(
        'scale-bar',
        { id: newId(), name: 'Scale bar', box: bar.box },
        plainScaleBar({ panelId: panel.id }),
      ),
    )
  }
  const insets = farInsets({ panel, others: parts.slice(1), map, datasets, newId, room })
  return { parts: [...parts, ...insets.parts], fits: fits && insets.taken <= mostTaken }
}

/** What is left of a box beside a legend, or above one where it stands upright. */
const besides = (box: PartBox, size: Size): PartBox =>
  box.height > box.width
    ? { ...box, height: box.height - size.height - gutterMm }
    : { ...box, x: box.x + size.width + gutterMm, width: box.width - size.width - gutterMm }

/** How large the legend of a map will be, as it stands at first; null where no layer enters it. */
function legendSize(
  map: MapSpec,
  datasets: Map<string, Prepared>,
  { whole, lettering }: { whole: PartBox; lettering?: Lettering },
): Size | null {
  const explained = map.layers.filter(({ inLegend, visible }) => inLegend && visible)
  if (!explained.length) return null
  if (!lettering) return estimatedSize(explained)
  const sheet = legendTrial(map, panelOf(map, datasets, whole), whole)
  const legend = sheet.parts[1]
  const context = sheetContext({
    ...lettering,
    ...{ sheet, maps: [map], datasets, folioName: '', author: '', date: new Date(0) },
  })
  const { width, height } = effectiveBox(legend, context)
  return { width, height }
}

/** The typefaces that the legend of a map is measured with. */
export const legendFonts = (map: MapSpec, typeStyles: readonly NamedTypeStyle[]): TextFont[] => {
  const whole = { x: 0, y: 0, width: 1, height: 1 }
  return sheetFonts(legendTrial(map, panelOf(map, new Map(), whole), whole), [map], typeStyles)
}

/** A sheet with a panel and its legend and nothing else, on which the legend is measured. */
function legendTrial(map: MapSpec, settings: PanelPart['settings'], whole: PartBox): Sheet {
  const box = { x: whole.x, y: whole.y, width: 55, height: 20 }
  return makeSheet({
    ...{ id: 'trial', name: map.name, page: { widthMm: 297, heightMm: 297 } },
    margins: { top: 0, right: 0, bottom: 0, left: 0 },
    parts: [
      makePart('panel', { id: 'panel', name: 'Panel', box: whole }, settings),
      makePart('legend', { id: 'legend', name: 'Legend', box }, plainLegend({ panelId: 'panel' })),
    ],
  })
}

/** About as large as a legend will be. */
function estimatedSize(explained: readonly Layer[]): Size {
  const lines = explained.reduce((sum, { symbology: { kind, settings } }) => {
    const classings = kindOf(kind).classings(settings)
    const classes = classings.reduce(
      (most, { classes, setAside }) => Math.max(most, classes + setAside.length),
      4,
    )
    return sum + classes + 2.5
  }, 0)
  return { width: 55, height: Math.min(90, 6 * lines) }
}
