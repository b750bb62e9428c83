import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { Part } from './registry'

/** A page design. Parts are listed from the bottom of the pile to its top; lengths are millimetres. */
export const Sheet = z.object({
  id: z.string(),
  name: z.string(),
  page: z.object({ widthMm: z.number().min(20).max(3000), heightMm: z.number().min(20).max(3000) }),
  margins: z.object({
    top: z.number().min(0).max(3000),
    right: z.number().min(0).max(3000),
    bottom: z.number().min(0).max(3000),
    left: z.number().min(0).max(3000),
  }),
  background: Hex,
  parts: z.array(Part),
})
export type Sheet = z.infer<typeof Sheet>
export type { Part, PartTypeId } from './registry'

/** Paper sizes, upright, in millimetres (ISO 216 and ANSI/ASME Y14.1). */
export const pageSizes = {
  A0: [841, 1189],
  A1: [594, 841],
  A2: [420, 594],
  A3: [297, 420],
  A4: [210, 297],
  A5: [148, 210],
  'US Letter': [215.9, 279.4],
  'US Legal': [215.9, 355.6],
  'US Tabloid': [279.4, 431.8],
} as const satisfies Record<string, readonly [number, number]>

export type PageSizeName = keyof typeof pageSizes

/** The name of a page's paper size and how it lies, or null for a size of its own. */
export function pageSizeOf({
  widthMm,
  heightMm,
}: Sheet['page']): { name: PageSizeName; landscape: boolean } | null {
  for (const [name, [w, h]] of Object.entries(pageSizes) as [PageSizeName, readonly [number, number]][]) {
    if (Math.abs(widthMm - w) < 0.05 && Math.abs(heightMm - h) < 0.05) return { name, landscape: false }
    if (Math.abs(widthMm - h) < 0.05 && Math.abs(heightMm - w) < 0.05) return { name, landscape: true }
  }
  return null
}
