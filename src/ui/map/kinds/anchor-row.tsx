'use client'
import { Row } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'

/** Widths of lines that can be set, mm. */
export const widthLimits = { min: 0.05, max: 60, step: 0.25 }

/** The anchor of a scale of sizes: the value that is drawn at a given size on paper. */
export function AnchorRow({
  size,
  value,
  sizeMm,
  limits,
  onValue,
  onSize,
}: {
  size: 'size' | 'width'
  value: number
  sizeMm: number
  limits: { min: number; max: number; step: number }
  onValue: (value: number) => void
  onSize: (mm: number) => void
}) {
  return (
    <Row label={`Value, ${size}`}>
      <NumberField label="Value of the anchor" value={value} min={1e-9} decimals={6} onChange={onValue} />
      <NumberField
        label={size === 'size' ? 'Size of the anchor' : 'Width of the anchor'}
        value={sizeMm}
        unit="mm"
        {...limits}
        onChange={onSize}
      />
    </Row>
  )
}
