import type { PageOfParts, PartBox } from './part'

/** The space within the margins of a page, mm. */
export const innerBox = ({ page, margins }: Pick<PageOfParts, 'page' | 'margins'>): PartBox => ({
  x: margins.left,
  y: margins.top,
  width: page.widthMm - margins.left - margins.right,
  height: page.heightMm - margins.top - margins.bottom,
})
