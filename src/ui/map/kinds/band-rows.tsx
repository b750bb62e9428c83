'use client'
import type { Prepared } from '@/core/data/prepare'
import { Row, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { TextField } from '../../kit/text-field'
import type { Change } from './kind-ui'

/** Which band of a raster is shown, where it has several. */
export function BandRow({
  band,
  prepared,
  onChange,
}: {
  band: number
  prepared: Prepared
  onChange: (band: number) => void
}) {
  const bands = prepared.dataset.raster?.bands ?? 1
  if (bands < 2) return null
  return (
    <Row label="Band">
      <Select
        label="Band"
        value={String(band)}
        options={Array.from({ length: bands }, (_, i) => ({ value: String(i), label: String(i + 1) }))}
        onChange={(next) => onChange(Number(next))}
      />
    </Row>
  )
}

/** What the values of a raster are, and in which unit: it does not say. */
export function ValueRows<S extends { what: string; unit?: string }>({
  s: { what, unit },
  onChange,
}: {
  s: S
  onChange: (name: string, part: Partial<Pick<S, 'what' | 'unit'>>) => void
}) {
  return (
    <>
      <Row label="What">
        <TextField
          label="What the values are"
          value={what}
          onChange={(next) => onChange('What the values are', { what: next } as Partial<S>)}
        />
      </Row>
      {unit !== undefined && (
        <Row label="Unit">
          <TextField
            label="Unit of the values"
            value={unit}
            onChange={(next) => onChange('Unit of the values', { unit: next } as Partial<S>)}
          />
        </Row>
      )}
    </>
  )
}

type Missing = { colour: string; label: string } | null

/** Cells without a value: clear, or in a colour and with a line in the legend. */
export function WithoutValueRows<S extends { missing: Missing }>({
  missing,
  onChange,
}: {
  missing: Missing
  onChange: Change<S>
}) {
  const set = (name: string, next: Missing, merge?: string) =>
    onChange(name, (d) => void ((d as { missing: Missing }).missing = next), merge)
  return (
    <>
      <Row label="Without value">
        <Select
          label="Cells without a value"
          value={missing ? 'coloured' : 'clear'}
          options={[
            { value: 'clear', label: 'clear' },
            { value: 'coloured', label: 'in a colour' },
          ]}
          onChange={(way) =>
            set('Cells without a value', way === 'coloured' ? { colour: '#d9d9d9', label: 'no data' } : null)
          }
        />
        {missing && (
          <ColourField
            label="Colour of cells without a value"
            value={missing.colour}
            onChange={(colour) => set('Cells without a value', { ...missing, colour }, 'missing')}
          />
        )}
      </Row>
      {missing && (
        <Row label="Called">
          <TextField
            label="Label of cells without a value"
            value={missing.label}
            onChange={(label) => set('Label of cells without a value', { ...missing, label })}
          />
        </Row>
      )}
    </>
  )
}
