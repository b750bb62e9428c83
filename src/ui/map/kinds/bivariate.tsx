'use client'
import { numberWord } from '@/core/classify/labels'
import { coloursFor, colouringLabel } from '@/core/colour/colouring'
import { columnsFor, type BivariatePlan } from '@/core/kinds/bivariate/plan'
import { squareColours, squareIds, squares } from '@/core/kinds/bivariate/palettes'
import { forms } from '@/core/kinds/bivariate/spec'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { ChoiceList, Popover } from '../../kit/popover'
import { SchemePicker, Swatches } from '../colours/scheme-picker'
import { AreaLookSections, MissingRows } from './area-look'
import { FieldPicker, PerPicker } from './field-picker'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'

function Picker({ control, layer, prepared, close }: PickerProps) {
  const { s: settings, change } = editingOf('bivariate', layer)
  const side = control.endsWith('-2') ? 'up' : 'across'
  if (control === 'field' || control === 'field-2')
    return (
      <FieldPicker
        value={settings[side].field}
        prepared={prepared}
        onPick={(field, label) => {
          change(`Shade by ${label}`, (s) => void (s[side].field = field))
          close()
        }}
      />
    )
  if (control === 'per' || control === 'per-2')
    return (
      <PerPicker
        shown={settings[side]}
        prepared={prepared}
        onChange={(name, next) => change(name, (s) => void Object.assign(s[side], next))}
      />
    )
  if (control === 'classes') {
    const suppressing = settings.form === 'suppressing'
    return (
      <ChoiceList
        value={String(settings.up.classes)}
        options={[2, 3, 4].map((n) => ({
          value: String(n),
          label: `${numberWord(suppressing ? columnsFor(n) : n)} by ${numberWord(n)}`,
          note: n === 4 ? 'as many as can be read' : '',
        }))}
        onPick={(n) => {
          change(`${n} classes to a side`, (s) => {
            for (const one of [s.across, s.up]) {
              one.classes = Number(n)
              if (one.method === 'manual') one.method = 'quantile'
            }
          })
          close()
        }}
      />
    )
  }
  if (control === 'colours') return <Colours layer={layer} />
  return null
}

function Colours({ layer }: { layer: Layer }) {
  const { s: settings, change } = editingOf('bivariate', layer)
  if (settings.form !== 'square')
    return (
      <SchemePicker
        colouring={settings.colouring}
        count={settings.form === 'suppressing' ? columnsFor(settings.up.classes) : settings.across.classes}
        onChange={(name, recipe, merge) => change(name, (s) => recipe(s.colouring), merge)}
      />
    )
  return (
    <div className="grid w-64 grid-cols-2 gap-2">
      {squareIds.map((id) => (
        <button
          key={id}
          type="button"
          aria-pressed={id === settings.square}
          onClick={() => change(`Colour ${squares[id].label}`, (s) => void (s.square = id))}
          className={`flex flex-col items-center gap-1 rounded p-2 text-xs hover:bg-base-200 ${id === settings.square ? 'bg-tint font-medium text-primary' : ''}`}
        >
          <SquarePicture cells={squareColours(id, 3, 3)} />
          {squares[id].label}
        </button>
      ))}
    </div>
  )
}

function SquarePicture({ cells }: { cells: string[][] }) {
  return (
    <span className="flex size-12 flex-col-reverse" aria-hidden>
      {cells.map((row, r) => (
        <span key={r} className="flex flex-1">
          {row.map((colour, c) => (
            <span key={c} className="flex-1" style={{ background: colour }} />
          ))}
        </span>
      ))}
    </span>
  )
}

const formWords = {
  square: 'a side of a square',
  fading: 'how strongly it shows',
  suppressing: 'how much is told',
} as const

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('bivariate', layer)
  const plan = made as BivariatePlan
  return (
    <>
      <Section title="Fill">
        <Row label="The second is">
          <Select
            label="What the second field does"
            value={s.form}
            options={forms.map((value) => ({ value, label: formWords[value] }))}
            onChange={(form) => change('What the second field does', (d) => void (d.form = form))}
          />
        </Row>
        <Row label="Colours">
          <Popover
            label="Colours"
            align="end"
            trigger={
              <button
                type="button"
                aria-label={`Colours: ${s.form === 'square' ? squares[s.square].label : colouringLabel(s.colouring)}`}
                className="control flex w-full items-center gap-2"
              >
                {s.form === 'square' ? (
                  <Swatches colours={plan.cells.at(-1) ?? []} />
                ) : (
                  <Swatches colours={coloursFor(s.colouring, 5)} />
                )}
                <span className="truncate">
                  {s.form === 'square' ? squares[s.square].label : colouringLabel(s.colouring)}
                </span>
              </button>
            }
          >
            <Colours layer={layer} />
          </Popover>
        </Row>
        {s.form === 'fading' && (
          <Row label="Fades into">
            <ColourField
              label="Colour that values fade into"
              value={s.ground}
              onChange={(colour) => change('Fades into', (d) => void (d.ground = colour), 'ground')}
            />
          </Row>
        )}
        {s.form !== 'suppressing' && (
          <Check
            label="Legend stands on its corner"
            checked={s.turned}
            onChange={(turned) => change('Turn the legend', (d) => void (d.turned = turned))}
          />
        )}
        <MissingRows look={s} onChange={change} />
      </Section>
      <AreaLookSections look={s} prepared={prepared} onChange={change} />
    </>
  )
}

export const bivariateUi: KindUi = { Picker, Settings }
