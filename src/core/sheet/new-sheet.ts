import type { Prepared } from '@/core/data/prepare'
import { coordsOf } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import { kindOf } from '@/core/kinds/registry'
import { mostScaleChange, scaleChange } from '@/core/map/scale-holds'
import type { MapSpec } from '@/core/map/spec'
import { leadingGeometries, mainGeometry } from '@/core/map/view'
import { createProjection } from '@/core/projection/projection'
import { emptyBounds, isEmpty, takeIn } from '@/core/scene/bounds'
import { farInsets } from './far-insets'
import { freeName } from './free-name'
import { placeOver, roomIn, take } from './map-room'
import { plainLegend } from './parts/legend'
import { panelOf } from './parts/panel'
import { plainText } from './parts/text'
import { plainScaleBar } from './parts/scale-bar'
import { panelsOf, viewOfPanel } from './panel-view'
import { makePart, partTypeOf, type Part, type PartTypeId } from './registry'
import { makeSheet, type Sheet } from './spec'
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
/** A legend may lie over so little of the map; where there is no such place, it has a strip of its own. */
const mostTaken = 0.02

/**
 * A sheet that is already composed, upright or lying as the map is: what it shows as title and subtitle, the map, its
 * legend where nothing of the map lies, a scale bar where the scale holds over the panel, insets of what lies far off,
 * and the source. `newId` hands out ids.
 */
export function newSheet(
  map: MapSpec | null,
  datasets: Map<string, Prepared>,
  { name, newId }: { name: string; newId: () => string },
): Sheet {
  const standing = map !== null && shapeOfMap(map, datasets) < upright
  const page = standing ? { widthMm: short, heightMm: long } : { widthMm: long, heightMm: short }
  const width = page.widthMm - margins.left - margins.right
  const parts: Part[] = map ? mapParts(map, datasets, { page, newId }) : []
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

/** The panel with its legend and scale bar. */
function mapParts(
  map: MapSpec,
  datasets: Map<string, Prepared>,
  { page, newId }: { page: Sheet['page']; newId: () => string },
): Part[] {
  const whole = {
    x: margins.left,
    y: 32,
    width: page.widthMm - margins.left - margins.right,
    height: page.heightMm - 32 - margins.bottom - 8,
  }
  const panelId = newId()
  const size = legendSize(map)
  const over = size && placedOver(map, datasets, whole, size)
  const isFree = !size || (over !== null && over.taken <= mostTaken)
  // Without a free place the legend stands beside the map, or below it on an upright page.
  const box = isFree ? whole : besides(whole, size)
  const settings = panelOf(map, datasets, box)
  const room = roomIn(map, datasets, settings.view, box)
  const parts: Part[] = [makePart('panel', { id: panelId, name: 'Panel', box }, settings)]
  if (size) {
    const place = isFree && over ? over.box : stripOf(whole, box, size)
    if (isFree) take(room, place)
    parts.push(makePart('legend', { id: newId(), name: 'Legend', box: place }, plainLegend({ panelId })))
  }
  if (scaleChange(map, settings.view, box) <= mostScaleChange) {
    const bar = placeOver(room, { width: 40, height: 7 }, ['bottom right', 'bottom left', 'top right'])
    parts.push(
      makePart('scale-bar', { id: newId(), name: 'Scale bar', box: bar.box }, plainScaleBar({ panelId })),
    )
  }
  const [panel] = parts
  if (panel.type === 'panel')
    parts.push(...farInsets({ panel, others: parts.slice(1), map, datasets, newId }))
  return parts
}

type Size = { width: number; height: number }

function placedOver(map: MapSpec, datasets: Map<string, Prepared>, box: PartBox, size: Size) {
  const room = roomIn(map, datasets, panelOf(map, datasets, box).view, box)
  return placeOver(room, size, ['bottom left', 'top left', 'bottom right', 'top right'])
}

/** What is left of a panel beside a strip for the legend, or above one where it stands upright. */
const besides = (box: PartBox, size: Size): PartBox =>
  box.height > box.width
    ? { ...box, height: box.height - size.height - 4 }
    : { ...box, x: box.x + size.width + 5, width: box.width - size.width - 5 }

const stripOf = (whole: PartBox, panel: PartBox, size: Size): PartBox =>
  whole.height > whole.width
    ? { x: whole.x, y: panel.y + panel.height + 4, ...size }
    : { x: whole.x, y: whole.y + 2, ...size }

/** About as large as a legend of a map will be; null where no layer enters it. */
function legendSize({ layers }: MapSpec): Size | null {
  const explained = layers.filter(({ inLegend, visible }) => inLegend && visible)
  if (!explained.length) return null
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
