import { pixelsPerMm } from '@/core/scene/units'
import { isBitmap, type PrintSettings } from './settings'

/** The largest bitmap that is made, in pixels: an A0 sheet at 300 dpi has 140 million. */
export const mostPixels = 400e6
/** A JPEG writes its sides as 16-bit numbers (ITU-T T.81, B.2.2); the library keeps a little of that for itself. */
const mostJpegSide = 65_500

/** The size of a bitmap of a page, in pixels. */
export const bitmapSize = (
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
  dpi: number,
): { widthPx: number; heightPx: number } => ({
  widthPx: Math.max(1, Math.round(widthMm * pixelsPerMm(dpi))),
  heightPx: Math.max(1, Math.round(heightMm * pixelsPerMm(dpi))),
})

const counted = (n: number): string => n.toLocaleString('en-GB')

/**
 * Why a page cannot become a bitmap, before anything of it is drawn; null where it can, and for what is no bitmap.
 * @param page its size in millimetres
 */
export function bitmapRefused(
  page: { widthMm: number; heightMm: number },
  { format, dpi }: Pick<PrintSettings, 'format' | 'dpi'>,
): string | null {
  if (!isBitmap(format)) return null
  const { widthPx, heightPx } = bitmapSize(page, dpi)
  const size = `${counted(widthPx)} × ${counted(heightPx)} pixels`
  if (format === 'jpeg' && Math.max(widthPx, heightPx) > mostJpegSide)
    return `${size} are more than a JPEG can have on one side (${counted(mostJpegSide)}). Choose fewer dots per inch, or PNG or TIFF.`
  if (widthPx * heightPx <= mostPixels) return null
  const fits = Math.floor(dpi * Math.sqrt(mostPixels / (widthPx * heightPx)))
  return `${size} are more than can be drawn. Up to ${counted(fits)} dots per inch fit on this sheet.`
}
