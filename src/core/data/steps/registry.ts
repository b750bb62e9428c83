import { z } from 'zod'
import { correct } from './correct'
import { countPoints } from './count-points'
import { derive } from './derive'
import { filter } from './filter'
import { join } from './join'
import { merge, summarise } from './merge'
import { areasToBorders, areasToPoints, buffer, clip, grid, simplify, splitOff } from './shapes'
import { stack } from './stack'
import type { StepKind } from './step'

/** Every kind of prep step, one line each, in the order in which they are offered. */
const kinds = {
  join,
  derive,
  correct,
  filter,
  merge,
  summarise,
  'count-points': countPoints,
  stack,
  grid,
  'areas-to-points': areasToPoints,
  'areas-to-borders': areasToBorders,
  simplify,
  clip,
  buffer,
  'split-off': splitOff,
}

export type StepType = keyof typeof kinds
export const stepTypes = Object.keys(kinds) as StepType[]

/** A step as it stands in a folio. */
export type PrepStep = {
  [T in StepType]: { type: T; id: string; on: boolean; settings: z.infer<(typeof kinds)[T]['settings']> }
}[StepType]

export const PrepStep = z.discriminatedUnion(
  'type',
  stepTypes.map((type) =>
    z.object({ type: z.literal(type), id: z.string(), on: z.boolean(), settings: kinds[type].settings }),
  ) as unknown as [z.ZodObject<{ type: z.ZodLiteral<StepType> }>],
) as unknown as z.ZodType<PrepStep>

/** A kind whose settings are opaque, for code that serves every kind. */
export type AnyStepKind = StepKind<unknown>

export const stepKindOf = (type: StepType): AnyStepKind => kinds[type] as unknown as AnyStepKind

/** The datasets a step draws on. */
export const stepNeeds = (step: PrepStep): string[] => stepKindOf(step.type).needs(step.settings)
