import { z } from 'zod'
import { MapView } from '@/core/map/spec'

export const PanelSettings = z.object({
  mapId: z.string(),
  view: MapView,
  frame: z.object({ colour: z.string().regex(/^#[0-9a-f]{6}$/i), widthPt: z.number().min(0).max(20) }),
})
export type PanelSettings = z.infer<typeof PanelSettings>
