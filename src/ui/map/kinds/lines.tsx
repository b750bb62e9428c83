'use client'
import { Plus, X } from 'lucide-react'
import type { Prepared } from '@/core/data/prepare'
import { colourBy, widthBy } from '@/core/kinds/lines'
import type { LinePlan } from '@/core/kinds/lines/plan'
import { Button, Check, IconButton, Row, Section } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { SchemePicker } from '../colours/scheme-picker'
import { AnchorRow, widthLimits } from './anchor-row'
import { LegendValues } from './size-legend'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'

const numbersOf = (prepared: Prepared) =>
  prepared.dataset.fields
    .filter(({ key, column }) => column.kind === 'number' && prepared.fieldMeta(key).role !== 'code')
    .map(({ key }) => ({ value: key, label: `by ${prepared.fieldMeta(key).label.toLowerCase()}` }))

function Picker({ control, layer, prepared, close, plan: made }: PickerProps) {
  const { s, change } = editingOf('lines', layer)
  const alike = { value: '', label: 'alike' }
  if (control === 'field')
    return (
      <ChoiceList
        value={s.width?.field ?? ''}
        options={[alike, ...numbersOf(prepared)]}
        onPick={(field) => {
          change(
            field ? `Width by ${prepared.fieldMeta(field).label}` : 'Width alike',
            (d) => void (d.width = field ? widthBy(field, prepared) : null),
          )
          close()
        }}
      />
    )
  if (control === 'colour-by')
    return (
      <ChoiceList
        value={s.colour?.field ?? ''}
        options={[alike, ...numbersOf(prepared)]}
        onPick={(field) => {
          change(
            field ? `Colour by ${prepared.fieldMeta(field).label}` : 'Colour alike',
            (d) => void (d.colour = field ? colourBy(field) : null),
          )
          close()
        }}
      />
    )
  if (control === 'size' && s.width)
    return (
      <div className="w-72">
        <AnchorRow
          size="width"
          value={s.width.value}
          sizeMm={s.width.widthMm}
          limits={widthLimits}
          onValue={(value) => change('Anchor of widths', (d) => void (d.width && (d.width.value = value)))}
          onSize={(mm) =>
            change('Width of lines', (d) => void (d.width && (d.width.widthMm = mm)), 'anchor width')
          }
        />
        <Row label="At least">
          <NumberField
            label="Least width of a line"
            value={s.width.leastMm}
            unit="mm"
            min={0}
            max={10}
            step={0.05}
            onChange={(mm) => change('Least width', (d) => void (d.width && (d.width.leastMm = mm)), 'least')}
          />
        </Row>
      </div>
    )
  if (control === 'colours' && s.colour)
    return (
      <SchemePicker
        colouring={s.colour.colouring}
        count={(made as LinePlan).labels.length || 4}
        onChange={(name, recipe, merge) => change(name, (d) => d.colour && recipe(d.colour.colouring), merge)}
      />
    )
  return null
}

