import { formatNumber } from '@/core/classify/labels'
import type { Prepared } from '@/core/data/prepare'
import { stepNeeds } from '@/core/data/steps/registry'
import { layerNeeds } from '@/core/map/compose-map'
import type { MapSpec } from '@/core/map/spec'
import { entryOf } from '@/core/projection/catalogue'
import { group, type Scene } from '@/core/scene/scene'
import type { FontBook, TextFont } from '@/core/scene/text'
import { fillIn, type FillIns } from './fill-ins'
import { mapFonts } from './parts/panel'
import type { SheetContext } from './part'
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
export function composeSheet(input: SheetInput): Scene {
  const { sheet } = input
  const context = sheetContext(input)
  return {
    widthMm: sheet.page.widthMm,
    heightMm: sheet.page.heightMm,
    background: sheet.background,
    title: `${input.folioName}: ${sheet.name}`,
    author: input.author,
    children: sheet.parts
      .filter((part) => !part.hidden)
      .map((part) =>
        group(part.name, partTypeOf(part.type).compose(part.settings, part.box, context, part.name), {
          layer: true,
        }),
      ),
  }
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
  const panels = sheet.parts.filter((part) => part.type === 'panel')
  const panel = (id: string | null) => panels.find((p) => p.id === id) ?? panels[0] ?? null
  const values = fillInValues(sheet, maps, datasets, { folio: folioName, date })
  const context: SheetContext = {
    maps,
    datasets,
    fonts,
    panel,
    toleranceMm,
    fill: (text) => fillIn(text, values),
    over: (box) => {
      const at = sheet.parts.findIndex((part) => part.box === box)
      return at < 0
        ? []
        : sheet.parts
            .slice(at + 1)
            .filter((part) => !part.hidden)
            .map((part) => effectiveBox(part, context))
    },
  }
  return context
}

function fillInValues(
  sheet: Sheet,
  maps: MapSpec[],
  datasets: Map<string, Prepared>,
  { folio, date }: { folio: string; date: Date },
): FillIns {
  const panels = sheet.parts.filter((part) => part.type === 'panel' && !part.hidden)
  const shown = panels.flatMap((part) =>
    maps.filter((map) => part.type === 'panel' && map.id === part.settings.mapId),
  )
  const main = panels[0]
  return {
    date: date.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' }),
    credits: creditsOf(shown, datasets),
    scale: main?.type === 'panel' ? `1 : ${formatNumber(main.settings.view.scaleDenominator, 0)}` : '',
    projection: shown[0]
      ? `${entryOf(shown[0].projection).label}${shown[0].projection.system ? ` (${shown[0].projection.system.code})` : ' projection'}`
      : '',
    folio,
    sheet: sheet.name,
  }
}

/** The credit lines of all datasets that visible layers draw on, through all their steps, each once. */
function creditsOf(maps: MapSpec[], datasets: Map<string, Prepared>): string {
  const used = new Set<string>()
  const use = (id: string): void => {
    if (used.has(id)) return
    used.add(id)
    for (const step of datasets.get(id)?.entry.steps ?? []) if (step.on) stepNeeds(step).forEach(use)
  }
  for (const map of maps) {
    if (map.land) use(map.land.datasetId)
    for (const layer of map.layers) if (layer.visible) layerNeeds(layer).forEach(use)
  }
  const credits = [...used].map((id) => datasets.get(id)?.entry.credit ?? '').filter(Boolean)
  return [...new Set(credits)].join('; ')
}

/** The space a part really takes up on the page. */
export function effectiveBox(
  part: Part,
  context: SheetContext,
): { x: number; y: number; width: number; height: number } {
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
