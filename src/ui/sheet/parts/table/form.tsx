'use client'
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react'
import { plainTable } from '@/core/sheet/parts/table'
import type { TableColumn } from '@/core/sheet/parts/table/spec'
import { Button, Check, IconButton, Row, Section, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { Fold } from '../../../kit/fold'
import { NumberField } from '../../../kit/number-field'
import { TextField } from '../../../kit/text-field'
import { usePrepared } from '../../../shell/contents'
import { settingsChanger } from '../../edit-sheet'
import { useFrameOf } from '../../frames'
import { DatasetRow, useFieldOptions } from '../dataset-row'
import type { FormProps } from '../face'
import { LetteringFold } from '../lettering-fold'
import { LayerRow } from '../layer-row'

/** Which columns and rows of which dataset, and how the table looks. */
export function TableForm({ sheet, part }: FormProps<'table'>) {
  const s = part.settings
  const change = settingsChanger(sheet.id, part)
  const datasets = usePrepared()
  const fields = useFieldOptions(s.datasetId, 'all')
  const count = datasets.get(s.datasetId)?.dataset.rowCount ?? 0
  const frameOf = useFrameOf()
  const { box } = frameOf(part)
  const beyond = box.y + box.height - sheet.page.heightMm
  return (
    <>
      <Section title="Rows">
        <DatasetRow
          datasetId={s.datasetId}
          onChange={(id) => {
            const prepared = datasets.get(id)
            if (prepared)
              change('Table of another dataset', (d) => {
                const { columns, sortBy, datasetId } = plainTable(id, prepared)
                Object.assign(d, { columns, sortBy, datasetId, swatch: null })
              })
          }}
        />
        <Row label="Sorted by">
          <Select
            label="Sorted by"
            value={s.sortBy ?? ''}
            options={[{ value: '', label: 'as they stand' }, ...fields]}
            onChange={(key) => change('Sort', (d) => void (d.sortBy = key || null))}
          />
          <IconButton
            label={s.descending ? 'The largest first' : 'The smallest first'}
            onClick={() => change('Sort', (d) => void (d.descending = !d.descending))}
          >
            {s.descending ? <ArrowDown size={14} /> : <ArrowUp size={14} />}
          </IconButton>
        </Row>
        <Row label="The first">
          <NumberField
            label="Rows"
            value={s.rows}
            min={1}
            max={2000}
            decimals={0}
            onChange={(n) => change('Rows', (d) => void (d.rows = n), 'rows')}
          />
          <span className="flex-1 text-xs text-muted">of {count} rows</span>
        </Row>
        <Check
          label="A last row with the sums of totals"
          checked={s.totals}
          onChange={(on) => change('Row of sums', (d) => void (d.totals = on))}
        />
        {beyond > 0.5 && (
          <div className="rounded border border-warning bg-warning/10 px-2 py-1.5 text-xs" role="status">
            The table runs {beyond.toFixed(0)} mm over the foot of the page.
            <div className="mt-1 flex flex-wrap gap-1">
              <Button
                className="!h-6 text-xs"
                onClick={() =>
                  change('Fewer rows', (d) => {
                    d.rows = Math.max(1, Math.floor(d.rows * ((box.height - beyond) / box.height) - 1))
                  })
                }
              >
                Fewer rows
              </Button>
              <Button
                className="!h-6 text-xs"
                onClick={() => change('Beside each other', (d) => void (d.blocks += 1))}
              >
                One more beside
              </Button>
              <Button
                className="!h-6 text-xs"
                onClick={() =>
                  change('Smaller type', (d) => {
                    Object.assign(d.body, { sizePt: Math.max(5.5, d.body.sizePt - 0.5), named: null })
                    Object.assign(d.head, { sizePt: Math.max(5.5, d.head.sizePt - 0.5), named: null })
                  })
                }
              >
                Smaller type
              </Button>
            </div>
          </div>
        )}
      </Section>
      <ColumnsForm sheet={sheet} part={part} />
      <Fold title="Look of the table">
        <LayerRow
          sheet={sheet}
          label="Colours"
          source={s.swatch}
          datasetId={s.datasetId}
          onChange={(source) => change('Colours of the rows', (d) => void (d.swatch = source))}
        />
        <Row label="Rules">
          <Select
            label="Rules"
            value={s.rules}
            options={[
              { value: 'none', label: 'none' },
              { value: 'head', label: 'head and foot' },
              { value: 'rows', label: 'every row' },
            ]}
            onChange={(rules) => change('Rules', (d) => void (d.rules = rules))}
          />
          <ColourField
            label="Colour of the rules"
            value={s.ruleColour}
            onChange={(colour) => change('Rules', (d) => void (d.ruleColour = colour), 'rules')}
          />
        </Row>
        <Check
          label="Every second row tinted"
          checked={s.stripes !== null}
          onChange={(on) => change('Tinted rows', (d) => void (d.stripes = on ? '#eeeeee' : null))}
        />
        {s.stripes !== null && (
          <Row label="Tint">
            <ColourField
              label="Tint of the rows"
              value={s.stripes}
              onChange={(colour) => change('Tinted rows', (d) => void (d.stripes = colour), 'stripes')}
            />
          </Row>
        )}
        <Row label="Leading, gap">
          <NumberField
            label="Leading"
            value={s.leading}
            unit="×"
            min={0.8}
            max={4}
            step={0.05}
            onChange={(n) => change('Leading', (d) => void (d.leading = n), 'leading')}
          />
          <NumberField
            label="Gap between columns"
            value={s.gapMm}
            unit="mm"
            min={0}
            max={50}
            step={0.5}
            onChange={(n) => change('Gap', (d) => void (d.gapMm = n), 'gap')}
          />
        </Row>
        <Row label="Beside">
          <NumberField
            label="Pieces beside each other"
            value={s.blocks}
            min={1}
            max={8}
            decimals={0}
            onChange={(n) => change('Beside each other', (d) => void (d.blocks = n), 'blocks')}
          />
          <span className="flex-1" />
        </Row>
      </Fold>
      <LetteringFold
        rows={{ head: 'Head', body: 'Rows' }}
        styles={s}
        onChange={(key, next, merge) => change('Type', (d) => void Object.assign(d[key], next), merge)}
      />
    </>
  )
}

function ColumnsForm({ sheet, part }: FormProps<'table'>) {
  const { columns, datasetId } = part.settings
  const fields = useFieldOptions(datasetId, 'all')
  const prepared = usePrepared().get(datasetId)
  const change = settingsChanger(sheet.id, part)
  const set = (i: number, next: Partial<TableColumn>, merge?: string) =>
    change('Column', (d) => void Object.assign(d.columns[i], next), merge && `column ${i} ${merge}`)
  const move = (i: number, by: number) =>
    change('Move column', (d) => {
      const [one] = d.columns.splice(i, 1)
      d.columns.splice(i + by, 0, one)
    })
  return (
    <Section title="Columns">
      {columns.map((column, i) => (
        <div key={i} className="flex flex-col gap-1 border-b border-line pb-1 last:border-0">
          <div className="flex items-center gap-1">
            <Select
              label={`Field of column ${i + 1}`}
              value={column.field}
              options={fields}
              onChange={(field) => set(i, { field, label: '', decimals: null })}
            />
            <IconButton
              className="!size-6"
              label={`Column ${i + 1} to the left`}
              disabled={i === 0}
              onClick={() => move(i, -1)}
            >
              <ArrowUp size={13} />
            </IconButton>
            <IconButton
              className="!size-6"
              label={`Column ${i + 1} to the right`}
              disabled={i === columns.length - 1}
              onClick={() => move(i, 1)}
            >
              <ArrowDown size={13} />
            </IconButton>
            <IconButton
              className="!size-6"
              label={`Remove column ${i + 1}`}
              disabled={columns.length === 1}
              onClick={() => change('Remove column', (d) => void d.columns.splice(i, 1))}
            >
              <Trash2 size={13} />
            </IconButton>
          </div>
          <div className="flex items-center gap-1">
            <TextField
              label={`Name of column ${i + 1} for readers`}
              value={column.label || (prepared?.fieldMeta(column.field).label ?? '')}
              onChange={(label) => set(i, { label })}
            />
            <Select
              label={`Decimals of column ${i + 1}`}
              className="!w-[86px] !flex-none"
              value={String(column.decimals ?? '')}
              options={[
                { value: '', label: 'as it is' },
                ...[0, 1, 2, 3, 4].map((n) => ({
                  value: String(n),
                  label: n === 1 ? '1 decimal' : `${n} decimals`,
                })),
              ]}
              onChange={(n) => set(i, { decimals: n === '' ? null : Number(n) })}
            />
          </div>
        </div>
      ))}
      {columns.length < 24 && fields.length > 0 && (
        <Button
          look="quiet"
          onClick={() =>
            change('Add column', (d) => {
              const free =
                fields.find(({ value }) => !d.columns.some(({ field }) => field === value)) ?? fields[0]
              d.columns.push({ field: free.value, label: '', decimals: null, align: 'auto' })
            })
          }
        >
          <Plus size={14} aria-hidden /> Column
        </Button>
      )}
    </Section>
  )
}
