import { z } from 'zod'
import type { PartType } from './part'
import { legend } from './parts/legend'
import { panel } from './parts/panel'
import { scaleBar } from './parts/scale-bar'
import { text } from './parts/text'

/** Every type of part, one line each, in the order of the tray. */
const types = {
  panel,
  legend,
  'scale-bar': scaleBar,
  text,
}

export type PartTypeId = keyof typeof types
export const partTypeIds = Object.keys(types) as PartTypeId[]

type Common = {
  id: string
  name: string
  box: { x: number; y: number; width: number; height: number }
  hidden: boolean
  locked: boolean
}

/** A part as it stands in a folio: what all parts have, and its own settings. */
export type Part = {
  [T in PartTypeId]: Common & { type: T; settings: z.infer<(typeof types)[T]['settings']> }
}[PartTypeId]

const Millimetres = z.number().min(-10_000).max(10_000)

export const Part = z.discriminatedUnion(
  'type',
  partTypeIds.map((type) =>
    z.object({
      id: z.string(),
      type: z.literal(type),
      name: z.string(),
      box: z.object({ x: Millimetres, y: Millimetres, width: Millimetres, height: Millimetres }),
      hidden: z.boolean(),
      locked: z.boolean(),
      settings: types[type].settings,
    }),
  ) as unknown as [z.ZodObject<{ type: z.ZodLiteral<PartTypeId> }>],
) as unknown as z.ZodType<Part>

export type AnyPartType = PartType<unknown>

export const partTypeOf = (type: PartTypeId): AnyPartType => types[type] as AnyPartType
