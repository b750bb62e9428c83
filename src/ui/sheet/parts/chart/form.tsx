'use client'
import { Plus, Trash2 } from 'lucide-react'
import { seriesOf } from '@/core/data/series'
import { chartProblem } from '@/core/sheet/parts/chart/draw'
import { chartFormIds, chartForms, type ChartForm as Form } from '@/core/sheet/parts/chart/spec'
import { Button, Check, IconButton, Row, Section, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { TextField } from '../../../kit/text-field'
import { usePrepared } from '../../../shell/contents'
import { settingsChanger } from '../../edit-sheet'
import { DatasetRow, useFieldOptions } from '../dataset-row'
import type { FormProps } from '../face'
import { LetteringFold } from '../lettering-fold'
import { LayerRow } from '../layer-row'

/** How many fields a form shows; others may have as many as one likes. */
const fixed: Partial<Record<Form, number>> = { bars: 1, histogram: 0, scatter: 2, pyramid: 2 }
const fieldWords: Partial<Record<Form, string[]>> = {
  bars: ['Length'],
  scatter: ['Across', 'Upwards'],
  pyramid: ['Left', 'Right'],
}

/** Which figures, drawn how. */
export function ChartForm({ sheet, part }: FormProps<'chart'>) {
  const s = part.settings
  const change = settingsChanger(sheet.id, part)
  const datasets = usePrepared()
  const numbers = useFieldOptions(s.datasetId, 'number')
  const all = useFieldOptions(s.datasetId, 'all')
  const prepared = datasets.get(s.datasetId)
  const problem = chartProblem(s, prepared)
  /** The fields that a form begins with: those that were there, and as many more as it needs. */
  const fieldsFor = (form: Form): string[] => {
    const series = prepared && s.fields[0] ? seriesOf(prepared.dataset.fields, s.fields[0]) : null
    if (form === 'lines' && series) return series.years.map(({ key }) => key)
    const count = fixed[form] ?? Math.max(2, s.fields.length)
    const more = numbers.map(({ value }) => value).filter((key) => !s.fields.includes(key))
    return [...s.fields, ...more].slice(0, count)
  }
  return (
    <>
      <Section title="Chart">
        <Row label="Form">
          <Select
            label="Form of the chart"
            value={s.form}
            options={chartFormIds.map((id) => ({ value: id, label: chartForms[id] }))}
            onChange={(form) =>
              change('Form of the chart', (d) => Object.assign(d, { form, fields: fieldsFor(form) }))
            }
          />
        </Row>
        {s.form !== 'histogram' && (
          <>
            <DatasetRow
              datasetId={s.datasetId}
              onChange={(datasetId) =>
                change('Chart of another dataset', (d) => {
                  const fields = datasets.get(datasetId)?.dataset.fields ?? []
                  const figures = fields
                    .filter(({ column }) => column.kind === 'number')
                    .map(({ key }) => key)
                  const name = fields.find(({ column }) => column.kind === 'text') ?? fields[0]
                  Object.assign(d, {
                    datasetId,
                    nameField: name?.key ?? '',
                    fields: figures.slice(0, fixed[s.form] ?? 2),
                    sortBy: figures[0] ?? null,
                    source: null,
                  })
                })
              }
            />
            <Row label="Named by">
              <Select
                label="Field of the names"
                value={s.nameField}
                options={all}
                onChange={(key) => change('Names of the chart', (d) => void (d.nameField = key))}
              />
            </Row>
            {s.fields.map((field, i) => (
              <Row key={i} label={fieldWords[s.form]?.[i] ?? (i === 0 ? 'Figures' : '')}>
                <Select
                  label={`Figure ${i + 1}`}
                  value={field}
                  options={numbers}
                  onChange={(key) => change('Figures', (d) => void (d.fields[i] = key))}
                />
                {fixed[s.form] === undefined && (
                  <IconButton
                    label={`Remove figure ${i + 1}`}
                    disabled={s.fields.length < 3}
                    onClick={() => change('Remove figures', (d) => void d.fields.splice(i, 1))}
                  >
                    <Trash2 size={14} />
                  </IconButton>
                )}
              </Row>
            ))}
            {fixed[s.form] === undefined && (
              <Button
                look="quiet"
                onClick={() =>
                  change('Add figures', (d) => {
                    const free = numbers.find(({ value }) => !d.fields.includes(value))
                    if (free) d.fields.push(free.value)
                  })
                }
              >
                <Plus size={14} aria-hidden /> Figures
              </Button>
            )}
            <Row label="Sorted by">
              <Select
                label="Sorted by"
                value={s.sortBy ?? ''}
                options={[{ value: '', label: 'as they stand' }, ...all]}
                onChange={(key) => change('Sort', (d) => void (d.sortBy = key || null))}
              />
            </Row>
            <Row label="Rows">
              <NumberField
                label="Rows"
                value={s.rows}
                min={1}
                max={2000}
                decimals={0}
                onChange={(n) => change('Rows', (d) => void (d.rows = n), 'rows')}
              />
              <span className="flex-1" />
            </Row>
            <Check
              label="The largest first"
              checked={s.descending}
              onChange={(on) => change('Sort', (d) => void (d.descending = on))}
            />
          </>
        )}
        <LayerRow
          sheet={sheet}
          label="Colours of"
          source={s.source}
          datasetId={s.form === 'histogram' ? null : s.datasetId}
          onChange={(source) => change('Colours of a layer', (d) => void (d.source = source))}
        />
        {problem && <p className="text-xs text-error">{problem}</p>}
      </Section>
      <Section title="Look">
        <Row label="Title">
          <TextField
            label="Title of the chart"
            value={s.title}
            onChange={(title) => change('Title of the chart', (d) => void (d.title = title))}
          />
        </Row>
        <Check
          label="Figures beside bars"
          checked={s.values}
          onChange={(on) => change('Figures', (d) => void (d.values = on))}
        />
        <Check
          label="Axis and grid lines"
          checked={s.gridlines}
          onChange={(on) => change('Grid lines', (d) => void (d.gridlines = on))}
        />
        <div className="flex flex-wrap gap-1">
          {s.colours.slice(0, Math.max(1, s.form === 'lines' ? s.rows : s.fields.length)).map((colour, i) => (
            <span key={i} className="flex w-[88px]">
              <ColourField
                label={`Colour ${i + 1}`}
                value={colour}
                onChange={(next) => change('Colours', (d) => void (d.colours[i] = next), `colour ${i}`)}
              />
            </span>
          ))}
        </div>
      </Section>
      <LetteringFold
        rows={{ heading: 'Title', label: 'Labels' }}
        styles={s}
        onChange={(key, next, merge) => change('Type', (d) => void Object.assign(d[key], next), merge)}
      />
    </>
  )
}
