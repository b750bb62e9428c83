import { rgb } from 'd3-color'
import * as chromatic from 'd3-scale-chromatic'
import type { Colour } from '@/core/scene/paint'

export type SchemeKind = 'sequential' | 'diverging'
type Scheme = {
  label: string
  kind: SchemeKind
  ramp: (t: number) => string
  classed: readonly (readonly string[])[] | null
}

const scheme = (
  label: string,
  kind: SchemeKind,
  ramp: (t: number) => string,
  classed: readonly (readonly string[])[] | null = null,
): Scheme => ({ label, kind, ramp, classed })

/** The published ramps of d3-scale-chromatic under our own names. */
export const schemes = {
  reed: scheme('Reed', 'sequential', chromatic.interpolateBuGn, chromatic.schemeBuGn),
  meadow: scheme('Meadow', 'sequential', chromatic.interpolateYlGn, chromatic.schemeYlGn),
  moss: scheme('Moss', 'sequential', chromatic.interpolateGreens, chromatic.schemeGreens),
  inlet: scheme('Inlet', 'sequential', chromatic.interpolateYlGnBu, chromatic.schemeYlGnBu),
  lagoon: scheme('Lagoon', 'sequential', chromatic.interpolateGnBu, chromatic.schemeGnBu),
  fjord: scheme('Fjord', 'sequential', chromatic.interpolatePuBu, chromatic.schemePuBu),
  slate: scheme('Slate', 'sequential', chromatic.interpolateBlues, chromatic.schemeBlues),
  heather: scheme('Heather', 'sequential', chromatic.interpolateBuPu, chromatic.schemeBuPu),
  plum: scheme('Plum', 'sequential', chromatic.interpolateRdPu, chromatic.schemeRdPu),
  ember: scheme('Ember', 'sequential', chromatic.interpolateYlOrRd, chromatic.schemeYlOrRd),
  rust: scheme('Rust', 'sequential', chromatic.interpolateYlOrBr, chromatic.schemeYlOrBr),
  ochre: scheme('Ochre', 'sequential', chromatic.interpolateOrRd, chromatic.schemeOrRd),
  graphite: scheme('Graphite', 'sequential', chromatic.interpolateGreys, chromatic.schemeGreys),
  dusk: scheme('Dusk', 'sequential', (t) => chromatic.interpolateViridis(1 - t)),
  lava: scheme('Lava', 'sequential', (t) => chromatic.interpolateMagma(1 - t)),
  'bark and reed': scheme('Bark and reed', 'diverging', chromatic.interpolateBrBG, chromatic.schemeBrBG),
  'rose and moss': scheme('Rose and moss', 'diverging', chromatic.interpolatePiYG, chromatic.schemePiYG),
  'ember and slate': scheme('Ember and slate', 'diverging', chromatic.interpolateRdBu, chromatic.schemeRdBu),
  'ochre and violet': scheme(
    'Ochre and violet',
    'diverging',
    chromatic.interpolatePuOr,
    chromatic.schemePuOr,
  ),
} as const

export type SchemeId = keyof typeof schemes
export const schemeIds = Object.keys(schemes) as [SchemeId, ...SchemeId[]]

/**
 * Colours for `count` classes, low to high. Published sets are used as they are; other counts are read off
 * the ramp.
 */
export function schemeColours(id: SchemeId, count: number, reversed = false): Colour[] {
  const { classed, ramp } = schemes[id] as Scheme
  const published = classed?.[count]
  const colours = published
    ? [...published]
    : Array.from({ length: count }, (_, i) => ramp(rampPosition(schemes[id].kind, i, count)))
  const hex = colours.map((colour) => rgb(colour).formatHex())
  return reversed ? hex.reverse() : hex
}

/** The colour at a share (0 to 1) of a published ramp. */
export const rampColour = (id: SchemeId, share: number): Colour =>
  rgb(schemes[id].ramp(inward(schemes[id].kind, share))).formatHex()

/** The palest end of a sequential ramp is near the paper's white and is left out. */
const inward = (kind: SchemeKind, share: number): number =>
  kind === 'sequential' ? 0.1 + 0.9 * share : 0.05 + 0.9 * share

const rampPosition = (kind: SchemeKind, i: number, count: number): number =>
  count === 1 ? 0.6 : inward(kind, i / (count - 1))

/** Published sets of colours without an order, under our own names. */
export const unordered: Record<string, { label: string; colours: readonly Colour[] }> = {
  market: { label: 'Market', colours: chromatic.schemeTableau10 },
  harbour: { label: 'Harbour', colours: chromatic.schemeSet2 },
  fair: { label: 'Fair', colours: chromatic.schemeSet1 },
  orchard: { label: 'Orchard', colours: chromatic.schemeDark2 },
  linen: { label: 'Linen', colours: chromatic.schemePastel1 },
  chalk: { label: 'Chalk', colours: chromatic.schemeSet3 },
  pairs: { label: 'Pairs', colours: chromatic.schemePaired },
}
