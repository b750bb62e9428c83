import type { Dataset } from '@/core/data/dataset'
import type { DatasetEntry } from '@/core/data/entry'
import { prepareDatasets, type Prepared } from '@/core/data/prepare'
import type { Folio } from '@/core/folio/schema'
import { bitmapRefused } from '@/core/print/bitmap-size'
import type { PrintSettings } from '@/core/print/settings'
import { SaidError } from '@/core/said/said-error'
import type { Scene } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import {
  composeSheet,
  frameOf,
  sheetContext,
  sheetFonts,
  sheetLanguages,
  type SheetInput,
} from '@/core/sheet/compose-sheet'
import { loadHyphens } from '@/core/sheet/lettering/hyphens'
import { inGroupLayers } from '@/core/sheet/group-layers'
import { georeferences, movedGeoreference, unplacedWords } from '@/core/sheet/georeference'
import { onlyParts } from '@/core/sheet/only-parts'
import { pageOf } from '@/core/sheet/page'
import type { Pictures } from '@/core/sheet/picture'
import { fontBookOf, readFontFile } from './font-files'

/** Where rows and pictures are found; null for what is not there. */
export type Stores = {
  contents: (contentId: string) => Dataset | null
  pictures?: Pictures
}

export type RenderRequest = Stores & {
  folio: Folio
  sheetId: string
  settings: PrintSettings
  date: Date
  progress?: (share: number, doing: string) => void
  /** Hears what the file does not hold although it was asked for. */
  remark?: (words: string) => void
}

/**
 * Draws one sheet of a folio into the bytes of a file. The command line and the Proof desk both come through
 * here.
 * @throws Error when the folio has no such sheet, SaidError where none of the parts asked for is on it.
 */
export async function renderSheet({ settings, ...request }: RenderRequest): Promise<Uint8Array> {
  const { format, dpi, svgText, quality, parts, bleed, georeference } = settings
  const page = request.folio.sheets.find(({ id }) => id === request.sheetId)?.page
  const sayIfTooLarge = (size: { widthMm: number; heightMm: number }) => {
    const refused = bitmapRefused(size, { format, dpi })
    if (refused) throw new SaidError(refused)
  }
  // The page is known before anything is composed; how large parts alone are is not.
  if (page && !parts.length) sayIfTooLarge(page)
  const { scene, fonts, bleedMm, ground } = await sheetScene(request.folio, request.sheetId, {
    ...request,
    parts,
  })
  request.progress?.(0.5, `Writing ${format.toUpperCase()}`)
  // A writer and the libraries that it needs are loaded when there is something to write.
  if (format === 'pdf') {
    const { writePdf } = await import('./pdf/write')
    const { placed, unplaced } = georeference ? ground() : { placed: [], unplaced: [] }
    if (unplaced.length) request.remark?.(`Where maps lie on the ground: ${unplacedWords(unplaced)}`)
    const paper = { ...scene, bleedMm: bleed ? bleedMm : 0, georeferences: placed }
    return writePdf([paper], { fonts, fontBytes: readFontFile, date: request.date })
  }
  if (format === 'svg') {
    const { writeSvg } = await import('./svg/write')
    return Buffer.from(writeSvg(scene, { fonts, text: svgText, fontBytes: readFontFile }))
  }
  sayIfTooLarge(scene)
  const { writePng } = await import('./raster/bitmap')
  const png = await writePng(scene, fonts, dpi)
  if (format === 'png') return png
  const { fromPng } = await import('./raster/other-bitmaps')
  return fromPng(png, { format, dpi, quality })
}

type PreparedBefore = { stored: (Dataset | null)[]; prepared: Map<string, Prepared> }
const preparedBefore = new WeakMap<DatasetEntry[], PreparedBefore>()

/** The datasets of a folio after their steps; the second page of the same folio costs no preparing. */
function preparedOf(entries: DatasetEntry[], contents: Stores['contents']): Map<string, Prepared> {
  const stored = entries.map(({ source }) => contents(source.contentId))
  const before = preparedBefore.get(entries)
  if (before?.stored.every((dataset, i) => dataset === stored[i])) return before.prepared
  const byId = new Map(entries.map(({ source }, i) => [source.contentId, stored[i]]))
  const prepared = prepareDatasets(entries, (id) => byId.get(id) ?? null)
  preparedBefore.set(entries, { stored, prepared })
  return prepared
}

type SceneRequest = Stores & {
  date: Date
  progress?: RenderRequest['progress']
  /** Ids of the parts to be drawn alone; none for the whole sheet. */
  parts?: string[]
}

type ReadySheet = {
  scene: Scene
  fonts: FontBook
  bleedMm: number
  /** Where the maps of what is drawn lie on the ground, reckoned when it is asked for. */
  ground: () => ReturnType<typeof georeferences>
}

/** The composed scene of a sheet, or of some of its parts alone, with the fonts it is set in. */
export async function sheetScene(
  folio: Folio,
  sheetId: string,
  { contents, pictures, date, progress, parts = [] }: SceneRequest,
): Promise<ReadySheet> {
  const sheet = folio.sheets.find((s) => s.id === sheetId)
  if (!sheet) throw new Error(`“${folio.name}” has no sheet “${sheetId}”.`)
  progress?.(0.05, 'Preparing data')
  const datasets = preparedOf(folio.datasets, contents)
  progress?.(0.2, 'Composing')
  await loadHyphens(sheetLanguages(sheet))
  const fonts = fontBookOf(sheetFonts(sheet, folio.maps, folio.typeStyles))
  const input: SheetInput = {
    sheet,
    maps: folio.maps,
    typeStyles: folio.typeStyles,
    datasets,
    pictures,
    fonts,
    folioName: folio.name,
    author: folio.author,
    page: pageOf(folio.sheets, sheetId),
    date,
  }
  const context = sheetContext(input)
  const scene = composeSheet(input, context)
  if (!parts.length)
    return {
      scene: inGroupLayers(scene, sheet),
      fonts,
      bleedMm: sheet.bleedMm,
      ground: () => georeferences(context.panels),
    }
  const chosen = onlyParts(scene, sheet, { ids: parts, frameOf: (part) => frameOf(part, context) })
  if (!chosen) throw new SaidError('None of the parts that were asked for is to be seen on this sheet.')
  const { box } = chosen
  return {
    scene: chosen.scene,
    fonts,
    bleedMm: 0,
    ground() {
      const { placed, unplaced } = georeferences(context.panels.filter(({ id }) => parts.includes(id)))
      return { placed: placed.map((one) => movedGeoreference(one, -box.x, -box.y)), unplaced }
    },
  }
}
