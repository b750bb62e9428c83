'use client'
import type { CellClassPlan } from '@/core/kinds/cell-classes/plan'
import { Section } from '../../kit/controls'
import { SchemePicker } from '../colours/scheme-picker'
import { CellsRow, ValueSection, WithoutValueRows } from './band-rows'
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
      <ValueSection s={s} prepared={prepared} onChange={change} />
      <Section title="Fill">
        <ColoursRow colouring={s} classes={s.classes}>
          <SchemePicker colouring={s} count={s.unclassed ? 5 : count} onChange={change} />
        </ColoursRow>
        <CellsRow cells={s.cells} onChange={change} />
        <WithoutValueRows missing={s.missing} onChange={change} />
      </Section>
    </>
  )
}

export const cellClassesUi: KindUi = { Picker, Settings }
