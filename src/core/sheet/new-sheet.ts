import type { Prepared } from '@/core/data/prepare'
import type { MapSpec } from '@/core/map/spec'
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

/** A name that no part of a sheet has yet: with a number behind, where the plain one is taken. */
export function freeName(parts: readonly { name: string }[], wished: string): string {
  const taken = new Set(parts.map(({ name }) => name))
  let name = wished
  for (let n = 2; taken.has(name); n++) name = `${wished} ${n}`
  return name
}

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

/** A sheet that is already composed: title, map, legend, scale bar and source note. `newId` hands out ids. */
export function newSheet(
  map: MapSpec | null,
  datasets: Map<string, Prepared>,
  { name, newId }: { name: string; newId: () => string },
): Sheet {
  const page = { widthMm: 297, heightMm: 210 }
  const margins = { top: 12, right: 12, bottom: 10, left: 12 }
  const width = page.widthMm - margins.left - margins.right
  const parts: Part[] = []
  if (map) {
    const box = { x: margins.left, y: 32, width, height: 160 }
    const panelId = newId()
    parts.push(
      makePart('panel', { id: panelId, name: 'Panel', box }, panelOf(map, datasets, box)),
      makePart(
        'legend',
        { id: newId(), name: 'Legend', box: { x: margins.left + 5, y: 38, width: 55, height: 40 } },
        plainLegend(),
      ),
      makePart(
        'scale-bar',
        {
          id: newId(),
          name: 'Scale bar',
          box: { x: page.widthMm - margins.right - 52, y: 182, width: 40, height: 6 },
        },
        plainScaleBar(),
      ),
    )
  }
  parts.push(
    textPart(
      { id: newId(), name: 'Title', box: { x: margins.left, y: 11, width, height: 12 } },
      { text: map?.name ?? name, style: 'title' },
    ),
    textPart(
      { id: newId(), name: 'Source note', box: { x: margins.left, y: 194.5, width, height: 4 } },
      { text: 'Source: {{credits}}. {{projection}}, {{scale}}.', style: 'note' },
    ),
  )
  return makeSheet({ id: newId(), name, page, margins, parts })
}
