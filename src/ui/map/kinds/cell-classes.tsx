'use client'
import type { CellClassPlan } from '@/core/kinds/cell-classes/plan'
import { Row, Section, Segments } from '../../kit/controls'
import { SchemePicker } from '../colours/scheme-picker'
import { BandRow, ValueRows, WithoutValueRows } from './band-rows'
import { classingPicker, ColoursRow } from './classing-picker'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { ScaleList } from './scale-list'

function Picker(props: PickerProps) {
  const { control, layer, close } = props
  const { s, change } = editingOf('cell-classes', layer)
  const plan = props.plan as CellClassPlan
  const count = plan?.classification.counts.length ?? s.classes
  if (control === 'colours')
    return <SchemePicker colouring={s} count={s.unclassed ? 5 : count} onChange={change} />
  if (control === 'scale')
    return (
      <ScaleList
        value={s.unclassed}
        onPick={(scaling) => {
          change('Scale of shades', (d) => void (d.unclassed = scaling))
          close()
        }}
      />
    )
  return classingPicker(props, s, {
    result: plan?.classification,
    noClasses: () => change('No classes', (d) => void (d.unclassed = 'linear')),
  })
}

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('cell-classes', layer)
  const plan = made as CellClassPlan
  const count = plan?.classification.counts.length ?? s.classes
  return (
    <>
      <Section title="Values">
        <BandRow
          band={s.band}
          prepared={prepared}
          onChange={(band) => change('Band', (d) => void (d.band = band))}
        />
        <ValueRows s={s} onChange={(name, part) => change(name, (d) => void Object.assign(d, part))} />
      </Section>
      <Section title="Fill">
        <ColoursRow colouring={s} classes={s.classes}>
          <SchemePicker colouring={s} count={s.unclassed ? 5 : count} onChange={change} />
        </ColoursRow>
        <Row label="Cells">
          <Segments
            label="Cells"
            value={s.cells}
            options={[
              { value: 'smooth', label: 'Smooth' },
              { value: 'flat', label: 'Each flat' },
            ]}
            onChange={(cells) => change('Cells', (d) => void (d.cells = cells))}
          />
        </Row>
        <WithoutValueRows missing={s.missing} onChange={change} />
      </Section>
    </>
  )
}

export const cellClassesUi: KindUi = { Picker, Settings }
