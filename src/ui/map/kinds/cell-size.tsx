'use client'
import { Row } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'

/** The side of the cells that a surface is reckoned on; by rule until somebody sets it. */
export function CellSize({ km, onChange }: { km: number | null; onChange: (km: number | null) => void }) {
  return (
    <Row label="Cells">
      {km === null ? (
        <button type="button" className="link text-xs" onClick={() => onChange(1)}>
          by rule
        </button>
      ) : (
        <>
          <NumberField
            label="Side of a cell"
            value={km}
            unit="km"
            min={0.001}
            max={5000}
            step={km / 10}
            decimals={3}
            onChange={onChange}
          />
          <button type="button" className="link text-xs" onClick={() => onChange(null)}>
            by rule
          </button>
        </>
      )}
    </Row>
  )
}
