import { z } from 'zod'

export const sheetFormats = ['pdf', 'svg', 'png'] as const
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
})
export type PrintSettings = z.infer<typeof PrintSettings>

export const initialPrint: PrintSettings = PrintSettings.parse({})

export const mimeTypes: Record<SheetFormat, string> = {
  pdf: 'application/pdf',
  svg: 'image/svg+xml',
  png: 'image/png',
}

/** The settings that matter for the format, in a few words. */
export function printWords({ format, dpi, svgText }: PrintSettings): string {
  if (format === 'png') return `PNG ${dpi} dpi`
  if (format === 'svg') return svgText === 'embedded' ? 'SVG' : 'SVG, outlines'
  return 'PDF'
}
