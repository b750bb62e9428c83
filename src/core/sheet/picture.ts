import { z } from 'zod'
import type { Box } from '@/core/scene/outline'
import type { Node } from '@/core/scene/scene'

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

/** What a picture is drawn from: a bitmap, or shapes in a space of their own. */
export type PictureContent =
  | { kind: 'bitmap'; mime: 'image/png' | 'image/jpeg'; bytes: Uint8Array }
  | { kind: 'drawing'; box: Box; nodes: Node[] }

/** Hands out pictures by id; null for those that are not at hand. The same object each time. */
export type Pictures = (id: string) => PictureContent | null
