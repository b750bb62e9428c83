import type { Prepared } from '@/core/data/prepare'
import { createMemory, identity } from '@/core/memory/memory'
import type { MapSpec } from '@/core/map/spec'
import { overlaps } from '@/core/scene/bounds'
import { group, type Group, type Node, type Scene } from '@/core/scene/scene'
import type { FontBook, TextFont } from '@/core/scene/text'
import { descriptionOf } from './description'
import { fillIn, fillInValues } from './fill-ins'
import { boundsOf, boxWithin, frameTransform, type Frame, type Point } from './frame'
import type { HyphenLanguage } from './lettering/spec'
import { mapFonts } from './parts/panel'
import { coversOthers, type PartBox, type SheetContext } from './part'
import { mapOfPanel, panelPart, panelView } from './panel-view'
import type { Pictures } from './picture'
import { placeOnPage } from './place-on-page'
import { readyPart } from './ready-part'
import { partTypeOf } from './registry'
import type { Part, Sheet } from './spec'
import type { NamedTypeStyle } from './type-style'

export type SheetInput = {
  sheet: Sheet
  maps: MapSpec[]
  /** The named styles of the folio; a style that is not among them is set as it stands. */
  typeStyles?: readonly NamedTypeStyle[]
  datasets: Map<string, Prepared>
  /** What the pictures of the folio are drawn from; without it none is at hand. */
  pictures?: Pictures
  fonts: FontBook
  folioName: string
  author: string
  /** The day that `{{date}}` stands for. */
  date: Date
  /** Which page of its folio the sheet is, from 1, and how many there are. */
  page?: { number: number; of: number }
  toleranceMm?: number
}

/** Detail finer than this cannot be seen in print. */
export const printToleranceMm = 0.02

/** A sheet as a scene: one layer group for each part that is not hidden, in the order of the pile. */
export function composeSheet(input: SheetInput, context = sheetContext(input)): Scene {
  const { sheet } = input
  return {
    widthMm: sheet.page.widthMm,
    heightMm: sheet.page.heightMm,
    background: sheet.background,
    title: `${input.folioName}: ${sheet.name}`,
    author: input.author,
    description: descriptionOf(context.panels),
    children: sheet.parts.filter((part) => !part.hidden).map((part) => partGroup(part, context)),
  }
}

/** A part as a layer of the page, turned and mixed with what lies beneath. */
function partGroup(part: Part, context: SheetContext): Group {
  return group(part.name, composePart(readyPart(part, context.typeStyles), context), {
    layer: true,
    opacity: part.opacity,
    blend: part.blend,
    transform: part.rotationDeg ? frameTransform(frameOf(part, context)) : null,
  })
}

const rememberParts = createMemory<object, Node[]>('composed parts', { maxBytes: 192 * 2 ** 20 })

/** A part, composed anew only when it or something that it leans on has changed. */
function composePart(part: Part, context: SheetContext): Node[] {
  const { leansOn, compose } = partTypeOf(part.type)
  const { id, name, rotationDeg, settings } = part
  const box = followed(part, context)
  const key = identity([
    ...[id, name, rotationDeg, box.x, box.y, box.width, box.height],
    context.fonts,
    context.toleranceMm,
  ])
  const leaning = identity(leansOn(settings, box, context, part))
  return rememberParts(settings, `${key} ${leaning}`, () => compose(settings, box, context, part))
}

export function sheetContext({
  sheet,
  maps,
  typeStyles = [],
  datasets,
  pictures = () => null,
  fonts,
  folioName,
  author,
  date,
  page = { number: 1, of: 1 },
  toleranceMm = printToleranceMm,
}: SheetInput): SheetContext {
  const all = sheet.parts.filter((part) => part.type === 'panel')
  const views = new Map(all.map((part) => [part.id, panelView(part, sheet, { maps, datasets })]))
  const panels = all.filter((part) => !part.hidden).flatMap((part) => views.get(part.id) ?? [])
  const values = fillInValues(panels, { sheetName: sheet.name, folioName, author, date, page, datasets })
  const context: SheetContext = {
    typeStyles,
    datasets,
    fonts,
    panels,
    panel: (id) => views.get(panelPart(sheet, id)?.id ?? '') ?? null,
    figure: (id) => {
      const found = sheet.parts.find((part) => part.id === id)
      if (!found) return null
      const { type, settings, box } = readyPart(found, typeStyles)
      const { explains } = partTypeOf(type)
      return explains
        ? {
            id,
            entry: () => explains(settings, box, context),
            leaning: [id, settings, box.width, box.height, datasets],
          }
        : null
    },
    toleranceMm,
    fill: (text) => fillIn(text, values),
    picture: pictures,
    over: (partId) => {
      const at = sheet.parts.findIndex(({ id }) => id === partId)
      if (at < 0) return []
      const { box, rotationDeg } = sheet.parts[at]
      const own = { box, rotationDeg }
      return sheet.parts
        .slice(at + 1)
        .filter((part) => !part.hidden && coversOthers(part) && partTypeOf(part.type).keepsLabelsOff)
        .map((part) => frameOf(part, context))
        .filter((frame) => overlaps(boundsOf(own), boundsOf(frame)))
        .map((theirs) => boxWithin(own, theirs))
    },
  }
  return context
}

/** How far the place that a part stays at has moved on the page since its box was set, mm; nothing for other parts. */
export function driftOf({ type, settings }: Part, context: SheetContext): Point {
  const anchor = partTypeOf(type).anchor?.(settings)
  const now = anchor && placeOnPage(anchor.panelId, anchor.place, context)
  return now ? [now[0] - anchor.asOf[0], now[1] - anchor.asOf[1]] : [0, 0]
}

/** The box of a part that has followed its place. */
function followed(part: Part, context: SheetContext): PartBox {
  const [dx, dy] = driftOf(part, context)
  return dx || dy ? { ...part.box, x: part.box.x + dx, y: part.box.y + dy } : part.box
}

/** The space a part really takes up on the page. */
export function effectiveBox(part: Part, context: SheetContext): PartBox {
  const { type, settings } = readyPart(part, context.typeStyles)
  const box = followed(part, context)
  return { x: box.x, y: box.y, ...partTypeOf(type).measure(settings, box, context) }
}

/** The space that a part really takes up, with its rotation. */
export const frameOf = (part: Part, context: SheetContext): Frame => ({
  box: effectiveBox(part, context),
  rotationDeg: part.rotationDeg,
})

/** The languages by whose rules words on a sheet are parted; their patterns have to be loaded before composing. */
export const sheetLanguages = ({ parts }: Sheet): HyphenLanguage[] =>
  parts.flatMap(({ settings }) => ('hyphenate' in settings && settings.hyphenate ? [settings.hyphenate] : []))

/** Every typeface that a sheet and the maps on it need. */
export function sheetFonts(
  sheet: Sheet,
  maps: MapSpec[],
  typeStyles: readonly NamedTypeStyle[] = [],
): TextFont[] {
  const shown = sheet.parts.flatMap((part) => (part.type === 'panel' ? (mapOfPanel(part, maps) ?? []) : []))
  return [
    ...sheet.parts
      .map((part) => readyPart(part, typeStyles))
      .flatMap((part) => partTypeOf(part.type).fonts(part.settings)),
    ...[...new Set(shown)].flatMap(mapFonts),
  ]
}
