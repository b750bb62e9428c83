'use client'
import { formatNumber } from '@/core/classify/labels'
import { contrastLabels } from '@/core/kinds/contrast'
import type { ContrastPlan } from '@/core/kinds/contrast/plan'
import { contrasts } from '@/core/kinds/contrast/spec'
import { Button, Check, Row, Section, Segments, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { SchemePicker } from '../colours/scheme-picker'
import { shadeBeneath } from '../edit-map'
import { classingPicker } from './classing-picker'
import { FieldPicker, PerPicker } from './field-picker'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'

function Picker(props: PickerProps) {
  const { control, layer, prepared, close, plan: made } = props
  const { s, change } = editingOf('contrast', layer)
  const plan = made as ContrastPlan | null
  if (control === 'field')
    return (
      <FieldPicker
        value={s.field}
        prepared={prepared}
        onPick={(field, label) => {
          change(`Contrast of ${label}`, (d) => void (d.field = field))
          close()
        }}
      />
    )
  if (control === 'per')
    return (
      <PerPicker
        shown={s}
        prepared={prepared}
        onChange={(name, next) => change(name, (d) => void Object.assign(d, next))}
      />
    )
  if (control === 'size')
    return (
      <ChoiceList
        value={s.contrast}
        options={contrasts.map((value) => ({ value, label: contrastLabels[value] }))}
        onPick={(contrast) => {
          change(`By the ${contrastLabels[contrast]}`, (d) => {
            d.contrast = contrast
            // A limit in one unit says nothing in another.
            d.least = null
          })
          close()
        }}
      />
    )
  if (control === 'shape')
    return (
      <ChoiceList
        value={s.width}
        options={[
          { value: 'proportional' as const, label: 'in proportion' },
          { value: 'classes' as const, label: 'in classes' },
        ]}
        onPick={(width) => {
          change('Widths of borders', (d) => void (d.width = width))
          close()
        }}
      />
    )
  return classingPicker(props, s, { result: plan?.classification })
}

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('contrast', layer)
  const plan = made as ContrastPlan | null
  return (
    <Section title="Borders">
      <Row label="By">
        <Select
          label="Kind of contrast"
          value={s.contrast}
          options={contrasts.map((value) => ({ value, label: contrastLabels[value] }))}
          onChange={(contrast) =>
            change(`By the ${contrastLabels[contrast]}`, (d) => {
              d.contrast = contrast
              d.least = null
            })
          }
        />
      </Row>
      <Segments
        label="Widths"
        value={s.width}
        options={[
          { value: 'proportional', label: 'in proportion' },
          { value: 'classes', label: 'in classes' },
        ]}
        onChange={(width) => change('Widths of borders', (d) => void (d.width = width))}
      />
      <Row label="Widest">
        <NumberField
          label="Widest border"
          value={s.widestPt}
          unit="pt"
          min={0.1}
          max={40}
          step={0.5}
          decimals={1}
          onChange={(pt) => change('Widest border', (d) => void (d.widestPt = pt), 'widest')}
        />
      </Row>
      <Row label="Not under">
        <NumberField
          label="Least contrast with a line"
          value={s.least ?? 0}
          min={0}
          step={Number(((plan?.largest ?? 1) / 50).toPrecision(1)) || 0.1}
          decimals={3}
          onChange={(n) => change('Least contrast', (d) => void (d.least = n > 0 ? n : null), 'least')}
        />
      </Row>
      <Check
        label="On the higher side only"
        checked={s.oneSided}
        onChange={(on) => change(on ? 'On the higher side' : 'On both sides', (d) => void (d.oneSided = on))}
      />
      <Check
        label="Colours of the classes"
        checked={s.coloured}
        onChange={(on) => change(on ? 'Colours by class' : 'One colour', (d) => void (d.coloured = on))}
      />
      {s.coloured ? (
        <SchemePicker colouring={s} count={s.classes} onChange={change} />
      ) : (
        <Row label="Colour">
          <ColourField
            label="Colour of borders"
            value={s.colour}
            onChange={(colour) => change('Colour of borders', (d) => void (d.colour = colour), 'colour')}
          />
        </Row>
      )}
      <Button onClick={() => shadeBeneath(layer, prepared, s)}>Shade the areas beneath</Button>
      {plan && (
        <p className="text-xs text-muted">
          {formatNumber(plan.low.length, 0)} borders
          {plan.leftOut > 0 && `, ${formatNumber(plan.leftOut, 0)} with too little contrast`}
          {plan.missing > 0 && `, ${formatNumber(plan.missing, 0)} beside a missing value`}
        </p>
      )}
    </Section>
  )
}

export const contrastUi: KindUi = { Picker, Settings }
