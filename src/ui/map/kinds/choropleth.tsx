'use client'
import type { ChoroplethPlan } from '@/core/kinds/choropleth/plan'
import type { ChoroplethSettings } from '@/core/kinds/choropleth/spec'
import { Check, Row, Section, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { SchemePicker } from '../colours/scheme-picker'
import { MidpointPicker } from '../midpoint'
import { AreaLookSections, MissingRows } from './area-look'
import { classingPicker, ColoursRow } from './classing-picker'
import { FieldPicker, PerPicker } from './field-picker'
import { editingOf, type Change, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { ScaleList } from './scale-list'

/** The settings by which a layer is shaded, of a choropleth or what shades as one. */
function shadingOf(layer: SettingsProps['layer']): {
  s: ChoroplethSettings
  change: Change<ChoroplethSettings>
} {
  const { kind } = layer.symbology
  if (kind === 'cartogram') {
    const { s, change } = editingOf(kind, layer)
    return { s, change: (name, recipe, merge) => change(name, (draft) => recipe(draft), merge) }
  }
  if (kind === 'blocks') {
    const { s, change } = editingOf(kind, layer)
    return { s, change: (name, recipe, merge) => change(name, (draft) => recipe(draft), merge) }
  }
  return editingOf('choropleth', layer)
}

/** What opens under the words of a sentence that say how areas are shaded. */
export function ShadePicker(props: PickerProps) {
  const { control, layer, prepared, close, plan: made } = props
  const { s: settings, change } = shadingOf(layer)
  const plan = made as ChoroplethPlan
  if (control === 'field')
    return (
      <FieldPicker
        value={settings.field}
        prepared={prepared}
        onPick={(field, label) => {
          change(`Shade by ${label}`, (s) => {
            s.field = field
            // The error of one field says nothing of another.
            s.uncertainty = null
          })
          close()
        }}
      />
    )
  if (control === 'per')
    return (
      <PerPicker
        shown={settings}
        prepared={prepared}
        onChange={(name, next) => change(name, (s) => void Object.assign(s, next))}
      />
    )
  if (control === 'scale')
    return (
      <ScaleList
        value={settings.unclassed}
        onPick={(scaling) => {
          change('Scale of shades', (s) => void (s.unclassed = scaling))
          close()
        }}
      />
    )
  if (control === 'midpoint') return <MidpointPicker layer={layer} />
  if (control === 'colours') return <Colours layer={layer} prepared={prepared} plan={plan} />
  return classingPicker(props, settings, {
    result: plan.classification,
    noClasses: () => change('No classes', (s) => void (s.unclassed = 'linear')),
  })
}

/** The colours of a choropleth's classes. */
function Colours({ layer, plan: made }: SettingsProps) {
  const { s: settings, change } = shadingOf(layer)
  const plan = made as ChoroplethPlan
  return (
    <SchemePicker
      colouring={settings}
      count={settings.unclassed ? 5 : (plan.classification?.counts.length ?? settings.classes)}
      onChange={change}
    />
  )
}

/** Which values are not reliable, and how that shows. */
function Reliability({ layer, prepared }: SettingsProps) {
  const {
    s: { field, uncertainty },
    change,
  } = shadingOf(layer)
  const errors = prepared.dataset.fields
    .filter(({ key, column }) => column.kind === 'number' && key !== field)
    .map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
  const likely =
    errors.find(({ label }) => /margin of error|coefficient of variation/i.test(label)) ?? errors[0]
  if (!likely) return null
  const set = (part: Partial<NonNullable<typeof uncertainty>>, merge?: string) =>
    change('Reliability', (d) => void (d.uncertainty && Object.assign(d.uncertainty, part)), merge)
  return (
    <Section
      title="Reliability"
      aside={
        <Check
          label="Shown"
          checked={uncertainty !== null}
          onChange={(on) =>
            change(
              on ? 'Show reliability' : 'Hide reliability',
              (d) =>
                void (d.uncertainty = on
                  ? {
                      field: likely.value,
                      measure: /variation/i.test(likely.label) ? 'variation' : 'margin',
                      over: 15,
                      show: 'hatch',
                    }
                  : null),
            )
          }
        />
      }
    >
      {uncertainty && (
        <>
          <Row label="Error in">
            <Select
              label="Field of the error"
              value={uncertainty.field}
              options={errors}
              onChange={(key) => set({ field: key })}
            />
          </Row>
          <Row label="It is">
            <Select
              label="What the error is"
              value={uncertainty.measure}
              options={[
                { value: 'margin', label: 'a margin (90 %)' },
                { value: 'variation', label: 'a variation, %' },
              ]}
              onChange={(measure) => set({ measure })}
            />
          </Row>
          <Row label="Over">
            <NumberField
              label="Unreliable over"
              value={uncertainty.over}
              unit="%"
              min={0}
              step={5}
              onChange={(over) => set({ over }, 'over')}
            />
            <Select
              label="Shown by"
              value={uncertainty.show}
              options={[
                { value: 'hatch', label: 'lines' },
                { value: 'fade', label: 'fading' },
              ]}
              onChange={(show) => set({ show })}
            />
          </Row>
        </>
      )}
    </Section>
  )
}

/** How areas are shaded and outlined. */
export function ShadeSettings({ layer, prepared, plan }: SettingsProps) {
  const { s, change } = shadingOf(layer)
  return (
    <>
      <Section title="Fill">
        <ColoursRow colouring={s} classes={s.classes}>
          <Colours layer={layer} prepared={prepared} plan={plan} />
        </ColoursRow>
        <MissingRows look={s} onChange={change} />
      </Section>
      <Reliability layer={layer} prepared={prepared} plan={plan} />
      <AreaLookSections look={s} prepared={prepared} onChange={change} />
    </>
  )
}

export const choroplethUi: KindUi = { Picker: ShadePicker, Settings: ShadeSettings }
