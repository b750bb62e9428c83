'use client'
import type { Prepared } from '@/core/data/prepare'
import type { ReactNode } from 'react'
import { Row, Section, Segments, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { TextField } from '../../kit/text-field'
import type { Change } from './kind-ui'

type Values = { band: number; what: string; unit?: string }

/** Which band of a raster is shown, and what its values are: it does not say. */
export function ValueSection<S extends Values>({
  s: { band, what, unit },
  prepared,
  onChange,
  children,
}: {
  s: S
  prepared: Prepared
  onChange: Change<S>
  children?: ReactNode
}) {
  const bands = prepared.dataset.raster?.bands ?? 1
  const set = (name: string, part: Partial<Values>) => onChange(name, (d) => void Object.assign(d, part))
  return (
    <Section title="Values">
      {bands > 1 && (
        <Row label="Band">
          <Select
            label="Band"
            value={String(band)}
            options={Array.from({ length: bands }, (_, i) => ({ value: String(i), label: String(i + 1) }))}
            onChange={(next) => set('Band', { band: Number(next) })}
          />
        </Row>
      )}
      <Row label="What">
        <TextField
          label="What the values are"
          value={what}
          onChange={(next) => set('What the values are', { what: next })}
        />
      </Row>
      {unit !== undefined && (
        <Row label="Unit">
          <TextField
            label="Unit of the values"
            value={unit}
            onChange={(next) => set('Unit of the values', { unit: next })}
          />
        </Row>
      )}
      {children}
    </Section>
  )
}

/** Whether values are mixed between the middles of cells, or each cell is flat. */
export function CellsRow<S extends { cells: 'smooth' | 'flat' }>({
  cells,
  onChange,
}: {
  cells: S['cells']
  onChange: Change<S>
}) {
  return (
    <Row label="Cells">
      <Segments
        label="Cells"
        value={cells}
        options={[
          { value: 'smooth', label: 'Smooth' },
          { value: 'flat', label: 'Each flat' },
        ]}
        onChange={(next) => onChange('Cells', (d) => void Object.assign(d, { cells: next }))}
      />
    </Row>
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
