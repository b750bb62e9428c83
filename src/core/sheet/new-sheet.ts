import type { Prepared } from '@/core/data/prepare'
import { coordsOf } from '@/core/geo/geometry'
import { projectGeometry } from '@/core/geo/projected'
import type { MapSpec } from '@/core/map/spec'
import { leadingGeometries, mainGeometry } from '@/core/map/view'
import { createProjection } from '@/core/projection/projection'
import { emptyBounds, isEmpty, takeIn } from '@/core/scene/bounds'
import { mapOnPage, type Lettering } from './first-page'
import { freeName } from './free-name'
import { plainText } from './parts/text'
import { panelsOf, viewOfPanel } from './panel-view'
import { makePart, partTypeOf, type Part, type PartTypeId } from './registry'
import { makeSheet, type Sheet } from './spec'
import { inStyle, type FirstTypeStyle } from './type-styles'
import { freePlace } from './free-place'
import type { Frame } from './frame'
import type { PartGiven } from './part'

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
  const height = page.heightMm - 32 - margins.bottom - 8
  const whole = { x: margins.left, y: 32, width, height }
  const parts: Part[] = map ? mapOnPage(map, datasets, { whole, newId, lettering }) : []
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
