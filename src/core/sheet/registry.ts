import { z } from 'zod'
import { PlaceMm, SizeMm } from '@/core/scene/bounded'
import { taggedUnion, type Tagged } from '@/core/registry/tagged-union'
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

/** What all parts have: `box` is their place on the page, mm from its top left corner. */
const common = {
  id: z.string(),
  name: z.string(),
  box: z.object({ x: PlaceMm, y: PlaceMm, width: SizeMm, height: SizeMm }),
  hidden: z.boolean(),
  locked: z.boolean(),
}

/** A part as it stands in a folio: what all parts have, and its own settings. */
export type Part = Tagged<typeof types, 'type', z.infer<z.ZodObject<typeof common>>>
export const Part: z.ZodType<Part> = taggedUnion('type', types, common)

export type AnyPartType = PartType<unknown>

export const partTypeOf = (type: PartTypeId): AnyPartType => types[type] as AnyPartType
