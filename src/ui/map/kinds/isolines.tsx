'use client'
import type { SurfacePlan } from '@/core/kinds/surfaces/plan'
import { Row } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { ValueSection } from './band-rows'
import { CellSize } from './cell-size'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { SurfaceSections, surfacePicker } from './surface-form'

function Picker(props: PickerProps) {
  const { s, change } = editingOf('isolines', props.layer)
  return surfacePicker(props, { look: s, onChange: change })
}

function Settings({ layer, prepared, plan }: SettingsProps) {
  const { s, change } = editingOf('isolines', layer)
  return (
    <>
      <ValueSection s={s} prepared={prepared} onChange={change}>
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
      </ValueSection>
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
