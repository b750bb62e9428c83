'use client'
import { ArrowRight } from 'lucide-react'
import { formatNumber } from '@/core/classify/labels'
import { numbersOf, type Column } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { fieldRoles, type FieldMeta, type FieldRole } from '@/core/data/field-meta'
import type { Prepared } from '@/core/data/prepare'
import { rowName } from '@/core/data/row-names'
import { extremeRows, histogram, summarise } from '@/core/data/summary'
import { Button, Row, Select } from '../kit/controls'
import { TextField } from '../kit/text-field'
import { mapField } from '../map/edit-map'
import { editFolio } from '../shell/folio-store'
import { Scatter } from './scatter'

/** What a field is called and measures, and how its values lie. */
export function FieldCard({
  prepared,
  field,
  onRow,
}: {
  prepared: Prepared
  field: string | null
  onRow: (row: number) => void
}) {
  const column = field === null ? null : fieldOf(prepared.dataset, field)
  if (field === null || !column)
    return (
      <p className="border-b border-line px-3 py-3 text-xs text-muted">
        Choose a column of the table to see its figures and to set its name, unit and role.
      </p>
    )
  const meta = prepared.fieldMeta(field)
  const origin = prepared.origins.get(field) ?? { datasetId: prepared.entry.id, key: field }
  const change = (part: Partial<FieldMeta>) =>
    editFolio('Describe field', (draft) => {
      const entry = draft.datasets.find((d) => d.id === origin.datasetId)
      if (entry) entry.fields[origin.key] = { ...meta, ...part }
    })
  return (
    <section className="border-b border-line px-3 py-2.5">
      <h3 className="mb-1 font-semibold">{meta.label}</h3>
      <div className="flex flex-col gap-1">
        <Row label="Name">
          <TextField label="Name of the field" value={meta.label} onChange={(label) => change({ label })} />
        </Row>
        <Row label="Role">
          <Select
            label="Role"
            value={meta.role}
            options={fieldRoles.map((role) => ({ value: role, label: role }))}
            onChange={(role: FieldRole) => change({ role })}
          />
        </Row>
        <Row label="Unit">
          <TextField
            label="Unit"
            value={meta.unit}
            allowEmpty
            placeholder="none"
            onChange={(unit) => change({ unit })}
          />
        </Row>
        <Row label="Note">
          <TextField
            label="Note on the field"
            value={meta.note ?? ''}
            allowEmpty
            placeholder="how it was counted…"
            onChange={(note) => change({ note: note || undefined })}
          />
        </Row>
      </div>
      {column.kind === 'number' ? (
        <Figures prepared={prepared} values={numbersOf(column)} role={meta.role} onRow={onRow} />
      ) : (
        <Categories column={column} />
      )}
      {column.kind === 'number' && <Scatter prepared={prepared} field={field} />}
      {column.kind === 'number' && prepared.dataset.geometry.kind === 'areas' && (
        <Button look="primary" className="mt-3 w-full" onClick={() => mapField(prepared, field)}>
          Map this field <ArrowRight size={15} />
        </Button>
      )}
    </section>
  )
}

function Figures({
  prepared,
  values,
  role,
  onRow,
}: {
  prepared: Prepared
  values: Float64Array
  role: FieldRole
  onRow: (row: number) => void
}) {
  const s = summarise(values)
  if (!s.count) return <p className="mt-2 text-xs text-muted">All values are missing.</p>
  const bins = histogram(values, 28)
  const top = Math.max(...bins.map((bin) => bin.count))
  const digits = [0, 1].find((d) => s.max - s.min >= 10 ** (2 - 2 * d)) ?? 3
  const f = (v: number) => formatNumber(v, digits)
  const figures: [string, string][] = [
    ['values', formatNumber(s.count, 0)],
    ['missing', formatNumber(s.missing, 0)],
    ['lowest', f(s.min)],
    ['highest', f(s.max)],
    ['quartile 1', f(s.lowerQuartile)],
    ['quartile 3', f(s.upperQuartile)],
    ['median', f(s.median)],
    ['mean', f(s.mean)],
    ['st. dev.', f(s.standardDeviation)],
    ['skewness', formatNumber(s.skewness, 1)],
  ]
  if (role === 'total') figures.push(['sum', f(s.sum)])
  const { lowest, highest } = extremeRows(values, 3)
  return (
    <>
      <svg
        viewBox="0 0 240 54"
        className="mt-2 w-full text-muted"
        role="img"
        aria-label="Distribution of the values"
      >
        {bins.map(
          (bin, i) =>
            bin.count > 0 && (
              <rect
                key={i}
                x={(i * 240) / bins.length}
                width={240 / bins.length - 1}
                y={53 - (bin.count / top) * 50}
                height={(bin.count / top) * 50}
                fill="currentColor"
              />
            ),
        )}
        <path d="M0 53.5H240" stroke="currentColor" />
      </svg>
      <dl className="mt-1 grid grid-cols-[auto_1fr_auto_1fr] gap-x-2 gap-y-0.5 text-xs">
        {figures.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="whitespace-nowrap text-muted">{name}</dt>
            <dd className="text-right font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
      {(
        [
          ['Highest', highest],
          ['Lowest', lowest],
        ] as const
      ).map(([title, rows]) => (
        <p key={title} className="mt-1 text-xs text-muted">
          {title}:{' '}
          {rows.map((row, i) => (
            <span key={row}>
              <button type="button" className="inline text-left hover:underline" onClick={() => onRow(row)}>
                {rowName(prepared, row)} {f(values[row])}
              </button>
              {i < rows.length - 1 && ', '}
            </span>
          ))}
        </p>
      ))}
    </>
  )
}

/** How often each value stands in a text field, the commonest first. */
function Categories({ column }: { column: Extract<Column, { kind: 'text' }> }) {
  const counts = new Map<number, number>()
  for (const code of column.codes) counts.set(code, (counts.get(code) ?? 0) + 1)
  const missing = counts.get(0) ?? 0
  counts.delete(0)
  const listed = [...counts].sort((a, b) => b[1] - a[1])
  const top = listed[0]?.[1] ?? 1
  return (
    <div className="mt-2 text-xs">
      <p className="text-muted">
        {listed.length.toLocaleString('en-GB')} different{missing > 0 && `, ${missing} missing`}
      </p>
      {top > 1 && (
        <ul className="mt-1 flex flex-col gap-0.5">
          {listed.slice(0, 8).map(([code, count]) => (
            <li key={code} className="grid grid-cols-[84px_1fr_36px] items-center gap-2">
              <span className="truncate">{column.dictionary[code - 1]}</span>
              <span className="h-2 bg-neutral/70" style={{ width: `${(100 * count) / top}%` }} />
              <span className="text-right font-semibold">{count}</span>
            </li>
          ))}
          {listed.length > 8 && <li className="text-muted">and {listed.length - 8} more</li>}
        </ul>
      )}
    </div>
  )
}
