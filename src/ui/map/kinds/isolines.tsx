'use client'
import type { SurfacePlan } from '@/core/kinds/surfaces/plan'
import { Row, Section, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { CellSize } from './cell-size'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { SurfaceSections, surfacePicker } from './surface-form'

function Picker(props: PickerProps) {
  const { s, change } = editingOf('isolines', props.layer)
  return surfacePicker(props, { look: s, onChange: change })
}

function Settings({ layer, prepared, plan }: SettingsProps) {
  const { s, change } = editingOf('isolines', layer)
  const bands = prepared.dataset.raster?.bands ?? 1
  return (
    <>
      <Section title="Values">
        {bands > 1 && (
          <Row label="Band">
            <Select
              label="Band"
              value={String(s.band)}
              options={Array.from({ length: bands }, (_, i) => ({ value: String(i), label: String(i + 1) }))}
              onChange={(band) => change('Band', (d) => void (d.band = Number(band)))}
            />
          </Row>
        )}
        <Row label="What">
          <TextField
            label="What the values are"
            value={s.what}
            onChange={(what) => change('What the values are', (d) => void (d.what = what))}
          />
        </Row>
        <Row label="Unit">
          <TextField
            label="Unit of the values"
            value={s.unit}
            onChange={(unit) => change('Unit of the values', (d) => void (d.unit = unit))}
          />
        </Row>
        <CellSize
          km={s.cellKm}
          onChange={(km) => change('Side of a cell', (d) => void (d.cellKm = km), 'cell')}
        />
        <Row label="Without">
          <NumberField
            label="Size of details that are smoothed away"
            value={s.smoothKm}
            unit="km details"
            min={0}
            max={5000}
            step={1}
            decimals={2}
            onChange={(km) => change('Details smoothed away', (d) => void (d.smoothKm = km), 'smooth km')}
          />
        </Row>
      </Section>
      <SurfaceSections
        look={s}
        plan={plan as SurfacePlan | null}
        doubt={null}
        onChange={change}
        layer={layer}
      />
    </>
  )
}

export const isolinesUi: KindUi = { Picker, Settings }
