'use client'
import type { Draft } from 'immer'
import { maxClasses, methodIds, methods, minClasses } from '@/core/classify/classify'
import { formatNumber, numberWord } from '@/core/classify/labels'
import { scalings } from '@/core/classify/spec'
import { colouringLabel, coloursFor } from '@/core/colour/colouring'
import { singularUnit } from '@/core/data/field-meta'
import { planOf } from '@/core/map/compose-map'
import type { ChoroplethPlan } from '@/core/kinds/choropleth/plan'
import type { ChoroplethSettings } from '@/core/kinds/choropleth/spec'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList, Popover } from '../../kit/popover'
import { TextField } from '../../kit/text-field'
import { SchemePicker, Swatches } from '../colours/scheme-picker'
import { chooseClasses, chooseMethod } from '../edit-classing'
import { editLayer } from '../edit-map'
import { MidpointPicker } from '../midpoint'
import type { KindUi, PickerProps, SettingsProps } from './kind-ui'

const settingsOf = (layer: Layer): ChoroplethSettings => layer.symbology.settings as ChoroplethSettings

export function change(layer: Layer, name: string, recipe: (settings: Draft<ChoroplethSettings>) => void, merge?: string): void {
  editLayer(layer.id, name, (draft) => draft.symbology.kind === 'choropleth' && recipe(draft.symbology.settings), merge)
}

