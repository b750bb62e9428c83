import type { Dataset } from '@/core/data/dataset'
import { prepareDatasets } from '@/core/data/prepare'
import type { Folio } from '@/core/folio/schema'
import type { PrintSettings } from '@/core/print/settings'
import type { Scene } from '@/core/scene/scene'
import type { FontBook } from '@/core/scene/text'
import { pageOf } from '@/core/sheet/page'
import { composeSheet, sheetFonts } from '@/core/sheet/compose-sheet'
import { fontBookOf, readFontFile } from './font-files'

export type RenderRequest = {
  folio: Folio
  sheetId: string
  contents: (contentId: string) => Dataset | null
  settings: PrintSettings
  date: Date
  progress?: (share: number, doing: string) => void
}

/**
 * Draws one sheet of a folio into the bytes of a file. The command line and the Proof desk both come through
 * here.
 * @throws Error when the folio has no such sheet.
 */
export async function renderSheet({
  folio,
  sheetId,
  contents,
  settings: { format, dpi, svgText },
  date,
  progress,
}: RenderRequest): Promise<Uint8Array> {
  const { scene, fonts } = sheetScene(folio, sheetId, contents, { date, progress })
  progress?.(0.5, `Writing ${format.toUpperCase()}`)
  // A writer and the libraries that it needs are loaded when there is something to write.
  if (format === 'pdf') {
    const { writePdf } = await import('./pdf/write')
    return writePdf([scene], { fonts, fontBytes: readFontFile, date })
  }
  if (format === 'svg') {
    const { writeSvg } = await import('./svg/write')
    return Buffer.from(writeSvg(scene, { fonts, text: svgText, fontBytes: readFontFile }))
  }
  const { writePng } = await import('./raster/bitmap')
  return writePng(scene, fonts, dpi)
}

/** The composed scene of a sheet with the fonts it is set in. */
export function sheetScene(
  folio: Folio,
  sheetId: string,
  contents: RenderRequest['contents'],
  { date, progress }: { date: Date; progress?: RenderRequest['progress'] },
): { scene: Scene; fonts: FontBook } {
  const sheet = folio.sheets.find((s) => s.id === sheetId)
  if (!sheet) throw new Error(`“${folio.name}” has no sheet “${sheetId}”.`)
  progress?.(0.05, 'Preparing data')
  const datasets = prepareDatasets(folio.datasets, contents)
  progress?.(0.2, 'Composing')
  const fonts = fontBookOf(sheetFonts(sheet, folio.maps, folio.typeStyles))
  return {
    scene: composeSheet({
      sheet,
      maps: folio.maps,
      typeStyles: folio.typeStyles,
      datasets,
      fonts,
      folioName: folio.name,
      author: folio.author,
      page: pageOf(folio.sheets, sheetId),
      date,
    }),
    fonts,
  }
}
