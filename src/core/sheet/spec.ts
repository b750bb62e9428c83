import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { Part } from './registry'

/**
 * A guide of a sheet: an upright (`x`) or level (`y`) line, in millimetres from the left or top edge, or at a
 * fraction of the page's width or height, which it keeps when the page changes.
 */
export const Guide = z.object({
  id: z.string(),
  axis: z.enum(['x', 'y']),
  at: z.discriminatedUnion('by', [
    z.object({ by: z.literal('mm'), mm: z.number().min(-3000).max(6000) }),
    z.object({ by: z.literal('fraction'), fraction: z.number().min(0).max(1) }),
  ]),
})
export type Guide = z.infer<typeof Guide>

/** Parts that are taken hold of together. `parentId` is the group that it lies in itself. */
export const PartGroupSpec = z.object({
  id: z.string(),
  name: z.string(),
  parentId: z.string().nullable(),
})
export type PartGroupSpec = z.infer<typeof PartGroupSpec>

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
  /** What is printed beyond the edge, to be cut off. */
  bleedMm: z.number().min(0).max(50).default(0),
  guides: z
    .object({ lines: z.array(Guide), locked: z.boolean(), hidden: z.boolean() })
    .default({ lines: [], locked: false, hidden: false }),
  grid: z
    .object({ spacingMm: z.number().min(0.5).max(500), shown: z.boolean(), snaps: z.boolean() })
    .default({ spacingMm: 10, shown: false, snaps: false }),
  background: Hex,
  groups: z.array(PartGroupSpec).default([]),
  parts: z.array(Part),
})
export type Sheet = z.infer<typeof Sheet>
export type { Part, PartTypeId } from './registry'

/** A sheet of which only what is needed is said. */
export const makeSheet = (
  given: Pick<Sheet, 'id' | 'name' | 'page' | 'margins' | 'parts'> & Partial<Sheet>,
): Sheet => ({
  bleedMm: 0,
  guides: { lines: [], locked: false, hidden: false },
  grid: { spacingMm: 10, shown: false, snaps: false },
  background: '#ffffff',
  groups: [],
  ...given,
})

/** Where a guide of a page lies, mm. */
export const guideMm = ({ axis, at }: Guide, { widthMm, heightMm }: Sheet['page']): number =>
  at.by === 'mm' ? at.mm : at.fraction * (axis === 'x' ? widthMm : heightMm)

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
