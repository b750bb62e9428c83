'use client'
import { methodIds, methods } from '@/core/classify/classify'
import { numberWord } from '@/core/classify/labels'
import { firstClassing } from '@/core/classify/spec'
import type { FlowSettings } from '@/core/kinds/flows/spec'
import type { FlowPlan } from '@/core/kinds/flows/plan'
import { Check, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { usePrepared } from '../../shell/contents'
import { chooseClasses, chooseMethodOf } from '../edit-classing'
import { AnchorRow, widthLimits } from './anchor-row'
import { FieldPicker } from './field-picker'
import { LegendValues } from './size-legend'
import { editingOf, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'

function Picker({ control, layer, prepared, close, plan: made }: PickerProps) {
  const { s, change } = editingOf('flows', layer)
  const all = usePrepared()
  const places = s.places && all.get(s.places.datasetId)
  if (control === 'field')
    return (
      <FieldPicker
        value={s.field}
        prepared={prepared}
        onPick={(field, label) => {
          change(`Flows of ${label}`, (d) => void (d.field = field))
          close()
        }}
      />
    )
  if (control === 'classes' && s.graded)
    return (
      <ChoiceList
        value={String(s.graded.classes)}
        options={[2, 3, 4, 5, 6, 7].map((n) => ({ value: String(n), label: numberWord(n) }))}
        onPick={(n) => {
          chooseClasses(layer, Number(n))
          close()
        }}
      />
    )
  if (control === 'method' && s.graded)
    return (
      <ChoiceList
        value={s.graded.method}
        options={methodIds.map((id) => ({ value: id, label: methods[id].label, note: methods[id].note }))}
        onPick={(method) => {
          void chooseMethodOf(layer, prepared, (made as FlowPlan).grades?.classification.breaks ?? [], method)
          close()
        }}
      />
    )
  if (control === 'size')
    return (
      <div className="w-72">
        <AnchorRow
          size="width"
          value={s.anchor.value}
          sizeMm={s.anchor.widthMm}
          limits={widthLimits}
          onValue={(value) => change('Anchor of flows', (d) => void (d.anchor.value = value))}
          onSize={(mm) => change('Width of flows', (d) => void (d.anchor.widthMm = mm), 'anchor width')}
        />
        <Row label="At least">
          <NumberField
            label="Least width of a flow"
            value={s.leastMm}
            unit="mm"
            min={0}
            max={10}
            step={0.05}
            onChange={(mm) => change('Least width', (d) => void (d.leastMm = mm), 'least')}
          />
        </Row>
      </div>
    )
  if (control === 'threshold')
    return (
      <div className="w-64">
        <Row label="Under">
          <NumberField
            label="Flows left out under"
            value={s.threshold}
            min={0}
            decimals={2}
            onChange={(value) => change('Flows left out', (d) => void (d.threshold = value), 'threshold')}
          />
        </Row>
      </div>
    )
  if (control === 'colour-by') {
    const region = places?.dataset.fields.find(
      ({ key, column }) => column.kind !== 'number' && places.fieldMeta(key).role === 'category',
    )
    return (
      <ChoiceList
        value={s.colour.by}
        options={[
          { value: 'nothing', label: 'alike', note: 'one colour' },
          { value: 'direction', label: 'by direction', note: 'east and west' },
          ...(region && places
            ? [
                {
                  value: 'region' as const,
                  label: 'by where they start',
                  note: places.fieldMeta(region.key).label,
                },
              ]
            : []),
        ]}
        onPick={(by) => {
          change('Colour of flows', (d) => void (d.colour = colourBy(by, region?.key ?? '')))
          close()
        }}
      />
    )
  }
  return null
}

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('flows', layer)
  const all = usePrepared()
  const plan = made as FlowPlan
  const { colour } = s
  const columns = prepared.dataset.fields
    .filter(({ column }) => column.kind !== 'number')
    .map(({ key }) => ({ value: key, label: prepared.fieldMeta(key).label }))
  const grounds = [...all.values()].filter(({ dataset }) =>
    ['areas', 'points'].includes(dataset.geometry.kind),
  )
  const ground = s.places ? all.get(s.places.datasetId) : undefined
  return (
    <>
      <Section
        title="Flows"
        aside={
          <Check
            label="In classes"
            checked={s.graded !== null}
            onChange={(on) =>
              change(
                on ? 'Widths in classes' : 'Widths in proportion',
                (d) => void (d.graded = on ? firstClassing(4) : null),
              )
            }
          />
        }
      >
        <Row label="From, to">
          <Select
            label="Field of the origin"
            value={s.from}
            options={columns}
            onChange={(from) => change('Field of the origin', (d) => void (d.from = from))}
          />
          <Select
            label="Field of the destination"
            value={s.to}
            options={columns}
            onChange={(to) => change('Field of the destination', (d) => void (d.to = to))}
          />
        </Row>
        <Row label="Places">
          <Select
            label="Places that rows refer to"
            value={s.places?.datasetId ?? ''}
            options={[
              { value: '', label: 'none' },
              ...grounds.map(({ entry }) => ({ value: entry.id, label: entry.name })),
            ]}
            onChange={(id) =>
              change(
                'Places of flows',
                (d) =>
                  void (d.places = id
                    ? {
                        datasetId: id,
                        key:
                          all.get(id)?.dataset.fields.find(({ column }) => column.kind !== 'number')?.key ??
                          '',
                      }
                    : null),
              )
            }
          />
          {ground && s.places && (
            <Select
              label="Named by"
              value={s.places.key}
              options={ground.dataset.fields
                .filter(({ column }) => column.kind !== 'number')
                .map(({ key }) => ({ value: key, label: ground.fieldMeta(key).label }))}
              onChange={(key) => change('Names of places', (d) => void (d.places && (d.places.key = key)))}
            />
          )}
        </Row>
        <Row label="Bend">
          <NumberField
            label="Bend of flows"
            value={s.bend * 100}
            unit="%"
            min={0}
            max={60}
            step={2}
            decimals={0}
            onChange={(n) => change('Bend of flows', (d) => void (d.bend = n / 100), 'bend')}
          />
          <Check
            label="Arrows"
            checked={s.arrows}
            onChange={(arrows) => change('Arrows', (d) => void (d.arrows = arrows))}
          />
        </Row>
        {colour.by === 'nothing' && (
          <Row label="Colour">
            <ColourField
              label="Colour of flows"
              value={colour.fill}
              onChange={(fill) =>
                change(
                  'Colour of flows',
                  (d) => void (d.colour.by === 'nothing' && (d.colour.fill = fill)),
                  'fill',
                )
              }
            />
          </Row>
        )}
        {colour.by === 'direction' && (
          <Row label="East, west">
            <ColourField
              label="Colour of flows to the east"
              value={colour.east}
              onChange={(fill) =>
                change(
                  'Colour to the east',
                  (d) => void (d.colour.by === 'direction' && (d.colour.east = fill)),
                  'east',
                )
              }
            />
            <ColourField
              label="Colour of flows to the west"
              value={colour.west}
              onChange={(fill) =>
                change(
                  'Colour to the west',
                  (d) => void (d.colour.by === 'direction' && (d.colour.west = fill)),
                  'west',
                )
              }
            />
          </Row>
        )}
        <Row label="Opacity">
          <NumberField
            label="Opacity of flows"
            value={s.opacity * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            decimals={0}
            onChange={(n) => change('Opacity of flows', (d) => void (d.opacity = n / 100), 'flow opacity')}
          />
        </Row>
        {!s.graded && plan.marks.length > 0 && (
          <LegendValues
            values={s.legendValues}
            proposed={plan.marks.map(({ value }) => value)}
            onValues={(values) => change('Values of the legend', (d) => void (d.legendValues = values))}
          />
        )}
        <p className="text-xs text-muted">
          {plan.flows.length} lines. {plan.left} smaller ones are left out
          {plan.within ? `, ${plan.within} stay within a place` : ''}
          {plan.unplaced ? `, ${plan.unplaced} name a place that is not there` : ''}.
        </p>
      </Section>
    </>
  )
}

export const flowsUi: KindUi = { Picker, Settings }

function colourBy(by: FlowSettings['colour']['by'], field: string): FlowSettings['colour'] {
  if (by === 'nothing') return { by, fill: '#2b5d73' }
  return by === 'direction' ? { by, east: '#b5533c', west: '#2b5d73' } : { by, field, colours: {} }
}
