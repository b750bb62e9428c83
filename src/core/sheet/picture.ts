import { z } from 'zod'

export const pictureTypes = ['image/png', 'image/jpeg', 'image/svg+xml'] as const
export type PictureType = (typeof pictureTypes)[number]

/**
 * A picture of a folio. `id` is the hash of its bytes, which are stored once however often it is used; `widthPx` and
 * `heightPx` are its size in pixels, or in its own units for drawings.
 */
export const PictureEntry = z.object({
  id: z.string().regex(/^[0-9a-f]{32}$/),
  name: z.string().min(1).max(200),
  type: z.enum(pictureTypes),
  widthPx: z.number().positive(),
  heightPx: z.number().positive(),
})
export type PictureEntry = z.infer<typeof PictureEntry>
