import { z } from 'zod'
import type { Colour } from '@/core/scene/paint'
import { colourDifference, seenAs, tellingApart, type Vision } from './difference'
import { OwnRamp, rampAt } from './ramp'
import { rampColour, schemeColours, schemeIds, schemes, type SchemeKind } from './schemes'

/** How values in order are coloured; the settings of kinds that do so hold these. */
export const colouringShape = {
  scheme: z.enum(schemeIds),
  /** A scheme of the cartographer's own, in place of `scheme`. */
  ramp: OwnRamp.nullable().default(null),
  reversed: z.boolean(),
  /** The part of the ramp that is used, as shares of it. */
  trim: z.tuple([z.number().min(0).max(0.45), z.number().min(0.55).max(1)]).default([0, 1]),
}
export const Colouring = z.object(colouringShape)
export type Colouring = z.infer<typeof Colouring>

export const colouringLabel = ({ scheme, ramp }: Pick<Colouring, 'scheme' | 'ramp'>): string =>
  ramp?.name ?? schemes[scheme].label

export function colouringKind({ scheme, ramp }: Pick<Colouring, 'scheme' | 'ramp'>): SchemeKind {
  if (!ramp) return schemes[scheme].kind
  return ramp.colours.length === 3 ? 'diverging' : 'sequential'
}

/** The colour at a share (0 to 1) of a colouring. */
export function shadeOf({ scheme, ramp, reversed, trim: [from, to] }: Colouring, share: number): Colour {
  const t = from + (to - from) * (reversed ? 1 - share : share)
  return ramp ? rampAt(ramp, t) : rampColour(scheme, t)
}

/** Colours for `count` classes, low to high. */
export function coloursFor(colouring: Colouring, count: number): Colour[] {
  const whole = colouring.trim[0] === 0 && colouring.trim[1] === 1
  if (!colouring.ramp && whole) return schemeColours(colouring.scheme, count, colouring.reversed)
  return Array.from({ length: count }, (_, i) => shadeOf(colouring, count === 1 ? 0.6 : i / (count - 1)))
}

const lacking: readonly Vision[] = ['deuteranopia', 'protanopia', 'tritanopia']

/**
 * Whether colour-blind readers, and a grey copy, can tell every class from every other one: the two ends of a
 * scheme in two directions as well.
 */
export function safetyOf(colours: Colour[]): { colourBlind: boolean; grey: boolean } {
  const apart = (vision: Vision): boolean => {
    const seen = colours.map((colour) => seenAs(colour, vision))
    return seen.every((colour, i) =>
      seen.slice(i + 1).every((other) => colourDifference(colour, other) >= tellingApart),
    )
  }
  return { colourBlind: lacking.every(apart), grey: apart('grey') }
}
