/**
 * What the sheet can fill in by itself. Values come from outside, so that composing stays the same for the
 * same input.
 */
export type FillIns = Record<'date' | 'credits' | 'scale' | 'projection' | 'folio' | 'sheet', string>

export const fillInNames = ['date', 'credits', 'scale', 'projection', 'folio', 'sheet'] as const

/**
 * Replaces `{{name}}` (Mustache syntax). A name that is not known stays as it was typed, so that it is seen.
 */
export const fillIn = (text: string, values: FillIns): string =>
  text.replace(/\{\{\s*([a-z]+)\s*\}\}/g, (written, name: string) =>
    name in values ? values[name as keyof FillIns] : written,
  )
