export const units = {
  metric: [
    { metres: 1000, label: 'km' },
    { metres: 1, label: 'm' },
  ],
  imperial: [
    { metres: 1609.344, label: 'miles' },
    { metres: 0.3048, label: 'feet' },
  ],
} as const

export type UnitSystem = keyof typeof units

/** A bar of a round ground length: `total` in `label`, `parts` equal divisions, `widthMm` on paper. */
export type BarLength = { total: number; label: string; parts: number; widthMm: number }

/**
 * The longest round length (1, 2 or 5 times a power of ten of the unit) that fits into `maxWidthMm`. The
 * larger unit is used where at least one of it fits.
 */
export function barLength(maxWidthMm: number, metresPerMm: number, system: UnitSystem): BarLength {
  const room = maxWidthMm * metresPerMm
  const unit = units[system].find(({ metres }) => room >= metres) ?? units[system][units[system].length - 1]
  const inUnit = room / unit.metres
  const power = 10 ** Math.floor(Math.log10(inUnit) + 1e-12)
  const digit = [5, 2].find((d) => inUnit >= d * power) ?? 1
  const total = Number((digit * power).toPrecision(1))
  return {
    total,
    label: total === 1 && unit.label === 'miles' ? 'mile' : unit.label,
    parts: digit === 5 ? 5 : 2,
    widthMm: (total * unit.metres) / metresPerMm,
  }
}
