import { formatNumber } from '@/core/classify/labels'
import type { Prepared } from '@/core/data/prepare'
import { stepNeeds } from '@/core/data/steps/registry'
import { layerNeeds } from '@/core/map/compose-map'
import { windowBounds } from '@/core/geo/paper'
import { createMemory, identity } from '@/core/memory/memory'
import type { MapSpec } from '@/core/map/spec'
import { overlaps } from '@/core/scene/bounds'
import { entryOf, type ProjectionSpec } from '@/core/projection/catalogue'
import { group, type Node, type Scene } from '@/core/scene/scene'
import type { FontBook, TextFont } from '@/core/scene/text'
import { descriptionOf } from './description'
import { fillIn, type FillIns } from './fill-ins'
import { mapFonts } from './parts/panel'
import type { PanelView, PartBox, SheetContext } from './part'
import { panelPart, panelView } from './panel-view'
import { partTypeOf } from './registry'
import type { Part, Sheet } from './spec'

export type SheetInput = {
  sheet: Sheet
  maps: MapSpec[]
  datasets: Map<string, Prepared>
  fonts: FontBook
  folioName: string
  author: string
  /** The day that `{{date}}` stands for. */
  date: Date
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
    children: sheet.parts
      .filter((part) => !part.hidden)
      .map((part) => group(part.name, composePart(part, context), { layer: true })),
  }
}

const rememberParts = createMemory<object, Node[]>('composed parts', { maxBytes: 192 * 2 ** 20 })

/** A part, composed anew only when it or something that it leans on has changed. */
function composePart(part: Part, context: SheetContext): Node[] {
  const { leansOn, compose } = partTypeOf(part.type)
  const { id, name, box, settings } = part
  const key = identity([id, name, box.x, box.y, box.width, box.height, context.fonts, context.toleranceMm])
  const leaning = identity(leansOn(settings, box, context, part))
  return rememberParts(settings, `${key} ${leaning}`, () => compose(settings, box, context, part))
}

export function sheetContext({
  sheet,
  maps,
  datasets,
  fonts,
  folioName,
  date,
  toleranceMm = printToleranceMm,
}: SheetInput): SheetContext {
  const all = sheet.parts.filter((part) => part.type === 'panel')
  const views = new Map(all.map((part) => [part.id, panelView(part, maps, datasets)]))
  const panels = all.filter((part) => !part.hidden).flatMap((part) => views.get(part.id) ?? [])
  const values = fillInValues(panels, { sheet, folioName, date, datasets })
  const context: SheetContext = {
    datasets,
    fonts,
    panels,
    panel: (id) => views.get(panelPart(sheet, id)?.id ?? '') ?? null,
    toleranceMm,
    fill: (text) => fillIn(text, values),
    over: (partId) => {
      const at = sheet.parts.findIndex(({ id }) => id === partId)
      const own = at < 0 ? null : windowBounds(sheet.parts[at].box)
      return sheet.parts
        .slice(at + 1)
        .filter((part) => !part.hidden)
        .map((part) => effectiveBox(part, context))
        .filter((box) => own && overlaps(own, windowBounds(box)))
    },
  }
  return context
}

function fillInValues(
  panels: PanelView[],
  { sheet, folioName, date, datasets }: Pick<SheetInput, 'sheet' | 'folioName' | 'date' | 'datasets'>,
): FillIns {
  const [main] = panels
  return {
    date: date.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' }),
    credits: creditsOf(panels, datasets),
    scale: main ? `1 : ${formatNumber(main.view.scaleDenominator, 0)}` : '',
    projection: main ? projectionWords(main.map.projection) : '',
    folio: folioName,
    sheet: sheet.name,
  }
}

function projectionWords(spec: ProjectionSpec): string {
  const { label } = entryOf(spec)
  return spec.system ? `${label} (${spec.system.code})` : `${label} projection`
}

/** The credit lines of all datasets that the layers seen draw on, through all their steps, each once. */
function creditsOf(panels: PanelView[], datasets: Map<string, Prepared>): string {
  const used = new Set<string>()
  const use = (id: string): void => {
    if (used.has(id)) return
    used.add(id)
    for (const step of datasets.get(id)?.entry.steps ?? []) if (step.on) stepNeeds(step).forEach(use)
  }
  for (const { map, layers } of panels) {
    if (map.land) use(map.land.datasetId)
    for (const { layer } of layers) layerNeeds(layer).forEach(use)
  }
  const credits = [...used].map((id) => datasets.get(id)?.entry.credit ?? '').filter(Boolean)
  return [...new Set(credits)].join('; ')
}

/** The space a part really takes up on the page. */
export function effectiveBox(part: Part, context: SheetContext): PartBox {
  return { x: part.box.x, y: part.box.y, ...partTypeOf(part.type).measure(part.settings, part.box, context) }
}

/** Every typeface that a sheet and the maps on it need. */
export function sheetFonts(sheet: Sheet, maps: MapSpec[]): TextFont[] {
  const shown = new Set(sheet.parts.flatMap((part) => (part.type === 'panel' ? [part.settings.mapId] : [])))
  return [
    ...sheet.parts.flatMap((part) => partTypeOf(part.type).fonts(part.settings)),
    ...maps.filter((map) => shown.has(map.id)).flatMap(mapFonts),
  ]
}
