'use client'
import { ListX } from 'lucide-react'
import { textColumn } from '@/core/data/column'
import { proposeMeta, type FieldMeta } from '@/core/data/field-meta'
import { formulaName } from '@/core/data/formula'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { plainLabels } from '@/core/labels/spec'
import { labelFunctions } from '@/core/labels/words'
import type { Layer } from '@/core/map/spec'
import { Button, Check, Row, Section, Select } from '../../kit/controls'
import { FormulaField } from '../../kit/formula-field'
import { NumberField } from '../../kit/number-field'
import { Popover } from '../../kit/popover'
import { editLayer } from '../edit-map'
import type { Change } from './change'
import { Lettering, SizeByClass } from './lettering'
import { Placing } from './placing'
import { reportOf, useLabelReport } from './report'

const places = (n: number) => `${n} ${n === 1 ? 'label' : 'labels'}`

/** Labels of a layer: what they say, how they are set, where they are put. */
export function LabelForm({ layer, prepared }: { layer: Layer; prepared: Prepared }) {
  const kind = kindOf(layer.symbology.kind)
  const { named } = kind.shapes ?? {}
  // What a kind names in place of rows has fields of its own.
  const blank = named?.blank(layer.symbology.settings)
  if (named && !blank)
    return (
      <Section title="Labels">
        <p className="text-xs text-muted">
          Labels name the peaks of a surface. Mark them first, under what the layer shows.
        </p>
      </Section>
    )
  return (
    <Labelled
      layer={layer}
      prepared={blank ? { ...prepared, dataset: blank, fieldMeta: ownWords } : prepared}
    />
  )
}

const ownWords = (key: string): FieldMeta => proposeMeta(key, textColumn([]))

function Labelled({ layer, prepared }: { layer: Layer; prepared: Prepared }) {
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
