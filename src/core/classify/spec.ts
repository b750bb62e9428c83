import { z } from 'zod'
import { Hex } from '@/core/scene/hex'
import { sortedKeys } from '@/core/registry/sorted-record'
import { NumberFormat, plainFormat } from './number-format'
import { methodIds } from './methods'

export const minClasses = 2
export const maxClasses = 12

/** A value, or all values from one to another, taken out of the classification into a class of its own. */
export const SetAside = z.object({
  id: z.string(),
  from: z.number(),
  to: z.number(),
  colour: Hex,
  hatched: z.boolean(),
  label: z.string(),
})
export type SetAside = z.infer<typeof SetAside>

export const midpointKinds = ['zero', 'mean', 'median', 'national', 'typed'] as const
/** The middle of two-sided data: every method then works on either side of it. */
export const Midpoint = z.object({ at: z.enum(midpointKinds), value: z.number() })
export type Midpoint = z.infer<typeof Midpoint>

export const shadings = ['linear', 'square-root', 'logarithmic', 'rank'] as const
export const labelPatterns = ['to', 'dash', 'under', 'over'] as const

const ShownMember = z.object({
  datasetId: z.string(),
  field: z.string(),
  per: z.string().nullable(),
  perCount: z.number().positive(),
})
/** A layer whose kind makes its values, such as a surface: the settings that it makes them by. */
const MadeMember = z.object({ datasetId: z.string(), made: z.record(z.string(), z.unknown()) })

/**
 * One scheme of classes for several layers: with breaks over the values of all of them, or of each by itself.
 */
export const Share = z.object({
  id: z.string(),
  over: z.enum(['all', 'each']),
  members: z.array(z.union([ShownMember, MadeMember])),
})
export type Share = z.infer<typeof Share>
export type ShareMember = Share['members'][number]
/** What stands for the values of one layer that shares a scheme, whatever its dataset. */
export type SharedValues =
  Omit<z.infer<typeof ShownMember>, 'datasetId'> | Omit<z.infer<typeof MadeMember>, 'datasetId'>

/** How values are put into classes; the settings of every kind that has classes hold these. */
export const classingShape = {
  method: z.enum(methodIds),
  classes: z.number().int().min(minClasses).max(maxClasses),
  manualBreaks: z.array(z.number()),
  rounded: z.boolean(),
  /** Width of a class in standard deviations. */
  deviations: z.union([z.literal(1), z.literal(0.5), z.literal(1 / 3)]).default(1),
  /** Width of a class for rounded steps; null lets the number of classes decide. */
  step: z.number().positive().nullable().default(null),
  midpoint: Midpoint.nullable().default(null),
  /** Breaks that stay where they are while the method fits the others around them. */
  locked: z.array(z.number()).default([]),
  /** Which end belongs to a class: `lower` puts a value that equals a break into the class above it. */
  inclusive: z.enum(['lower', 'upper']).default('lower'),
  setAside: z.array(SetAside).default([]),
  /** No classes at all: each value its own shade, along this scale; null has classes. */
  unclassed: z.enum(shadings).nullable().default(null),
  share: Share.nullable().default(null),
  /**
   * Whether the classes of one year of a series are made over all its years, so that they stay while one steps through
   * them; null where nobody chose yet, and then they are not.
   */
  overYears: z.boolean().nullable().default(null),
  labelPattern: z.enum(labelPatterns).default('to'),
  /**
   * Words for single classes in place of their range, by the number of the class from below, with the range
   * that they were written for.
   */
  classWords: z
    .record(z.string(), z.object({ text: z.string(), was: z.string() }))
    .overwrite(sortedKeys)
    .default({}),
  numbers: NumberFormat.default(plainFormat),
}
export const Classing = z.object(classingShape)
export type Classing = z.infer<typeof Classing>

/** What classes start as: natural breaks, rounded. */
export const firstClassing = (classes: number): Classing =>
  Classing.parse({ method: 'natural-breaks', classes, manualBreaks: [], rounded: true })

/** What is needed of it to put values into classes. */
export type ClassifyOptions = Pick<Classing, 'method' | 'classes'> &
  Partial<
    Pick<
      Classing,
      'manualBreaks' | 'rounded' | 'deviations' | 'step' | 'midpoint' | 'locked' | 'inclusive' | 'setAside'
    >
  >
