import { z } from 'zod'

export const thousandsMarks = {
  ',': 'comma',
  '.': 'point',
  ' ': 'thin space',
  "'": 'apostrophe',
  '': 'none',
} as const
export type ThousandsMark = keyof typeof thousandsMarks

/**
 * How numbers are written for readers: marks, decimals (null: as many as are needed), divided by a power of a
 * thousand, words around them.
 */
export const NumberFormat = z.object({
  decimals: z.number().int().min(0).max(6).nullable(),
  thousands: z.enum(Object.keys(thousandsMarks) as [ThousandsMark, ...ThousandsMark[]]),
  decimalMark: z.enum(['.', ',']),
  /** 1, a thousand, a million or a thousand millions. */
  divideBy: z.union([z.literal(1), z.literal(1e3), z.literal(1e6), z.literal(1e9)]),
  before: z.string(),
  after: z.string(),
})
export type NumberFormat = z.infer<typeof NumberFormat>

export const plainFormat = (): NumberFormat => ({
  decimals: null,
  thousands: ',',
  decimalMark: '.',
  divideBy: 1,
  before: '',
  after: '',
})

/**
 * A number as the format writes it, with `decimals` digits unless the format says how many; a true minus
 * sign, an en dash for what is no number.
 */
export function writeNumber(value: number, format: NumberFormat, decimals: number): string {
  if (!Number.isFinite(value)) return '–'
  const digits = format.decimals ?? decimals
  const shown = Math.abs(value / format.divideBy)
  // What would be nothing but zeros, or hundreds of figures, is written with a power of ten.
  if (format.decimals === null && shown > 0 && (shown >= 1e15 || (decimals >= 6 && shown < 1e-4)))
    return `${value < 0 ? '−' : ''}${format.before}${withPower(shown, format)}${format.after}`
  const size = Math.abs(value / format.divideBy).toFixed(digits)
  const [whole, part] = size.split('.')
  const mark = format.thousands === ' ' ? '\u2009' : format.thousands
  const grouped = mark ? whole.replace(/\B(?=(\d{3})+$)/g, mark) : whole
  const text = part ? `${grouped}${format.decimalMark}${part}` : grouped
  return `${value < 0 && Number(size) !== 0 ? '−' : ''}${format.before}${text}${format.after}`
}

const raised = '⁰¹²³⁴⁵⁶⁷⁸⁹'

/** “1.25 × 10⁻⁷”. */
function withPower(size: number, { decimalMark }: NumberFormat): string {
  const [mantissa, power] = size.toExponential(3).split('e')
  const exponent = [...power.replace('+', '')].map((c) => (c === '-' ? '⁻' : raised[Number(c)])).join('')
  return `${String(Number(mantissa)).replace('.', decimalMark)} × 10${exponent}`
}
