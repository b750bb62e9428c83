import { z } from 'zod'
import { taggedUnion, type Tagged } from '@/core/registry/tagged-union'
import { classify } from './classify'
import { complete } from './complete'
import { correct } from './correct'
import { countPoints } from './count-points'
import { derive } from './derive'
import { filter } from './filter'
import { join } from './join'
import { merge, summarise } from './merge'
import { nearest } from './nearest'
import { overlay } from './overlay'
import { areasToBorders, areasToPoints, buffer, clip, grid, simplify, splitOff } from './shapes'
import { running } from './running'
import { longToWide, wideToLong } from './spread'
import { withinReach } from './within-reach'
import { stack } from './stack'
import { density, interpolate, isolines } from './surfaces'
import { calculate } from './raster/calculate'
import { clipCells } from './raster/clip'
import { inAreas } from './raster/in-areas'
import { reclassify } from './raster/reclassify'
import { smooth } from './raster/smooth'
import { terrain } from './raster/terrain'
import { underPoints } from './raster/under-points'
import type { StepKind } from './step'

/** Every kind of prep step, one line each, in the order in which they are offered. */
const kinds = {
  join,
  derive,
  complete,
  classify,
  correct,
  filter,
  merge,
  summarise,
  'count-points': countPoints,
  nearest,
  overlay,
  stack,
  'long-to-wide': longToWide,
  'wide-to-long': wideToLong,
  running,
  grid,
  'areas-to-points': areasToPoints,
  'areas-to-borders': areasToBorders,
  simplify,
  clip,
  buffer,
  'split-off': splitOff,
  'within-reach': withinReach,
  density,
  interpolate,
  isolines,
  'values-under-points': underPoints,
  'statistics-in-areas': inAreas,
  terrain,
  smooth,
  reclassify,
  'formula-over-cells': calculate,
  'clip-cells': clipCells,
}

export type StepType = keyof typeof kinds
export const stepTypes = Object.keys(kinds) as StepType[]

const common = { id: z.string(), on: z.boolean() }

/** A step as it stands in a folio. */
export type PrepStep = Tagged<typeof kinds, 'type', z.infer<z.ZodObject<typeof common>>>
export const PrepStep: z.ZodType<PrepStep> = taggedUnion('type', kinds, common)

/** A kind whose settings are opaque, for code that serves every kind. */
export type AnyStepKind = StepKind<unknown>

export const stepKindOf = (type: StepType): AnyStepKind => kinds[type] as AnyStepKind

/** The datasets a step draws on. */
export const stepNeeds = (step: PrepStep): string[] => stepKindOf(step.type).needs(step.settings)
