'use client'
import { Row, Section } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'

function Picker({ control, layer, prepared, close }: PickerProps) {
  const { s, change } = editingOf('glow', layer)
  if (control !== 'field') return null
  const numbers = prepared.dataset.fields
    .filter(({ column }) => column.kind === 'number')
    .map(({ key }) => ({ value: key, label: `by ${prepared.fieldMeta(key).label.toLowerCase()}` }))
  return (
    <ChoiceList
      value={s.field ?? ''}
      options={[{ value: '', label: 'alike' }, ...numbers]}
      onPick={(field) => {
        change('Light', (d) => void (d.field = field || null))
        close()
      }}
    />
  )
}

const colours = { edge: 'Faint', middle: 'Middle', core: 'Strong' } as const

function Settings({ layer }: SettingsProps) {
  const { s, change } = editingOf('glow', layer)
  return (
    <Section title="Glow">
      <Row label="Reach">
        <NumberField
          label="Reach of the light of a point"
          value={s.radiusMm}
          unit="mm"
          min={0.1}
          max={30}
          step={0.2}
          onChange={(mm) => change('Reach of light', (d) => void (d.radiusMm = mm), 'reach')}
        />
      </Row>
      <Row label="Strength">
        <NumberField
          label="Strength of a single point"
          value={s.strength * 100}
          unit="%"
          min={1}
          max={100}
          step={5}
          decimals={0}
          onChange={(n) => change('Strength of light', (d) => void (d.strength = n / 100), 'strength')}
        />
      </Row>
      {(Object.keys(colours) as (keyof typeof colours)[]).map((key) => (
        <Row key={key} label={colours[key]}>
          <ColourField
            label={`${colours[key]} light`}
            value={s[key]}
            onChange={(colour) => change(`${colours[key]} light`, (d) => void (d[key] = colour), key)}
          />
        </Row>
      ))}
    </Section>
  )
}

export const glowUi: KindUi = { Picker, Settings }
