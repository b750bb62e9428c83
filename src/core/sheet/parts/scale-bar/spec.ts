import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { TypeStyle } from '../../type-style'
import { unitSystems } from './length'

/** How a bar looks; the last is no bar but bars for several latitudes, where one cannot be true. */
export const barLooks = {
  line: 'Line with ticks',
  ends: 'Line with end marks',
  blocks: 'Dark and light blocks',
  rows: 'Blocks in two rows',
  stairs: 'Stairs',
  hollow: 'Hollow bar',
  words: 'In words',
  fraction: 'As a fraction',
  diagram: 'Diagram by latitude',
} as const
export type BarLook = keyof typeof barLooks
export const barLookIds = Object.keys(barLooks) as [BarLook, ...BarLook[]]

export const ScaleBarSettings = z.object({
  panelId: z.string().nullable(),
  units: z.enum(unitSystems),
  /** Other units beneath, as a bar of their own; null for none. */
  second: z.enum(unitSystems).nullable().default(null),
  look: z.enum(barLookIds),
  /** Segments right of zero, null as they come; parts of the one left of zero, 0 for none. */
  segments: z
    .object({ right: z.number().int().min(1).max(12).nullable(), left: z.number().int().min(0).max(10) })
    .default({ right: null, left: 0 }),
  /** Only every so many-th division has a number. */
  labelEvery: z.number().int().min(1).max(12).default(1),
  heightMm: z.number().min(0.3).max(20).default(1.4),
  /** The light of two colours; the dark one is that of the lettering. */
  light: Hex.default('#ffffff'),
  style: TypeStyle,
})
export type ScaleBarSettings = z.infer<typeof ScaleBarSettings>
