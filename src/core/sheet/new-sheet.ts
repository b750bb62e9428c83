import type { Prepared } from '@/core/data/prepare'
import { coordsOf } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { kindOf } from '@/core/kinds/registry'
import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import type { Layer, MapSpec } from '@/core/map/spec'
import { leadingGeometries, mainGeometry, movedView, viewProjection } from '@/core/map/view'
import { createProjection } from '@/core/projection/projection'
import { emptyBounds, isEmpty, takeIn } from '@/core/scene/bounds'
import type { FontBook } from '@/core/scene/text'
import { effectiveBox, sheetContext } from './compose-sheet'
import { farInsets, mostTaken } from './far-insets'
import { freeName } from './free-name'
import { placeOver, roomIn, take, type Corner } from './map-room'
import { plainLegend } from './parts/legend'
import { panelOf } from './parts/panel'
import { plainText } from './parts/text'
import { plainScaleBar } from './parts/scale-bar'
import { panelsOf, viewOfPanel, type PanelPart } from './panel-view'
import { makePart, partTypeOf, type Part, type PartTypeId } from './registry'
import { makeSheet, type Sheet } from './spec'
import type { NamedTypeStyle } from './type-style'
import { inStyle, type FirstTypeStyle } from './type-styles'
import { freePlace } from './free-place'
import type { Frame } from './frame'
import type { PartBox, PartGiven } from './part'

/** A text part in one of the styles that every folio starts with. */
export const textPart = (
  given: Pick<Part, 'id' | 'name' | 'box'>,
  {
    text,
    style,
    align = 'left',
  }: { text: string; style: FirstTypeStyle; align?: 'left' | 'centre' | 'right' },
): Part => makePart('text', given, plainText({ text, style: inStyle(style), align }))

/**
 * A new part of a type in a free place of the sheet, or a ready one; null where there is nothing yet that it could
 * show.
 */
export function newPart(
  type: PartTypeId,
  id: string,
  {
    ready,
    ...given
  }: Omit<PartGiven, 'centres'> & { sheet: Sheet; frameOf?: (part: Part) => Frame; ready?: string },
): Part | null {
  const { label, initial, ready: readyOnes } = partTypeOf(type)
  const centres = new Map(
    panelsOf(given.sheet).map((panel) => [panel.id, viewOfPanel(panel, given.sheet).centre]),
  )
  const make = ready === undefined ? initial : readyOnes?.[ready]
  const made = make?.({ ...given, centres })
  if (!made) return null
  const name = freeName(given.sheet.parts, made.name ?? ready ?? label)
  const { rotationDeg = 0, opacity = 1 } = made
  const box = made.staysPut ? made.box : freePlace(given.sheet, made.box, given.frameOf)
  return makePart(type, { id, name, box, rotationDeg, opacity }, made.settings as never)
}

/** A4 lying, or standing for maps that are higher than wide. */
const [long, short] = [297, 210]
const margins = { top: 12, right: 12, bottom: 10, left: 12 }
/** A map narrower than this against its height stands on an upright page. */
const upright = 0.85
/** A legend may lie over so little of the map. */
const mostUnderLegend = 0.02
/** Room between a legend and a map beside it, mm. */
const gutterMm = 6

/** What words are measured by: typefaces that are at hand, and the named styles of the folio. */
export type Lettering = { fonts: FontBook; typeStyles?: readonly NamedTypeStyle[] }

/**
 * A sheet that is already composed, upright or lying as the map is: what it shows as title and subtitle, the map, its
 * legend where nothing of the map lies, a scale bar where the scale holds over the panel, insets of what lies far off,
 * and the source. `newId` hands out ids. Without `lettering` the size of the legend is estimated.
 */