function Settings({ layer, plan: made }: SettingsProps) {
  const { s, change } = editingOf('lines', layer)
  const marks = (made as LinePlan).marks.map(({ value }) => value)
  return (
    <Section title="Lines">
      {!s.colour && (
        <Row label="Colour">
          <ColourField
            label="Colour of lines"
            value={s.plainColour}
            onChange={(colour) => change('Colour of lines', (d) => void (d.plainColour = colour), 'colour')}
          />
        </Row>
      )}
      {!s.width && (
        <Row label="Width">
          <NumberField
            label="Width of lines"
            value={s.plainWidthMm}
            unit="mm"
            min={0.05}
            max={60}
            step={0.1}
            onChange={(mm) => change('Width of lines', (d) => void (d.plainWidthMm = mm), 'width')}
          />
        </Row>
      )}
      <Row label="Casing">
        <Check
          label="On"
          checked={s.casing !== null}
          onChange={(on) =>
            change(
              on ? 'Casing' : 'No casing',
              (d) => void (d.casing = on ? { colour: '#ffffff', widthMm: 0.3 } : null),
            )
          }
        />
        {s.casing && (
          <ColourField
            label="Colour of the casing"
            value={s.casing.colour}
            onChange={(colour) =>
              change(
                'Colour of the casing',
                (d) => void (d.casing && (d.casing.colour = colour)),
                'casing colour',
              )
            }
          />
        )}
        {s.casing && (
          <NumberField
            label="Width of the casing"
            value={s.casing.widthMm}
            unit="mm"
            min={0.05}
            max={20}
            step={0.1}
            onChange={(mm) =>
              change('Width of the casing', (d) => void (d.casing && (d.casing.widthMm = mm)), 'casing width')
            }
          />
        )}
      </Row>
      <Row label="Shade">
        <Check
          label="On"
          checked={s.shadow !== null}
          onChange={(on) =>
            change(
              on ? 'Shade' : 'No shade',
              (d) => void (d.shadow = on ? { colour: '#3a3a3a', widthMm: 1, opacity: 0.4 } : null),
            )
          }
        />
        {s.shadow && (
          <ColourField
            label="Colour of the shade"
            value={s.shadow.colour}
            onChange={(colour) =>
              change(
                'Colour of the shade',
                (d) => void (d.shadow && (d.shadow.colour = colour)),
                'shade colour',
              )
            }
          />
        )}
        {s.shadow && (
          <NumberField
            label="Width of the shade"
            value={s.shadow.widthMm}
            unit="mm"
            min={0.1}
            max={20}
            step={0.2}
            onChange={(mm) =>
              change('Width of the shade', (d) => void (d.shadow && (d.shadow.widthMm = mm)), 'shade width')
            }
          />
        )}
      </Row>
      {s.over.map((one, i) => (
        <Row key={i} label={`Stroke ${i + 2}`}>
          <ColourField
            label={`Colour of stroke ${i + 2}`}
            value={one.colour}
            onChange={(colour) =>
              change('Colour of a stroke', (d) => void (d.over[i].colour = colour), `over colour ${i}`)
            }
          />
          <NumberField
            label={`Width of stroke ${i + 2}`}
            value={one.share * 100}
            unit="%"
            min={2}
            max={100}
            step={5}
            decimals={0}
            onChange={(n) =>
              change('Width of a stroke', (d) => void (d.over[i].share = n / 100), `over share ${i}`)
            }
          />
          <IconButton
            label={`Without stroke ${i + 2}`}
            onClick={() => change('One stroke less', (d) => void d.over.splice(i, 1))}
          >
            <X size={13} />
          </IconButton>
        </Row>
      ))}
      {s.over.length < 4 && (
        <Row label={s.over.length ? '' : 'Strokes on it'}>
          <Button
            className="!h-6 !text-xs"
            onClick={() =>
              change(
                'One stroke more',
                (d) => void d.over.push({ colour: '#ffffff', share: 0.4, dashed: false }),
              )
            }
          >
            <Plus size={12} /> stroke
          </Button>
        </Row>
      )}
      <Row label="Offset">
        <NumberField
          label="Offset to the right"
          value={s.offsetMm}
          unit="mm"
          min={-20}
          max={20}
          step={0.2}
          onChange={(mm) => change('Offset of lines', (d) => void (d.offsetMm = mm), 'offset')}
        />
        <Check
          label="Dashed"
          checked={s.dashed}
          onChange={(dashed) => change('Dashes', (d) => void (d.dashed = dashed))}
        />
      </Row>
      {s.width && marks.length > 0 && (
        <LegendValues
          values={s.legendValues}
          proposed={marks}
          onValues={(values) => change('Values of the legend', (d) => void (d.legendValues = values))}
        />
      )}
      <Row label="Opacity">
        <NumberField
          label="Opacity of lines"
          value={s.opacity * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          decimals={0}
          onChange={(n) => change('Opacity of lines', (d) => void (d.opacity = n / 100), 'line opacity')}
        />
      </Row>
    </Section>
  )
}

export const linesUi: KindUi = { Picker, Settings }
