/** A colour written `#rrggbb` or `#rrggbbaa`. */
export type Colour = string

export type Stop = { offset: number; colour: Colour }

/** What fills an outline. Coordinates and lengths are paper millimetres in the node's own space. */
export type Paint =
  | { type: 'solid'; colour: Colour }
  | { type: 'linear'; from: [number, number]; to: [number, number]; stops: Stop[] }
  | { type: 'radial'; centre: [number, number]; radius: number; stops: Stop[] }
  | {
      type: 'hatch'
      colour: Colour
      background: Colour | null
      angleDeg: number
      spacingMm: number
      widthMm: number
      /** Parallel lines unless it says otherwise: crossed ones, or dots as wide as the lines. */
      form?: 'crossed' | 'dots'
    }

export type Stroke = {
  colour: Colour
  widthMm: number
  dashMm: number[]
  cap: 'butt' | 'round' | 'square'
  join: 'miter' | 'round' | 'bevel'
}

export const blendModes = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'soft-light',
] as const
export type BlendMode = (typeof blendModes)[number]

export const solid = (colour: Colour): Paint => ({ type: 'solid', colour })

export const stroke = (colour: Colour, widthMm: number, more: Partial<Stroke> = {}): Stroke => ({
  colour,
  widthMm,
  dashMm: [],
  cap: 'round',
  join: 'round',
  ...more,
})

/**
 * Channels of a colour: red, green and blue 0–255, alpha 0–1.
 * @throws RangeError for anything but `#rrggbb` or `#rrggbbaa`.
 */
export function channels(colour: Colour): { r: number; g: number; b: number; a: number } {
  if (!/^#([0-9a-f]{6}|[0-9a-f]{8})$/i.test(colour))
    throw new RangeError(`‘${colour}’ is not a colour of the form #rrggbb or #rrggbbaa.`)
  const at = (i: number) => parseInt(colour.slice(i, i + 2), 16)
  return { r: at(1), g: at(3), b: at(5), a: colour.length === 9 ? at(7) / 255 : 1 }
}

/** The same colour with its alpha multiplied by `opacity` (0–1). */
export function withOpacity(colour: Colour, opacity: number): Colour {
  const { a } = channels(colour)
  const alpha = Math.round(a * opacity * 255)
  return alpha >= 255 ? colour.slice(0, 7) : colour.slice(0, 7) + alpha.toString(16).padStart(2, '0')
}