export function newSheet(
  map: MapSpec | null,
  datasets: Map<string, Prepared>,
  { name, newId, lettering }: { name: string; newId: () => string; lettering?: Lettering },
): Sheet {
  const standing = map !== null && shapeOfMap(map, datasets) < upright
  const page = standing ? { widthMm: short, heightMm: long } : { widthMm: long, heightMm: short }
  const width = page.widthMm - margins.left - margins.right
  const parts: Part[] = map ? mapParts(map, datasets, { page, newId, lettering }) : []
  parts.push(
    textPart(
      { id: newId(), name: 'Title', box: { x: margins.left, y: 11, width, height: 12 } },
      { text: map ? '{{shown}}' : name, style: 'title' },
    ),
    ...(map
      ? [
          textPart(
            { id: newId(), name: 'Subtitle', box: { x: margins.left, y: 23.5, width, height: 5 } },
            { text: '{{where}}', style: 'subtitle' },
          ),
        ]
      : []),
    textPart(
      {
        id: newId(),
        name: 'Source note',
        box: { x: margins.left, y: page.heightMm - margins.bottom - 5.5, width, height: 4 },
      },
      { text: 'Source: {{credits}}. {{projection}}, {{scale}}.', style: 'note' },
    ),
  )
  return makeSheet({ id: newId(), name, page, margins, parts })
}

/** How wide a map is against its height, in its projection. */
function shapeOfMap(map: MapSpec, datasets: Map<string, Prepared>): number {
  const bounds = emptyBounds()
  const projection = createProjection(map.projection)
  for (const geometry of leadingGeometries(map, datasets))
    takeIn(bounds, coordsOf(projectGeometry(mainGeometry(geometry), projection)))
  return isEmpty(bounds) ? 1.4 : (bounds[2] - bounds[0]) / Math.max(1, bounds[3] - bounds[1])
}

/** The panel with its legend, scale bar and insets. */
function mapParts(
  map: MapSpec,
  datasets: Map<string, Prepared>,
  { page, newId, lettering }: { page: Sheet['page']; newId: () => string; lettering?: Lettering },
): Part[] {
  const whole = {
    x: margins.left,
    y: 32,
    width: page.widthMm - margins.left - margins.right,
    height: page.heightMm - 32 - margins.bottom - 8,
  }
  const size = legendSize(map, datasets, { whole, lettering })
  const given = { map, datasets, whole, size, newId }
  const land = besides(whole, size ?? { width: 30, height: 30 })
  // Over the ground of the map where there is room; with the land moved aside to make some; else beside the map.
  for (const panel of [panelIn(given, whole, whole), panelIn(given, land, whole)]) {
    const { parts, fits } = laidOut(given, panel)
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
  const ground = roomIn(map, datasets, { view, panel: box })
  let fits = true
  if (size) {
    const corners: Corner[] =
      size.height > 0.6 * whole.height || box.width < whole.width
        ? ['top left', 'bottom left', 'bottom right', 'top right']
        : ['bottom left', 'top left', 'bottom right', 'top right']
    const place = placeOver(room, size, corners)
    fits = place.taken <= mostUnderLegend
    for (const one of [room, ground]) take(one, place.box)
    parts.push(
      makePart('legend', { id: newId(), name: 'Legend', box: place.box }, plainLegend({ panelId: panel.id })),
    )
  }
  if (scaleChange(map, view, box) <= mostScaleChange) {
    const bar = placeOver(ground, { width: 40, height: 7 }, ['bottom right', 'bottom left', 'top right'])
    parts.push(
      makePart(
        'scale-bar',
        { id: newId(), name: 'Scale bar', box: bar.box },
        plainScaleBar({ panelId: panel.id }),
      ),
    )
  }
  const insets = farInsets({ panel, others: parts.slice(1), map, datasets, newId, within: whole })
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
  const box = { x: whole.x, y: whole.y, width: 55, height: 20 }
  const panel = makePart('panel', { id: 'panel', name: 'Panel', box: whole }, panelOf(map, datasets, whole))
  const legend = makePart('legend', { id: 'legend', name: 'Legend', box }, plainLegend({ panelId: 'panel' }))
  const sheet = makeSheet({
    id: 'sheet',
    name: '',
    page: { widthMm: long, heightMm: long },
    margins,
    parts: [panel, legend],
  })
  const context = sheetContext({
    ...lettering,
    ...{ sheet, maps: [map], datasets, folioName: '', author: '', date: new Date(0) },
  })
  const { width, height } = effectiveBox(legend, context)
  return { width, height }
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
