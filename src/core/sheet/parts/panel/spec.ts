import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { MapView } from '@/core/map/spec'

export const PanelSettings = z.object({
  mapId: z.string(),
  view: MapView,
  frame: z.object({ colour: Hex, widthPt: z.number().min(0).max(20) }),
})
export type PanelSettings = z.infer<typeof PanelSettings>
