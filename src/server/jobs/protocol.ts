import type { Folio } from '@/core/folio/schema'
import type { FieldMeta } from '@/core/data/field-meta'
import type { Asks, Guessed, ReadOptions, ShapeNote } from '@/core/data/reading'
import type { PrintSettings } from '@/core/print/settings'

/** What a job worker is asked to do. Files are passed by path. */
export type JobTask =
  | { kind: 'import'; file: string; fileName: string; options: ReadOptions; outFolder: string }
  | {
      kind: 'print'
      folio: Folio
      sheetId: string
      settings: PrintSettings
      contentFiles: Record<string, string>
      outFile: string
      date: string
    }

export type ImportedPack = {
  file: string
  name: string
  rowCount: number
  geometry: 'areas' | 'lines' | 'points' | 'raster' | 'none'
  fields: Record<string, FieldMeta>
  guessed: Guessed
  notes: ShapeNote[]
}

export type JobMessage =
  | { type: 'progress'; share: number; doing: string }
  | { type: 'imported'; format: string; packs: ImportedPack[] }
  | { type: 'printed'; bytes: number }
  | {
      type: 'failed'
      message: string
      expected: boolean
      /** What the person can say to help. */
      asks: Asks | null
    }
