'use client'
import { firstClassing } from '@/core/classify/spec'
import { methodIds, methods } from '@/core/classify/classify'
import { numberWord } from '@/core/classify/labels'
import { Colouring } from '@/core/colour/colouring'
import type { Prepared } from '@/core/data/prepare'
import { shapes, shapeWords } from '@/core/kinds/marks/shapes'
import { proposedAnchor, rangeOf } from '@/core/kinds/marks/sizes'
import { valuesOf } from '@/core/kinds/values'
import { powerOf } from '@/core/kinds/symbols/scale'
import type { SymbolSettings } from '@/core/kinds/symbols/spec'
import { pictureLabel } from '@/core/kinds/marks/pictures'
import type { SymbolPlan } from '@/core/kinds/symbols/plan'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Segments } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'
import { SchemePicker } from '../colours/scheme-picker'
import { chooseClasses, chooseMethodOf } from '../edit-classing'
import { AnchorRow } from './anchor-row'
import { FieldPicker, PerPicker } from './field-picker'
import { editingOf, type Change, type KindUi, type PickerProps, type SettingsProps } from './kind-ui'
import { OverlapNote } from './overlap'
import { PicturePicker } from './picture-picker'
import { SizeLegendForm } from './size-legend'

function Picker({ control, layer, prepared, close, plan: made }: PickerProps) {
  const { s, change } = editingOf('symbols', layer)
  const plan = made as SymbolPlan
  const then = (done: () => void) => {
    done()
    close()
  }
  if (control === 'shape' && s.shape === 'picture')
    return (
      <>
        <PicturePicker
          value={s.picture}
          onPick={(picture) => change(`Picture: ${pictureLabel(picture)}`, (d) => void (d.picture = picture))}
        />
        <div className="mt-2 border-t border-line pt-2">
          <ChoiceList
            value={s.shape}
            options={shapes.map((value) => ({ value, label: shapeWords[value] }))}
            onPick={(shape) => then(() => change(`Size ${shapeWords[shape]}`, (d) => void (d.shape = shape)))}
          />
        </div>
      </>
    )
  if (control === 'shape')
    return (
      <ChoiceList
        value={s.shape}
        options={shapes.map((value) => ({ value, label: shapeWords[value] }))}
        onPick={(shape) => {
          change(`Size ${shapeWords[shape]}`, (d) => void (d.shape = shape))
          if (shape !== 'picture') close()
        }}
      />
    )
  if (control === 'field')
    return (
      <FieldPicker
        value={s.field}
        prepared={prepared}
        onPick={(field, label) => then(() => changeField(layer, prepared, field, label))}
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
  if (control === 'scale')
    return (
      <div className="w-72">
        <ChoiceList
          value={s.scaling}
          options={[
            { value: 'area', label: 'by area', note: 'true areas' },
            { value: 'perceptual', label: 'by what it looks like', note: 'Flannery 1971' },
            { value: 'height', label: 'by height', note: 'areas exaggerate' },
          ]}
          onPick={(scaling) => change('Scale of symbols', (d) => void (d.scaling = scaling))}
        />
        {s.scaling === 'perceptual' && (
          <Row label="Power">
            <NumberField
              label="Power of the value that heights follow"
              value={s.exponent}
              min={0.3}
              max={1}
              step={0.01}
              decimals={4}
              onChange={(n) => change('Power', (d) => void (d.exponent = n), 'power')}
            />
          </Row>
        )}
      </div>
    )
  if (control === 'size') return <SizeForm s={s} plan={plan} change={change} />
  if (control === 'classes')
    return (
      <ChoiceList
        value={String(s.classes)}
        options={[2, 3, 4, 5, 6, 7].map((n) => ({ value: String(n), label: numberWord(n) }))}
        onPick={(n) => then(() => chooseClasses(layer, Number(n)))}
      />
    )
  if (control === 'method')
    return (
      <ChoiceList
        value={s.method}
        options={methodIds.map((id) => ({ value: id, label: methods[id].label, note: methods[id].note }))}
        onPick={(method) =>
          then(() => void chooseMethodOf(layer, prepared, plan.grades?.classification.breaks ?? [], method))
        }
      />
    )
  if (control === 'colour-by') return <ColourByPicker s={s} prepared={prepared} change={change} />
  const { colour } = s
  if (control === 'colours' && colour.by === 'value')
    return (
      <SchemePicker
        colouring={colour.colouring}
        count={plan.hues?.list.length ?? 5}
        onChange={(name, recipe, merge) =>
          change(name, (d) => d.colour.by === 'value' && recipe(d.colour.colouring), merge)
        }
      />
    )
  return null
}

/** Another field may be of another magnitude: sizes start anew at what the map bears. */
function changeField(layer: Layer, prepared: Prepared, field: string, label: string): void {
  const { s, change } = editingOf('symbols', layer)
  const range = rangeOf(valuesOf({ ...s, field }, prepared.dataset))
  change(`Size by ${label}`, (d) => {
    d.field = field
    if (range && d.anchor.by === 'value') d.anchor = proposedAnchor(powerOf(d), range, 9)
    d.legend.values = []
  })
}

function SizeForm({
  s,
  plan,
  change,
}: {
  s: SymbolSettings
  plan: SymbolPlan
  change: Change<SymbolSettings>
}) {
  const { anchor } = s
  return (
    <div className="flex w-72 flex-col gap-1">
      <Segments
        label="Sizes are given by"
        value={anchor.by}
        options={[
          { value: 'value', label: 'A value' },
          { value: 'ends', label: 'Smallest, largest' },
        ]}
        onChange={(by) =>
          change('How sizes are given', (d) => void (d.anchor = anchorBy(by, plan, powerOf(d))))
        }
      />
      {anchor.by === 'value' ? (
        <AnchorRow
          size="size"
          value={anchor.value}
          sizeMm={anchor.sizeMm}
          limits={{ min: 0.1, max: 200, step: 0.5 }}
          onValue={(value) =>
            change('Anchor', (d) => void (d.anchor.by === 'value' && (d.anchor.value = value)))
          }
          onSize={(mm) =>
            change(
              'Size of symbols',
              (d) => void (d.anchor.by === 'value' && (d.anchor.sizeMm = mm)),
              'anchor size',
            )
          }
        />
      ) : (
        <Row label="From, to">
          <NumberField
            label="Smallest symbol"
            value={anchor.smallestMm}
            unit="mm"
            min={0.1}
            max={200}
            step={0.5}
            onChange={(mm) =>
              change(
                'Smallest symbol',
                (d) => void (d.anchor.by === 'ends' && (d.anchor.smallestMm = mm)),
                'smallest',
              )
            }
          />
          <NumberField
            label="Largest symbol"
            value={anchor.largestMm}
            unit="mm"
            min={0.1}
            max={200}
            step={0.5}
            onChange={(mm) =>
              change(
                'Largest symbol',
                (d) => void (d.anchor.by === 'ends' && (d.anchor.largestMm = mm)),
                'largest',
              )
            }
          />
        </Row>
      )}
      <Row label="At least">
        <NumberField
          label="Least size of a symbol"
          value={s.leastMm}
          unit="mm"
          min={0}
          max={50}
          step={0.1}
          onChange={(mm) => change('Least size', (d) => void (d.leastMm = mm), 'least')}
        />
      </Row>
      {anchor.by === 'ends' && (
        <p className="text-xs text-muted">
          Order is kept, ratios are not: twice the value is not twice the area.
        </p>
      )}
    </div>
  )
}

function ColourByPicker({
  s,
  prepared,
  change,
}: {
  s: SymbolSettings
  prepared: Prepared
  change: Change<SymbolSettings>
}) {
  const fields = prepared.dataset.fields
    .map(({ key, column }) => ({ key, number: column.kind === 'number', meta: prepared.fieldMeta(key) }))
    .filter(({ meta }) => !['code', 'name', 'date'].includes(meta.role))
  return (
    <ChoiceList
      value={s.colour.by === 'nothing' ? '' : s.colour.field}
      options={[
        { value: '', label: 'alike', note: 'one colour' },
        ...fields.map(({ key, number, meta }) => ({
          value: key,
          label: `by ${meta.label.toLowerCase()}`,
          note: number ? 'in classes' : 'each its own',
        })),
      ]}
      onPick={(key) =>
        change(key ? `Colour by ${prepared.fieldMeta(key).label}` : 'Colour alike', (d) => {
          const chosen = fields.find((field) => field.key === key)
          if (!chosen) d.colour = { by: 'nothing' }
          else if (!chosen.number) d.colour = { by: 'category', field: key, colours: {} }
          else
            d.colour = {
              by: 'value',
              field: key,
              per: null,
              perCount: 1,
              ...firstClassing(4),
              colouring:
                d.colour.by === 'value'
                  ? d.colour.colouring
                  : Colouring.parse({ scheme: 'inlet', reversed: false }),
            }
        })
      }
    />
  )
}

function Settings({ layer, plan: made }: SettingsProps) {
  const { s, change } = editingOf('symbols', layer)
  const plan = made as SymbolPlan
  const { colour } = s
  return (
    <>
      <Section
        title="Symbols"
        aside={
          <Check
            label="In classes"
            checked={s.graded}
            onChange={(graded) =>
              change(graded ? 'Sizes in classes' : 'Sizes by value', (d) => void (d.graded = graded))
            }
          />
        }
      >
        {s.shape === 'bar' && (
          <Row label="Bar width">
            <NumberField
              label="Width of bars"
              value={s.barWidthMm}
              unit="mm"
              min={0.1}
              max={50}
              step={0.25}
              onChange={(mm) => change('Bar width', (d) => void (d.barWidthMm = mm), 'bar width')}
            />
          </Row>
        )}
        {colour.by === 'nothing' && (
          <Row label="Colour">
            <ColourField
              label="Colour of symbols"
              value={s.fill}
              onChange={(fill) => change('Colour of symbols', (d) => void (d.fill = fill), 'fill')}
            />
          </Row>
        )}
        {plan.values.some((value) => value < 0) && (
          <Row label="Under zero">
            <ColourField
              label="Colour of values under zero"
              value={s.negative.fill}
              onChange={(fill) =>
                change('Colour under zero', (d) => void (d.negative.fill = fill), 'negative')
              }
            />
            <Check
              label="Hollow"
              checked={s.negative.hollow}
              onChange={(hollow) => change('Hollow under zero', (d) => void (d.negative.hollow = hollow))}
            />
          </Row>
        )}
        {colour.by === 'category' &&
          plan.hues?.list.slice(0, 12).map((hue) => (
            <Row key={hue.key} label={hue.label}>
              <ColourField
                label={`Colour of ${hue.label}`}
                value={hue.colour}
                onChange={(next) =>
                  change(
                    `Colour of ${hue.label}`,
                    (d) => void (d.colour.by === 'category' && (d.colour.colours[hue.label] = next)),
                    hue.key,
                  )
                }
              />
            </Row>
          ))}
        <Row label="Opacity">
          <NumberField
            label="Opacity of symbols"
            value={s.opacity * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            decimals={0}
            onChange={(n) =>
              change('Opacity of symbols', (d) => void (d.opacity = n / 100), 'symbol opacity')
            }
          />
        </Row>
        <Row label="Outline">
          <ColourField
            label="Outline of symbols"
            value={s.outline.colour}
            onChange={(next) =>
              change('Outline of symbols', (d) => void (d.outline.colour = next), 'outline')
            }
          />
          <NumberField
            label="Outline width of symbols"
            value={s.outline.widthPt}
            unit="pt"
            min={0}
            max={20}
            step={0.1}
            onChange={(w) => change('Outline width', (d) => void (d.outline.widthPt = w), 'outline width')}
          />
        </Row>
        <Row label="Pushed apart">
          <Check
            label="On"
            checked={s.displace !== null}
            onChange={(on) =>
              change(
                on ? 'Push symbols apart' : 'Symbols on their places',
                (d) =>
                  void (d.displace = on
                    ? { gapMm: 0.2, leader: { colour: '#555555', widthPt: 0.35 } }
                    : null),
              )
            }
          />
          {s.displace && (
            <NumberField
              label="Gap between symbols"
              value={s.displace.gapMm}
              unit="mm"
              min={0}
              max={10}
              step={0.1}
              onChange={(mm) =>
                change(
                  'Gap between symbols',
                  (d) => void (d.displace && (d.displace.gapMm = mm)),
                  'displace gap',
                )
              }
            />
          )}
        </Row>
        {s.displace && (
          <Row label="Lines to places">
            <ColourField
              label="Colour of the lines to places"
              value={s.displace.leader.colour}
              onChange={(next) =>
                change(
                  'Lines to places',
                  (d) => void (d.displace && (d.displace.leader.colour = next)),
                  'leader',
                )
              }
            />
            <NumberField
              label="Width of the lines to places"
              value={s.displace.leader.widthPt}
              unit="pt"
              min={0}
              max={5}
              step={0.1}
              onChange={(w) =>
                change(
                  'Lines to places',
                  (d) => void (d.displace && (d.displace.leader.widthPt = w)),
                  'leader width',
                )
              }
            />
          </Row>
        )}
        <OverlapNote
          layer={layer}
          onSize={(factor) =>
            change('Smaller symbols', (d) =>
              d.anchor.by === 'value'
                ? void (d.anchor.sizeMm = Number((d.anchor.sizeMm * factor).toFixed(2)))
                : void (d.anchor.largestMm = Number((d.anchor.largestMm * factor).toFixed(2))),
            )
          }
        />
      </Section>
      {!s.graded && (
        <Section title="Size legend">
          <SizeLegendForm
            form={s.legend.form}
            onForm={(form) => change('Form of the size legend', (d) => void (d.legend.form = form))}
            values={s.legend.values}
            proposed={plan.marks.map(({ value }) => value)}
            onValues={(values) => change('Values of the size legend', (d) => void (d.legend.values = values))}
          />
        </Section>
      )}
    </>
  )
}

export const symbolsUi: KindUi = { Picker, Settings }

function anchorBy(
  by: SymbolSettings['anchor']['by'],
  { range }: SymbolPlan,
  power: number,
): SymbolSettings['anchor'] {
  if (by === 'ends') return { by, smallestMm: 1, largestMm: 9 }
  return range ? proposedAnchor(power, range, 9) : { by, value: 1, sizeMm: 9 }
}