function Picker({ control, layer, prepared, close }: PickerProps) {
  const settings = settingsOf(layer)
  const plan = planOf(layer, prepared) as ChoroplethPlan
  const numbers = prepared.dataset.fields.filter((field) => field.column.kind === 'number').map(({ key }) => ({ key, meta: prepared.fieldMeta(key) }))
  if (control === 'field')
    return (
      <ChoiceList
        value={settings.field}
        options={numbers.filter(({ meta }) => meta.role !== 'code').map(({ key, meta }) => ({ value: key, label: meta.label, note: [meta.role, meta.unit].filter(Boolean).join(' · ') }))}
        onPick={(field) => {
          change(layer, `Shade by ${prepared.fieldMeta(field).label}`, (s) => {
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
      <div>
        <ChoiceList
          value={settings.per ?? ''}
          options={[{ value: '', label: 'as it is', note: 'not divided' }, ...numbers.filter(({ key, meta }) => meta.role === 'total' && key !== settings.field).map(({ key, meta }) => ({ value: key, label: `per ${singularUnit(meta)}`, note: meta.label }))]}
          onPick={(per) => change(layer, per ? `Divide by ${prepared.fieldMeta(per).label}` : 'Do not divide', (s) => void (s.per = per || null))}
        />
        {settings.per && (
          <div className="mt-1 border-t border-line pt-2">
            <Row label="For so many">
              <NumberField label="Denominator counted in" value={settings.perCount} min={1} step={1} onChange={(n) => change(layer, `Per ${formatNumber(n, 0)}`, (s) => void (s.perCount = n))} />
            </Row>
          </div>
        )}
      </div>
    )
  if (control === 'classes')
    return (
      <ChoiceList
        value={settings.unclassed ? 'none' : String(plan.classification?.counts.length ?? settings.classes)}
        options={[{ value: 'none', label: 'no classes', note: 'each its own shade' }, ...Array.from({ length: maxClasses - minClasses + 1 }, (_, i) => ({ value: String(i + minClasses), label: numberWord(i + minClasses) }))]}
        onPick={(n) => {
          if (n === 'none') change(layer, 'No classes', (s) => void (s.unclassed = 'linear'))
          else chooseClasses(layer, Number(n))
          close()
        }}
      />
    )
  if (control === 'method')
    return (
      <ChoiceList
        value={settings.method}
        options={methodIds.map((id) => ({ value: id, label: methods[id].label, note: methods[id].note }))}
        onPick={(method) => {
          chooseMethod(layer, plan.classification?.breaks ?? [], method)
          close()
        }}
      />
    )
  if (control === 'scale')
    return (
      <ChoiceList
        value={settings.unclassed}
        options={scalings.map((value) => ({ value, label: value === 'rank' ? 'by rank' : value, note: scaleNotes[value] }))}
        onPick={(scaling) => {
          change(layer, 'Scale of shades', (s) => void (s.unclassed = scaling))
          close()
        }}
      />
    )
  if (control === 'midpoint') return <MidpointPicker layer={layer} />
  if (control === 'colours') return <Colours layer={layer} prepared={prepared} />
  return null
}

const scaleNotes = { linear: 'by size', 'square-root': 'large ones held back', logarithmic: 'by ratio', rank: 'evenly spread' }

/** The colours of a choropleth's classes. */
function Colours({ layer, prepared }: SettingsProps) {
  const settings = settingsOf(layer)
  const plan = planOf(layer, prepared) as ChoroplethPlan
  return <SchemePicker colouring={settings} count={settings.unclassed ? 5 : (plan.classification?.counts.length ?? settings.classes)} onChange={(name, recipe, merge) => change(layer, name, recipe, merge)} />
}

/** Which values are not reliable, and how that shows. */
function Reliability({ layer, prepared }: SettingsProps) {
  const { field, uncertainty } = settingsOf(layer)
  const errors = prepared.dataset.fields.filter(({ key, column }) => column.kind === 'number' && key !== field).map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
  const likely = errors.find(({ label }) => /margin of error|coefficient of variation/i.test(label)) ?? errors[0]
  if (!likely) return null
  const set = (part: Partial<NonNullable<typeof uncertainty>>, merge?: string) => change(layer, 'Reliability', (d) => void (d.uncertainty && Object.assign(d.uncertainty, part)), merge)
  return (
    <Section title="Reliability" aside={<Check label="Shown" checked={uncertainty !== null} onChange={(on) => change(layer, on ? 'Show reliability' : 'Hide reliability', (d) => void (d.uncertainty = on ? { field: likely.value, measure: /variation/i.test(likely.label) ? 'variation' : 'margin', over: 15, show: 'hatch' } : null))} />}>
      {uncertainty && (
        <>
          <Row label="Error in">
            <Select label="Field of the error" value={uncertainty.field} options={errors} onChange={(key) => set({ field: key })} />
          </Row>
          <Row label="It is">
            <Select label="What the error is" value={uncertainty.measure} options={[{ value: 'margin', label: 'a margin (90 %)' }, { value: 'variation', label: 'a variation, %' }]} onChange={(measure) => set({ measure })} />
          </Row>
          <Row label="Over">
            <NumberField label="Unreliable over" value={uncertainty.over} unit="%" min={0} step={5} onChange={(over) => set({ over }, 'over')} />
            <Select label="Shown by" value={uncertainty.show} options={[{ value: 'hatch', label: 'lines' }, { value: 'fade', label: 'fading' }]} onChange={(show) => set({ show })} />
          </Row>
        </>
      )}
    </Section>
  )
}

function Settings({ layer, prepared }: SettingsProps) {
  const s = settingsOf(layer)
  return (
    <>
      <Section title="Fill">
        <Row label="Colours">
          <Popover label="Colours" align="end" trigger={<button type="button" aria-label={`Colours: ${colouringLabel(s)}`} className="control flex w-full items-center gap-2"><Swatches colours={coloursFor(s, Math.min(9, s.classes))} /><span className="truncate">{colouringLabel(s)}</span></button>}>
            <Colours layer={layer} prepared={prepared} />
          </Popover>
        </Row>
        <Row label="Missing">
          <ColourField label="Colour of missing values" value={s.missing.colour} onChange={(colour) => change(layer, 'Colour missing values', (d) => void (d.missing.colour = colour), 'missing colour')} />
          <Check label="Hatch" checked={s.missing.hatched} onChange={(hatched) => change(layer, 'Hatch missing values', (d) => void (d.missing.hatched = hatched))} />
        </Row>
        <Row label="Called">
          <TextField label="Label of missing values" value={s.missing.label} onChange={(label) => change(layer, 'Label missing values', (d) => void (d.missing.label = label))} />
        </Row>
      </Section>
      <Reliability layer={layer} prepared={prepared} />
      <Section title="Outline">
        <Row label="Between">
          <ColourField label="Outline colour between areas" value={s.outline.colour} onChange={(colour) => change(layer, 'Outline colour', (d) => void (d.outline.colour = colour), 'outline colour')} />
          <NumberField label="Outline width between areas" value={s.outline.widthPt} unit="pt" min={0} max={20} step={0.05} onChange={(w) => change(layer, 'Outline width', (d) => void (d.outline.widthPt = w), 'outline width')} />
        </Row>
        <Row label="Outer edge">
          <ColourField label="Outer edge colour" value={s.outline.coastColour} onChange={(colour) => change(layer, 'Edge colour', (d) => void (d.outline.coastColour = colour), 'edge colour')} />
          <NumberField label="Outer edge width" value={s.outline.coastWidthPt} unit="pt" min={0} max={20} step={0.05} onChange={(w) => change(layer, 'Edge width', (d) => void (d.outline.coastWidthPt = w), 'edge width')} />
        </Row>
      </Section>
    </>
  )
}

export const choroplethUi: KindUi = { Picker, Settings }
