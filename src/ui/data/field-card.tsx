'use client'
import { ArrowRight } from 'lucide-react'
import { formatNumber } from '@/core/classify/labels'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import { fieldRoles, type FieldMeta, type FieldRole } from '@/core/data/field-meta'
import { rowName, type Prepared } from '@/core/data/prepare'
import { histogram, summarise } from '@/core/data/summary'
import { Button, Row, Select } from '../kit/controls'
import { TextField } from '../kit/text-field'
import { mapField } from '../map/edit-map'
import { editFolio } from '../shell/folio-store'

/** What a field is called and measures, and how its values lie. */
export function FieldCard({ prepared, field }: { prepared: Prepared; field: string | null }) {
  const column = field === null ? null : fieldOf(prepared.dataset, field)
  if (field === null || !column) return <p className="border-b border-line px-3 py-3 text-xs text-muted">Choose a column of the table to see its figures and to set its name, unit and role.</p>
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
          <Select label="Role" value={meta.role} options={fieldRoles.map((role) => ({ value: role, label: role }))} onChange={(role: FieldRole) => change({ role })} />
        </Row>
        <Row label="Unit">
          <TextField label="Unit" value={meta.unit} allowEmpty placeholder="none" onChange={(unit) => change({ unit })} />
        </Row>
      </div>
      {column.kind === 'number' && <Figures prepared={prepared} values={numbersOf(column)} />}
      {column.kind === 'number' && prepared.dataset.geometry.kind === 'areas' && (
        <Button look="primary" className="mt-3 w-full" onClick={() => mapField(prepared, field)}>
          Map this field <ArrowRight size={15} />
        </Button>
      )}
    </section>
  )
}

function Figures({ prepared, values }: { prepared: Prepared; values: Float64Array }) {
  const s = summarise(values)
  if (!s.count) return <p className="mt-2 text-xs text-muted">All values are missing.</p>
  const bins = histogram(values, 28)
  const top = Math.max(...bins.map((bin) => bin.count))
  const digits = s.max - s.min >= 100 ? 0 : s.max - s.min >= 1 ? 1 : 3
  const f = (v: number) => formatNumber(v, digits)
  const highest = values.indexOf(s.max)
  const figures: [string, string][] = [['lowest', f(s.min)], ['highest', f(s.max)], ['median', f(s.median)], ['mean', f(s.mean)], ['st. dev.', f(s.standardDeviation)], ['skewness', formatNumber(s.skewness, 1)], ['values', formatNumber(s.count, 0)], ['missing', formatNumber(s.missing, 0)]]
  return (
    <>
      <svg viewBox="0 0 240 54" className="mt-2 w-full text-muted" role="img" aria-label="Distribution of the values">
        {bins.map((bin, i) => bin.count > 0 && <rect key={i} x={(i * 240) / bins.length} width={240 / bins.length - 1} y={53 - (bin.count / top) * 50} height={(bin.count / top) * 50} fill="currentColor" />)}
        <path d="M0 53.5H240" stroke="currentColor" />
      </svg>
      <dl className="mt-1 grid grid-cols-4 gap-x-2 gap-y-0.5 text-xs">
        {figures.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-muted">{name}</dt>
            <dd className="text-right font-semibold">{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1 text-xs text-muted">
        Highest: {rowName(prepared, highest)}, {f(s.max)}
      </p>
    </>
  )
}
