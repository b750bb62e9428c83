import { z } from 'zod'

export const sheetFormats = ['pdf', 'svg', 'png', 'jpeg', 'tiff'] as const
export type SheetFormat = (typeof sheetFormats)[number]

/** What stands in an SVG: text with its fonts, or the outlines of its letters. */
export const textForms = ['embedded', 'outlines'] as const

export const leastDpi = 20
export const mostDpi = 2400

/** How a sheet becomes a file. The Proof desk, the server, jobs and the command line all mean this. */
export const PrintSettings = z.object({
  format: z.enum(sheetFormats).default('pdf'),
  /** Dots per inch of a bitmap. */
  dpi: z.number().int().min(leastDpi).max(mostDpi).default(300),
  svgText: z.enum(textForms).default('embedded'),
  /** Quality of a JPEG, per cent. */
  quality: z.number().int().min(10).max(100).default(92),
  /** Whether a PDF says where its maps lie on the ground. */
  georeference: z.boolean().default(true),
  /** Whether a PDF is larger by the bleed of the sheet. */
  bleed: z.boolean().default(false),
  /** Ids of the parts that are drawn alone, on a page as large as they are; none for the whole sheet. */
  parts: z.array(z.string()).max(1000).default([]),
})
export type PrintSettings = z.infer<typeof PrintSettings>

export const initialPrint: PrintSettings = PrintSettings.parse({})

export const mimeTypes: Record<SheetFormat, string> = {
  pdf: 'application/pdf',
  svg: 'image/svg+xml',
  png: 'image/png',
  jpeg: 'image/jpeg',
  tiff: 'image/tiff',
}

/** The settings that matter for the format, in a few words. */
export function printWords({ format, dpi, svgText, quality, bleed, parts }: PrintSettings): string {
  const some = parts.length ? `, ${parts.length} ${parts.length === 1 ? 'part' : 'parts'}` : ''
  if (isBitmap(format))
    return `${format.toUpperCase()} ${dpi} dpi${format === 'jpeg' ? `, ${quality} %` : ''}${some}`
  if (format === 'svg') return `${svgText === 'embedded' ? 'SVG' : 'SVG, outlines'}${some}`
  return `PDF${bleed ? ' with bleed' : ''}${some}`
}

/** Whether a format has pixels. */
export const isBitmap = (format: SheetFormat): format is 'png' | 'jpeg' | 'tiff' =>
  format !== 'pdf' && format !== 'svg'
