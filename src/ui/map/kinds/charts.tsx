'use client'
import { unordered } from '@/core/colour/schemes'
import { chartFormWords } from '@/core/kinds/charts/spec'
import { isRound, type ChartPlan } from '@/core/kinds/charts/plan'
import { chartForms } from '@/core/kinds/charts/spec'
import type { Layer } from '@/core/map/spec'
import type { Prepared } from '@/core/data/prepare'
import { Check, Row, Section } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { AnchorRow } from './anchor-row'
import { LegendValues, SizeLegendForm } from './size-legend'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'

function Picker({ control, layer, prepared, close }: PickerProps) {
  const { s, change } = editingOf('charts', layer)
  if (control === 'shape')
    return (
      <ChoiceList
        value={s.form}
        options={chartForms.map((value) => ({ value, label: chartFormWords[value] }))}
        onPick={(form) => {
          change(`Draw ${chartFormWords[form]}`, (d) => void (d.form = form))
          close()
        }}
      />
    )
  if (control === 'field') return <Parts layer={layer} prepared={prepared} />
  if (control === 'size')
    return (
      <div className="w-72">
        <AnchorRow
          size="size"
          value={s.anchor.value}
          sizeMm={s.anchor.sizeMm}
          limits={{ min: 0.2, max: 200, step: 0.5 }}
          onValue={(value) => change('Anchor of charts', (d) => void (d.anchor.value = value))}
          onSize={(mm) => change('Size of charts', (d) => void (d.anchor.sizeMm = mm), 'anchor size')}
        />
        {isRound(s) && (
          <Check
            label="Their area tells the total"
            checked={s.sized}
            onChange={(sized) => change(sized ? 'Size by total' : 'All alike', (d) => void (d.sized = sized))}
          />
        )}
      </div>
    )
  return null
}

/** Which fields the parts are. */
function Parts({ layer, prepared }: { layer: Layer; prepared: Prepared }) {
  const { s, change } = editingOf('charts', layer)
  const numbers = prepared.dataset.fields.filter(
    ({ key, column }) => column.kind === 'number' && prepared.fieldMeta(key).role !== 'code',
  )
  return (
    <ul className="max-h-80 w-64 overflow-y-auto">
      {numbers.map(({ key }) => {
        const on = s.parts.some(({ field }) => field === key)
        return (
          <li key={key}>
            <Check
              label={prepared.fieldMeta(key).label}
              checked={on}
              onChange={(next) =>
                change(
                  next
                    ? `Add ${prepared.fieldMeta(key).label}`
                    : `Leave out ${prepared.fieldMeta(key).label}`,
                  (d) => {
                    if (!next && d.parts.length > 1) d.parts = d.parts.filter(({ field }) => field !== key)
                    if (next && d.parts.length < 12)
                      d.parts.push({
                        field: key,
                        colour:
                          unordered.orchard.colours.find(
                            (colour) => !d.parts.some((part) => part.colour === colour),
                          ) ?? '#888888',
                      })
                  },
                )
              }
            />
          </li>
        )
      })}
    </ul>
  )
}

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('charts', layer)
  const marks = (made as ChartPlan).marks.map(({ value }) => value)
  const onValues = (values: number[]) =>
    change('Values of the size legend', (d) => void (d.legend.values = values))
  return (
    <Section title="Charts">
      {s.parts.map(({ field, colour }, i) => (
        <Row key={field} label={prepared.fieldMeta(field).label}>
          <ColourField
            label={`Colour of ${prepared.fieldMeta(field).label}`}
            value={colour}
            onChange={(next) =>
              change(
                `Colour of ${prepared.fieldMeta(field).label}`,
                (d) => void (d.parts[i].colour = next),
                `part ${i}`,
              )
            }
          />
        </Row>
      ))}
      {s.form === 'ring' && (
        <Row label="Hole">
          <NumberField
            label="Empty part of the ring"
            value={s.hole * 100}
            unit="%"
            min={10}
            max={90}
            step={5}
            decimals={0}
            onChange={(n) => change('Hole of rings', (d) => void (d.hole = n / 100), 'hole')}
          />
        </Row>
      )}
      {isRound(s) ? (
        <Row label="At least">
          <NumberField
            label="Least size of a chart"
            value={s.leastMm}
            unit="mm"
            min={0}
            max={50}
            step={0.25}
            onChange={(mm) => change('Least size', (d) => void (d.leastMm = mm), 'least')}
          />
        </Row>
      ) : (
        <Row label="Bar width">
          <NumberField
            label="Width of bars"
            value={s.barWidthMm}
            unit="mm"
            min={0.2}
            max={30}
            step={0.2}
            onChange={(mm) => change('Bar width', (d) => void (d.barWidthMm = mm), 'bar width')}
          />
        </Row>
      )}
      <Row label="Outline">
        <ColourField
          label="Outline of charts"
          value={s.outline.colour}
          onChange={(next) => change('Outline of charts', (d) => void (d.outline.colour = next), 'outline')}
        />
        <NumberField
          label="Outline width of charts"
          value={s.outline.widthPt}
          unit="pt"
          min={0}
          max={20}
          step={0.1}
          onChange={(w) => change('Outline width', (d) => void (d.outline.widthPt = w), 'outline width')}
        />
      </Row>
      <Row label="Opacity">
        <NumberField
          label="Opacity of charts"
          value={s.opacity * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          decimals={0}
          onChange={(n) => change('Opacity of charts', (d) => void (d.opacity = n / 100), 'chart opacity')}
        />
      </Row>
      {marks.length > 0 &&
        (isRound(s) ? (
          <SizeLegendForm
            form={s.legend.form}
            onForm={(form) => change('Form of the size legend', (d) => void (d.legend.form = form))}
            values={s.legend.values}
            proposed={marks}
            onValues={onValues}
          />
        ) : (
          <LegendValues values={s.legend.values} proposed={marks} onValues={onValues} />
        ))}
    </Section>
  )
}

export const chartsUi: KindUi = { Picker, Settings }
