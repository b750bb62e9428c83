import { z } from 'zod'
import { PlaceMm, SizeMm } from '@/core/scene/bounded'
import { blendModes } from '@/core/scene/paint'
import { taggedUnion, type Tagged } from '@/core/registry/tagged-union'
import type { PartType } from './part'
import { amountPart } from './parts/amount'
import { callout } from './parts/callout'
import { chart } from './parts/chart'
import { legend } from './parts/legend'
import { panel } from './parts/panel'
import { northArrow } from './parts/north-arrow'
import { picture } from './parts/picture'
import { scaleBar } from './parts/scale-bar'
import { shade } from './parts/shade'
import { shape } from './parts/shape'
import { table } from './parts/table'
import { text } from './parts/text'
import { treemapPart } from './parts/treemap'

/** Every type of part, one line each, in the order of the tray. */
const types = {
  panel,
  legend,
  'scale-bar': scaleBar,
  'north-arrow': northArrow,
  text,
  callout,
  table,
  chart,
  treemap: treemapPart,
  amount: amountPart,
  shape,
  shade,
  picture,
}

export type PartTypeId = keyof typeof types
export const partTypeIds = Object.keys(types) as PartTypeId[]

/**
 * What all parts have: `box` is their place on the page, mm from its top left corner, before they are turned
 * clockwise around its middle.
 */
const common = {
  id: z.string(),
  name: z.string(),
  box: z.object({ x: PlaceMm, y: PlaceMm, width: SizeMm, height: SizeMm }),
  rotationDeg: z.number().min(-180).max(180).default(0),
  opacity: z.number().min(0).max(1).default(1),
  blend: z.enum(blendModes).default('normal'),
  /** The group that it lies in; null for none. Parts of a group follow each other in the pile. */
  groupId: z.string().nullable().default(null),
  hidden: z.boolean(),
  locked: z.boolean(),
}

/** A part as it stands in a folio: what all parts have, and its own settings. */
export type Part = Tagged<typeof types, 'type', z.infer<z.ZodObject<typeof common>>>
export const Part: z.ZodType<Part> = taggedUnion('type', types, common)

export type AnyPartType = PartType<unknown>

type SettingsByType = { [T in PartTypeId]: Extract<Part, { type: T }>['settings'] }
export type SettingsOf<T extends PartTypeId> = SettingsByType[T]

/** The part that has this id, box and settings, with nothing else done to it. */
export const makePart = <T extends PartTypeId>(
  type: T,
  given: Pick<Part, 'id' | 'name' | 'box'> & Partial<Omit<Part, 'type' | 'settings'>>,
  settings: SettingsOf<T>,
): Part =>
  ({
    type,
    rotationDeg: 0,
    opacity: 1,
    blend: 'normal',
    groupId: null,
    hidden: false,
    locked: false,
    ...given,
    settings,
  }) as Part

export const partTypeOf = (type: PartTypeId): AnyPartType => types[type] as AnyPartType
