'use client'
import { formatNumber } from '@/core/classify/labels'
import { singularUnit } from '@/core/data/field-meta'
import type { Prepared } from '@/core/data/prepare'
import { perCountFor, type Shown } from '@/core/kinds/values'
import { Row } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { ChoiceList } from '../../kit/popover'

const numbersIn = (prepared: Prepared) =>
  prepared.dataset.fields
    .filter((field) => field.column.kind === 'number')
    .map(({ key }) => ({ key, meta: prepared.fieldMeta(key) }))

/** The numbers of a dataset, to choose among. */
export const numberOptions = (prepared: Prepared): { value: string; label: string }[] =>
  numbersIn(prepared).map(({ key, meta }) => ({ value: key, label: meta.label }))

/** Which number of a dataset is shown. */
export function FieldPicker({
  value,
  prepared,
  onPick,
}: {
  value: string
  prepared: Prepared
  onPick: (field: string, label: string) => void
}) {
  const fields = numbersIn(prepared).filter(({ meta }) => meta.role !== 'code')
  return (
    <ChoiceList
      value={value}
      options={fields.map(({ key, meta }) => ({
        value: key,
        label: meta.label,
        note: [meta.role, meta.unit].filter(Boolean).join(' · '),
      }))}
      onPick={(field) => onPick(field, prepared.fieldMeta(field).label)}
    />
  )
}

/** What it is divided by, and for how many of that. */
export function PerPicker({
  shown: { field, per, perCount },
  prepared,
  onChange,
}: {
  shown: Shown
  prepared: Prepared
  onChange: (name: string, next: Partial<Shown>) => void
}) {
  const totals = numbersIn(prepared).filter(({ key, meta }) => meta.role === 'total' && key !== field)
  return (
    <div>
      <ChoiceList
        value={per ?? ''}
        options={[
          { value: '', label: 'as it is', note: 'not divided' },
          ...totals.map(({ key, meta }) => ({
            value: key,
            label: `per ${singularUnit(meta)}`,
            note: meta.label,
          })),
        ]}
        onPick={(key) =>
          onChange(
            key ? `Divide by ${prepared.fieldMeta(key).label}` : 'Do not divide',
            key ? { per: key, perCount: perCountFor(field, key, prepared) } : { per: null, perCount: 1 },
          )
        }
      />
      {per && (
        <div className="mt-1 border-t border-line pt-2">
          <Row label="For so many">
            <NumberField
              label="Denominator counted in"
              value={perCount}
              min={1}
              step={1}
              onChange={(n) => onChange(`Per ${formatNumber(n, 0)}`, { perCount: n })}
            />
          </Row>
        </div>
      )}
    </div>
  )
}
