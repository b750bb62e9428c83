'use client'
import type { Draft } from 'immer'
import { ListX, Plus, X } from 'lucide-react'
import { formulaName } from '@/core/data/formula'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { areaForms, beside, capitalForms, plainLabels, type LabelSettings } from '@/core/labels/spec'
import { labelFunctions } from '@/core/labels/words'
import type { Layer } from '@/core/map/spec'
import { fontFamilies, fontFamilyIds } from '@/core/scene/fonts'
import { Button, Check, IconButton, Row, Section, Segments, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { FormulaField } from '../../kit/formula-field'
import { NumberField } from '../../kit/number-field'
import { Popover } from '../../kit/popover'
import { editLayer } from '../edit-map'
import { reportOf, useLabelReport } from './report'

type Change = (name: string, recipe: (labels: Draft<LabelSettings>) => void, merge?: string) => void

const weights = { 300: 'light', 400: 'regular', 600: 'semibold', 700: 'bold' } as const
const places = (n: number) => `${n} ${n === 1 ? 'label' : 'labels'}`

/** Labels of a layer: what they say, how they are set, where they are put. */
export function LabelForm({ layer, prepared }: { layer: Layer; prepared: Prepared }) {
  const { dataset, fieldMeta } = prepared
  const shape = dataset.geometry.kind
  if (shape === 'none')
    return <p className="p-3 text-xs text-muted">Labels stand at shapes; this dataset is a table.</p>
  const fields = dataset.fields.map(({ key, column }) => ({
    value: key,
    label: fieldMeta(key).label,
    number: column.kind === 'number',
  }))
  const name =
    fields.find(({ value }) => fieldMeta(value).role === 'name') ??
    fields.find(({ number }) => !number) ??
    fields[0]
  const toggle = (on: boolean) =>
    editLayer(
      layer.id,
      on ? 'Labels' : 'No labels',
      (draft) => void (draft.labels = on && name ? plainLabels(name.value, shape) : null),
    )
  const { labels } = layer
  const change: Change = (what, recipe, merge) =>
    editLayer(layer.id, what, (draft) => draft.labels && recipe(draft.labels), merge && `labels ${merge}`)
  if (!labels)
    return (
      <Section title="Labels" aside={<Check label="Shown" checked={false} onChange={toggle} />}>
        <p className="text-xs text-muted">Names or values, placed by themselves where there is room.</p>
      </Section>
    )
  const numbers = [{ value: '', label: 'none' }, ...fields.filter(({ number }) => number)]
  return (
    <>
      <Section title="Labels" aside={<Check label="Shown" checked onChange={toggle} />}>
        <Row label="Say">
          <Select
            label="What labels say"
            value={labels.text.by === 'field' ? labels.text.field : ' formula'}
            options={[...fields, { value: ' formula', label: 'a formula' }]}
            onChange={(value) =>
              change(
                'What labels say',
                (d) =>
                  void (d.text =
                    value === ' formula'
                      ? {
                          by: 'formula',
                          formula:
                            labels.text.by === 'field' ? `concat(${formulaName(labels.text.field)})` : '',
                        }
                      : { by: 'field', field: value }),
              )
            }
          />
        </Row>
        {labels.text.by === 'formula' && (
          <FormulaField
            label="Formula of the label"
            value={labels.text.formula}
            before={prepared}
            more={labelFunctions}
            placeholder={'concat(name, "\\n", format(population))'}
            later
            onChange={(formula) =>
              change('Formula of labels', (d) => void (d.text = { by: 'formula', formula }))
            }
          />
        )}
        <Outcome layer={layer} change={change} />
      </Section>
      <Lettering labels={labels} change={change} />
      <SizeByClass labels={labels} change={change} numbers={numbers} />
      <Placing
        labels={labels}
        change={change}
        shape={shape}
        marked={kindOf(layer.symbology.kind).thematic && !kindOf(layer.symbology.kind).comparesAreas}
      />
      <Section title="Which first">
        <Row label="Importance">
          <NumberField
            label="Importance of labels, 1 to 5"
            value={labels.importance}
            min={1}
            max={5}
            step={1}
            decimals={0}
            onChange={(n) =>
              change('Importance of labels', (d) => void (d.importance = Math.round(n)), 'importance')
            }
          />
          <span className="text-xs text-muted">of 5</span>
        </Row>
        <Row label="Then by">
          <Select
            label="Labels ranked by"
            value={labels.rankField ?? ''}
            options={numbers}
            onChange={(field) =>
              change(
                'Rank of labels',
                (d) => void ((d.rankField = field || null), (d.atLeast = field ? d.atLeast : null)),
              )
            }
          />
        </Row>
        {labels.rankField !== null && (
          <Row label="Only from">
            <Check
              label=""
              checked={labels.atLeast !== null}
              onChange={(on) => change('Fewer labels', (d) => void (d.atLeast = on ? 0 : null))}
            />
            {labels.atLeast !== null && (
              <NumberField
                label="Labels only from"
                value={labels.atLeast}
                onChange={(n) => change('Fewer labels', (d) => void (d.atLeast = n), 'least')}
              />
            )}
          </Row>
        )}
      </Section>
    </>
  )
}

/** How many were placed, which were left out, which stand where they were put by hand. */
function Outcome({ layer, change }: { layer: Layer; change: Change }) {
  const report = useLabelReport((state) => state.report)
  const { placed, left, problem } = reportOf(report, layer.id)
  const moved = Object.keys(layer.labels?.moved ?? {})
  const without = layer.labels?.without ?? []
  if (problem)
    return (
      <p role="alert" className="text-xs text-error">
        {problem}
      </p>
    )
  return (
    <>
      <div className="flex items-center justify-between gap-2 text-xs" role="status">
        <span>
          {places(placed.length)} placed
          {placed.length
            ? `, ${Math.round((100 * placed.filter(({ preferred }) => preferred).length) / placed.length)} % where they read best`
            : ''}
        </span>
        {left.length > 0 && (
          <Popover
            label="Labels left out"
            align="end"
            className="w-64"
            trigger={
              <button
                type="button"
                className="flex shrink-0 items-center gap-1 rounded bg-caution-tint px-1.5 py-0.5 whitespace-nowrap text-caution"
              >
                <ListX size={13} aria-hidden /> {left.length} left out
              </button>
            }
          >
            <ul className="max-h-72 overflow-y-auto">
              {left.map(({ key, text, reason }, i) => (
                <li key={`${key} ${i}`} className="px-1 py-0.5">
                  {text} <span className="text-xs text-muted">{reason}</span>
                </li>
              ))}
            </ul>
          </Popover>
        )}
      </div>
      {(moved.length > 0 || without.length > 0) && (
        <div className="flex flex-wrap items-center gap-1 text-xs">
          {moved.length > 0 && (
            <Button
              className="!h-6 !text-xs"
              onClick={() => change('All labels back', (d) => void (d.moved = {}))}
            >
              Put {moved.length} moved back
            </Button>
          )}
          {without.length > 0 && (
            <Button
              className="!h-6 !text-xs"
              onClick={() => change('Labels taken away, back', (d) => void (d.without = []))}
            >
              Bring {without.length} taken away back
            </Button>
          )}
        </div>
      )}
    </>
  )
}

function Lettering({ labels, change }: { labels: LabelSettings; change: Change }) {
  return (
    <Section title="Lettering">
      <Row label="Typeface">
        <Select
          label="Typeface of labels"
          value={labels.family}
          options={fontFamilyIds.map((id) => ({ value: id, label: fontFamilies[id].label }))}
          onChange={(family) => change('Typeface of labels', (d) => void (d.family = family))}
        />
      </Row>
      <Row label="Size">
        <NumberField
          label="Size of labels"
          value={labels.sizePt}
          unit="pt"
          min={2}
          max={144}
          step={0.5}
          onChange={(n) => change('Size of labels', (d) => void (d.sizePt = n), 'size')}
        />
      </Row>
      <Row label="Style">
        <Select
          label="Weight of labels"
          value={String(labels.weight)}
          options={Object.entries(weights).map(([value, label]) => ({ value, label }))}
          onChange={(weight) => change('Weight of labels', (d) => void (d.weight = Number(weight) as 400))}
        />
        <Check
          label="italic"
          checked={labels.italic}
          onChange={(italic) => change('Slope of labels', (d) => void (d.italic = italic))}
        />
      </Row>
      <Row label="Letters">
        <Select
          label="Capitals"
          value={labels.capitals}
          options={capitalForms.map((value) => ({ value, label: value }))}
          onChange={(capitals) => change('Capitals', (d) => void (d.capitals = capitals))}
        />
      </Row>
      <Row label="Spacing">
        <NumberField
          label="Letter-spacing"
          value={labels.spacing * 100}
          unit="%"
          min={-10}
          max={200}
          step={2}
          decimals={0}
          onChange={(n) => change('Letter-spacing', (d) => void (d.spacing = n / 100), 'spacing')}
        />
      </Row>
      <Row label="Colour">
        <ColourField
          label="Colour of labels"
          value={labels.colour}
          onChange={(colour) => change('Colour of labels', (d) => void (d.colour = colour), 'colour')}
        />
      </Row>
      <Row label="Halo">
        <ColourField
          label="Colour of the halo"
          value={labels.halo.colour}
          onChange={(colour) => change('Colour of the halo', (d) => void (d.halo.colour = colour), 'halo')}
        />
        <NumberField
          label="Width of the halo"
          value={labels.halo.widthPt}
          unit="pt"
          min={0}
          max={10}
          step={0.2}
          onChange={(n) => change('Width of the halo', (d) => void (d.halo.widthPt = n), 'halo width')}
        />
      </Row>
      <Row label="Lines">
        <Check
          label="broken at"
          checked={labels.breakAtMm !== null}
          onChange={(on) => change('Line breaks', (d) => void (d.breakAtMm = on ? 18 : null))}
        />
        {labels.breakAtMm !== null && (
          <NumberField
            label="Widest line"
            value={labels.breakAtMm}
            unit="mm"
            min={2}
            max={400}
            step={1}
            onChange={(n) => change('Widest line', (d) => void (d.breakAtMm = n), 'break')}
          />
        )}
      </Row>
    </Section>
  )
}

function SizeByClass({
  labels,
  change,
  numbers,
}: {
  labels: LabelSettings
  change: Change
  numbers: { value: string; label: string }[]
}) {
  const { sizeBy } = labels
  return (
    <Section title="Size by value">
      <Row label="Of">
        <Select
          label="Size of labels by"
          value={sizeBy?.field ?? ''}
          options={numbers}
          onChange={(field) =>
            change(
              'Size by value',
              (d) =>
                void (d.sizeBy = field
                  ? { field, steps: d.sizeBy?.steps ?? [{ atLeast: 0, sizePt: d.sizePt }] }
                  : null),
            )
          }
        />
      </Row>
      {sizeBy?.steps.map((step, i) => (
        <div key={i} className="flex items-center gap-1.5">
          <span className="text-xs text-muted">from</span>
          <NumberField
            label={`Value of step ${i + 1}`}
            value={step.atLeast}
            onChange={(n) =>
              change('Size by value', (d) => void (d.sizeBy && (d.sizeBy.steps[i].atLeast = n)), `step ${i}`)
            }
          />
          <NumberField
            label={`Size of step ${i + 1}`}
            className="!w-[76px] !flex-none"
            value={step.sizePt}
            unit="pt"
            min={2}
            max={144}
            step={0.5}
            onChange={(n) =>
              change('Size by value', (d) => void (d.sizeBy && (d.sizeBy.steps[i].sizePt = n)), `size ${i}`)
            }
          />
          <IconButton
            label={`Without step ${i + 1}`}
            onClick={() => change('Size by value', (d) => void d.sizeBy?.steps.splice(i, 1))}
          >
            <X size={13} />
          </IconButton>
        </div>
      ))}
      {sizeBy && sizeBy.steps.length < 8 && (
        <Button
          className="!h-6 self-start !text-xs"
          onClick={() =>
            change(
              'Size by value',
              (d) =>
                void d.sizeBy?.steps.push({
                  atLeast: (d.sizeBy.steps.at(-1)?.atLeast ?? 0) + 1,
                  sizePt: (d.sizeBy.steps.at(-1)?.sizePt ?? d.sizePt) + 1,
                }),
            )
          }
        >
          <Plus size={12} /> step
        </Button>
      )}
    </Section>
  )
}

function Placing({
  labels,
  change,
  shape,
  marked,
}: {
  labels: LabelSettings
  change: Change
  shape: 'areas' | 'lines' | 'points'
  marked: boolean
}) {
  const { point, area, line } = labels
  return (
    <Section title="Place">
      {(shape === 'points' || marked) && (
        <>
          <Row label="Beside">
            <Segments
              label="Side tried first"
              value={point.first}
              options={beside.map((value) => ({ value, label: value }))}
              onChange={(first) => change('Side of labels', (d) => void (d.point.first = first))}
            />
          </Row>
          <Row label="Gap">
            <NumberField
              label="Gap to the symbol"
              value={point.gapMm}
              unit="mm"
              min={0}
              max={50}
              step={0.1}
              onChange={(n) => change('Gap of labels', (d) => void (d.point.gapMm = n), 'gap')}
            />
            <Check
              label="on it"
              checked={point.within}
              onChange={(within) => change('Labels on symbols', (d) => void (d.point.within = within))}
            />
          </Row>
          <Check
            label="Farther off with a line, where there is no place"
            checked={point.far}
            onChange={(far) => change('Labels farther off', (d) => void (d.point.far = far))}
          />
        </>
      )}
      {shape === 'areas' && (
        <>
          <Row label="In areas">
            <Select
              label="Form in areas"
              value={area.form}
              options={areaForms.map((value) => ({ value, label: value }))}
              onChange={(form) => change('Form of labels', (d) => void (d.area.form = form))}
            />
          </Row>
          <div className="grid grid-cols-2">
            <Check
              label="Beyond borders"
              checked={area.beyond}
              onChange={(on) => change('Labels beyond borders', (d) => void (d.area.beyond = on))}
            />
            <Check
              label="Outside, with a line"
              checked={area.outside}
              onChange={(on) => change('Labels outside', (d) => void (d.area.outside = on))}
            />
          </div>
        </>
      )}
      {shape === 'lines' && (
        <>
          <Row label="Along">
            <Segments
              label="Side of the line"
              value={line.side}
              options={[
                { value: 'above', label: 'above it' },
                { value: 'on', label: 'on it' },
              ]}
              onChange={(side) => change('Side of labels', (d) => void (d.line.side = side))}
            />
            <Check
              label="curved"
              checked={line.curved}
              onChange={(curved) => change('Curved labels', (d) => void (d.line.curved = curved))}
            />
          </Row>
          <Row label="Repeated">
            <Check
              label="every"
              checked={line.repeatMm !== null}
              onChange={(on) => change('Repeated labels', (d) => void (d.line.repeatMm = on ? 80 : null))}
            />
            {line.repeatMm !== null && (
              <NumberField
                label="Distance between repetitions"
                value={line.repeatMm}
                unit="mm"
                min={10}
                max={1000}
                step={5}
                onChange={(n) => change('Repeated labels', (d) => void (d.line.repeatMm = n), 'repeat')}
              />
            )}
          </Row>
        </>
      )}
    </Section>
  )
}
