import type { FolioWithData } from '@/formats/folio-file/folio-file'
import { openedPictures } from '@/formats/picture/open'
import { initialPrint } from '@/core/print/settings'
import { renderSheet } from '@/render/sheet'

/** Sheets are drawn on one day, so that dates on them are the same. */
const date = new Date('2026-11-30T12:00:00Z')

/** A sheet as a PNG of 60 dots to the inch, as the command line draws it. */
export const drawn = ({ folio, contents, pictures }: FolioWithData, sheetId: string): Promise<Uint8Array> =>
  renderSheet({
    folio,
    sheetId,
    contents: (id) => contents.get(id) ?? null,
    pictures: openedPictures(folio.pictures, (id) => pictures?.get(id) ?? null),
    settings: { ...initialPrint, format: 'png', dpi: 60 },
    date,
  })
