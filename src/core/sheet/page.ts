import type { PageOfParts, PartBox } from './part'

/** The space within the margins of a page, mm. */
export const innerBox = ({ page, margins }: Pick<PageOfParts, 'page' | 'margins'>): PartBox => ({
  x: margins.left,
  y: margins.top,
  width: page.widthMm - margins.left - margins.right,
  height: page.heightMm - margins.top - margins.bottom,
})

/** Which page of a folio a sheet is, from 1. */
export const pageOf = (
  sheets: readonly { id: string }[],
  sheetId: string,
): { number: number; of: number } => ({
  number: sheets.findIndex(({ id }) => id === sheetId) + 1,
  of: sheets.length,
})
