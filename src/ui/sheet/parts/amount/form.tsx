'use client'
import { Plus, Trash2 } from 'lucide-react'
import { textAt } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { amountProblem, amountsOf, amountWords } from '@/core/sheet/parts/amount/draw'
import { amountForms, mostParts, type AmountForm as Form } from '@/core/sheet/parts/amount/spec'
import { firstColours } from '@/core/sheet/figures/first-colours'
import { Button, Check, IconButton, Row, Section, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { TextField } from '../../../kit/text-field'
import { usePrepared } from '../../../shell/contents'
import { editSheet, settingsChanger } from '../../edit-sheet'
import { DatasetRow, useFieldOptions } from '../dataset-row'
import type { FormProps } from '../face'
import { LetteringFold } from '../lettering-fold'
import { PlaceSection } from './place'

const formWords: Record<Form, string> = { ring: 'a ring', disc: 'a disc', square: 'a square', bar: 'a bar' }
/** More values than this are not offered to choose from. */
const mostValues = 2000

/** What is summed up, as what, and on which scale. */
export function AmountForm({ sheet, part }: FormProps<'amount'>) {
  const s = part.settings
  const change = settingsChanger(sheet.id, part)
  const datasets = usePrepared()
  const numbers = useFieldOptions(s.datasetId, 'number')
  const all = useFieldOptions(s.datasetId, 'all')
  const prepared = datasets.get(s.datasetId)
  const problem = amountProblem(s, prepared)
  const amounts = prepared && !problem ? amountsOf(s, prepared) : null
  const column = s.of && prepared ? fieldOf(prepared.dataset, s.of.field) : null
  const values = column?.kind === 'text' ? [...column.dictionary].sort().slice(0, mostValues) : []
  const label = prepared?.fieldMeta(s.parts[0].field).label ?? ''
  const rest = sheet.parts.flatMap((one) => (one.type === 'amount' && one.id !== part.id ? [one] : []))
  const others = rest.length
  const theirs = rest.find(({ settings }) => settings.perMm2 !== s.perMm2)?.settings.perMm2
  const rescale = (perMm2: number) =>
    editSheet(
      sheet.id,
      'Scale of amounts',
      (draft) => {
        for (const one of draft.parts) if (one.type === 'amount') one.settings.perMm2 = perMm2
      },
      'amounts',
    )
  return (
    <>
      <Section title="Amount">
        <DatasetRow
          datasetId={s.datasetId}
          onChange={(datasetId) =>
            change('Amount of another dataset', (d) => {
              const fields = datasets.get(datasetId)?.dataset.fields ?? []
              const field = fields.find(({ column: one }) => one.kind === 'number')?.key ?? ''
              d.datasetId = datasetId
              d.parts = [{ field, colour: d.parts[0].colour }]
              d.of = null
            })
          }
        />
        {s.parts.map(({ field, colour }, i) => (
          <Row key={i} label={i === 0 ? 'Sum of' : 'and of'}>
            <Select
              label={`Field of part ${i + 1}`}
              value={field}
              options={numbers}
              onChange={(key) => change('Field of the amount', (d) => void (d.parts[i].field = key))}
            />
            <span className={s.parts.length < 2 ? 'w-24 shrink-0' : 'w-[38px] shrink-0 overflow-hidden'}>
              <ColourField
                label={`Colour of part ${i + 1}`}
                value={colour}
                onChange={(next) => change('Colour', (d) => void (d.parts[i].colour = next), `colour ${i}`)}
              />
            </span>
            {s.parts.length > 1 && (
              <IconButton
                label={`Remove part ${i + 1}`}
                onClick={() => change('Remove a part', (d) => void d.parts.splice(i, 1))}
              >
                <Trash2 size={14} />
              </IconButton>
            )}
          </Row>
        ))}
        {s.parts.length < mostParts && (
          <Button
            look="quiet"
            onClick={() =>
              change('Add a part', (d) => {
                const free = numbers.find(({ value }) => !d.parts.some(({ field }) => field === value))
                const colour = firstColours[d.parts.length % firstColours.length]
                if (free) d.parts.push({ field: free.value, colour })
              })
            }
          >
            <Plus size={14} aria-hidden /> Part of the whole
          </Button>
        )}
        <Row label="Rows">
          <Select
            label="Rows of the amount"
            value={s.of?.field ?? ''}
            options={[
              { value: '', label: 'all' },
              ...all.map(({ value, label }) => ({ value, label: `by ${label}` })),
            ]}
            onChange={(field) =>
              change('Rows of the amount', (d) => {
                const texts = prepared && field ? fieldOf(prepared.dataset, field) : null
                const first = texts && prepared?.dataset.rowCount ? textAt(texts, 0) : null
                if (first && d.title === label) d.title = first
                else if (!field && d.of && d.title === d.of.value) d.title = label
                d.of = field ? { field, value: first ?? '' } : null
              })
            }
          />
          {s.of && values.length > 0 && (
            <Select
              label="Which rows"
              value={s.of.value}
              options={values.map((value) => ({ value, label: value }))}
              onChange={(value) =>
                change('Rows of the amount', (d) => {
                  if (!d.of) return
                  // Words that named the rows go on naming them.
                  if (d.title === d.of.value) d.title = value
                  d.of.value = value
                })
              }
            />
          )}
        </Row>
        {problem && <p className="text-xs text-error">{problem}</p>}
        {amounts && prepared && (
          <p className="px-1 text-xs text-muted" aria-label="The amount">
            {amountWords(s, prepared, amounts.total)} of{' '}
            {amounts.rows === 1 ? '1 row' : `${amounts.rows} rows`}
          </p>
        )}
        {amounts && amounts.without > 0 && (
          <p className="px-1 text-xs text-caution" role="status">
            {amounts.without === 1 ? '1 value' : `${amounts.without} values`} missing or not above zero.
          </p>
        )}
      </Section>
      {prepared && !problem && <PlaceSection sheet={sheet} part={part} prepared={prepared} />}
      <Section title="Look">
        <Row label="Drawn as">
          <Select
            label="Form of the amount"
            value={s.form}
            options={amountForms.map((value) => ({ value, label: formWords[value] }))}
            onChange={(form) => change(`As ${formWords[form]}`, (d) => void (d.form = form))}
          />
          {s.form === 'ring' && (
            <NumberField
              label="Hole of the ring"
              value={100 * s.hole}
              unit="%"
              min={0}
              max={95}
              onChange={(percent) => change('Hole of the ring', (d) => void (d.hole = percent / 100), 'hole')}
            />
          )}
          {s.form === 'bar' && (
            <NumberField
              label="Width of the bar"
              value={s.widthMm}
              unit="mm"
              min={0.2}
              max={500}
              step={0.5}
              onChange={(mm) => change('Width of the bar', (d) => void (d.widthMm = mm), 'width')}
            />
          )}
        </Row>
        <Row label="1 mm² is">
          <NumberField
            label="What a square millimetre stands for"
            value={s.perMm2}
            min={1e-9}
            step={Math.max(1e-9, s.perMm2 / 20)}
            decimals={6}
            onChange={rescale}
          />
        </Row>
        {theirs !== undefined && (
          <p className="flex items-center gap-2 px-1 text-xs text-caution" role="status">
            Another amount of this sheet has another scale.
            <Button
              className="!h-6 !text-xs"
              onClick={() => change('The scale of the others', (d) => void (d.perMm2 = theirs))}
            >
              Take theirs
            </Button>
          </p>
        )}
        {theirs === undefined && others > 0 && (
          <p className="px-1 text-xs text-muted">
            For {others === 1 ? 'the other amount' : `the ${others} other amounts`} of this sheet as well.
          </p>
        )}
        <Row label="Beneath">
          <TextField
            label="Title of the amount"
            value={s.title}
            onChange={(title) => change('Title of the amount', (d) => void (d.title = title.slice(0, 300)))}
          />
        </Row>
        <Check
          label="Figure"
          checked={s.values}
          onChange={(on) => change('Figure', (d) => void (d.values = on))}
        />
        <Row label="Lines">
          <ColourField
            label="Colour of lines"
            value={s.lineColour}
            onChange={(colour) =>
              change('Colour of lines', (d) => void (d.lineColour = colour), 'line colour')
            }
          />
          <NumberField
            label="Width of lines"
            value={s.lineMm}
            unit="mm"
            min={0}
            max={10}
            step={0.05}
            onChange={(mm) => change('Width of lines', (d) => void (d.lineMm = mm), 'line width')}
          />
        </Row>
      </Section>
      <LetteringFold
        rows={{ label: 'Words' }}
        styles={s}
        onChange={(key, next, merge) => change('Type', (d) => void Object.assign(d[key], next), merge)}
      />
    </>
  )
}
