/** Units of length with their metres, the larger first. */
export const units = {
  metric: [
    { metres: 1000, label: 'km', one: 'km' },
    { metres: 1, label: 'm', one: 'm' },
  ],
  imperial: [
    { metres: 1609.344, label: 'miles', one: 'mile' },
    { metres: 0.3048, label: 'feet', one: 'foot' },
  ],
  nautical: [{ metres: 1852, label: 'nautical miles', one: 'nautical mile' }],
} as const

export type UnitSystem = keyof typeof units
export const unitSystems = Object.keys(units) as [UnitSystem, ...UnitSystem[]]

/** How a bar is divided: so many segments right of zero, null as it comes; one left of zero in so many parts. */
export type Segments = { right: number | null; left: number }

/**
 * A bar of a round ground length: `total` in `label`, `parts` equal divisions of `widthMm` on paper all together; left
 * of zero stands one more division in `left` parts, 0 for none.
 */
export type BarLength = { total: number; label: string; parts: number; widthMm: number; left: number }

/** The largest of 1, 2 or 5 times a power of ten that is no more than `most`. */
function roundDown(most: number): { value: number; digit: number } {
  const power = 10 ** Math.floor(Math.log10(most) + 1e-12)
  const digit = [5, 2].find((d) => most >= d * power) ?? 1
  return { value: Number((digit * power).toPrecision(1)), digit }
}

/**
 * The longest bar of a round length (1, 2 or 5 times a power of ten of the unit) that fits into `maxWidthMm`; where
 * segments are asked for, of as many segments of a round length. The larger unit is used where at least one of it fits.
 */
export function barLength(
  maxWidthMm: number,
  metresPerMm: number,
  system: UnitSystem,
  { right, left }: Segments = { right: null, left: 0 },
): BarLength {
  const room = maxWidthMm * metresPerMm
  const unit = units[system].find(({ metres }) => room >= metres) ?? units[system][units[system].length - 1]
  const inUnit = room / unit.metres
  const made = (total: number, parts: number): BarLength => ({
    total,
    label: total === 1 ? unit.one : unit.label,
    parts,
    widthMm: (total * unit.metres) / metresPerMm,
    left,
  })
  if (right === null && left === 0) {
    const { value, digit } = roundDown(inUnit)
    return made(value, digit === 5 ? 5 : 2)
  }
  const segments = right ?? 4
  const { value } = roundDown(inUnit / (segments + (left > 0 ? 1 : 0)))
  return made(Number((value * segments).toPrecision(12)), segments)
}
