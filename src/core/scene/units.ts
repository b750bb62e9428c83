const mmPerInch = 25.4

export const pointsToMm = (pt: number): number => (pt * mmPerInch) / 72
export const mmToPoints = (mm: number): number => (mm * 72) / mmPerInch

/** A CSS pixel on paper (CSS Values and Units 4, section 6.2: 96 to the inch). */
export const mmPerPx = mmPerInch / 96
export const pxPerMm = 96 / mmPerInch

/** Pixels of a bitmap to a millimetre, at so many dots to the inch, and back. */
export const pixelsPerMm = (dpi: number): number => dpi / mmPerInch
export const dotsPerInch = (pixelsPerMm: number): number => pixelsPerMm * mmPerInch
