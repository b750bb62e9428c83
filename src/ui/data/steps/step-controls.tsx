'use client'
import { Plus, SquareDashedMousePointer, X } from 'lucide-react'
import { aggregateOps, proposeOp, type Aggregate, type AggregateOp } from '@/core/data/aggregate'
import { proposeKeys } from '@/core/data/join'
import type { Prepared } from '@/core/data/prepare'
import type { Correction } from '@/core/data/steps/correct'
import { conditionTests, type Condition } from '@/core/data/steps/filter'
import { Button, Check, IconButton, Row, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { useDrawingArea } from '../drawing'

export type FieldChoice = { value: string; label: string; kind: 'number' | 'text' }

export const fieldsOf = ({ dataset, fieldMeta }: Prepared): FieldChoice[] =>
  dataset.fields.map(({ key, column }) => ({ value: key, label: fieldMeta(key).label, kind: column.kind }))

type FieldsProps = {
  label: string
  chosen: string[]
  choices: FieldChoice[]
  onChange: (next: string[]) => void
}

export function FieldList({ label, chosen, choices, onChange }: FieldsProps) {
  return (
    <>
      {chosen.map((key, i) => (
        <Row key={i} label={i ? 'and' : label}>
          <Select
            label={`${label} ${i + 1}`}
            value={key}
            options={choices}
            onChange={(next) => onChange(chosen.map((k, j) => (j === i ? next : k)))}
          />
          {chosen.length > 1 && (
            <Remove
              label={`Without ${choices.find((c) => c.value === key)?.label ?? key}`}
              onClick={() => onChange(chosen.filter((_, j) => j !== i))}
            />
          )}
        </Row>
      ))}
      <Add
        label="Another field"
        onClick={() => onChange([...chosen, choices.find((c) => !chosen.includes(c.value))?.value ?? ''])}
      />
    </>
  )
}

/** Any number of fields, ticked off in a list. */
export function FieldChecks({ label, chosen, choices, onChange }: FieldsProps) {
  if (!choices.length) return null
  const ticked = choices.filter(({ value }) => chosen.includes(value))
  const take = (values: string[]) =>
    onChange(choices.map(({ value }) => value).filter((value) => values.includes(value)))
  return (
    <fieldset aria-label={label} className="min-w-0">
      <div className="flex h-7 items-center gap-1 text-xs">
        <span className="min-w-0 flex-1 truncate text-muted" title={label}>
          {label}
        </span>
        <span className="tabular-nums">
          {ticked.length} of {choices.length}
        </span>
        <Button className="!h-6" look="quiet" onClick={() => take(choices.map(({ value }) => value))}>
          All
        </Button>
        <Button className="!h-6" look="quiet" onClick={() => take([])}>
          None
        </Button>
      </div>
      <ul className="max-h-40 overflow-y-auto rounded border border-line px-2 py-0.5">
        {choices.map(({ value, label: name }) => (
          <li key={value} className="-my-0.5 truncate" title={name}>
            <Check
              label={name}
              checked={chosen.includes(value)}
              onChange={(on) => take(on ? [...chosen, value] : chosen.filter((key) => key !== value))}
            />
          </li>
        ))}
      </ul>
    </fieldset>
  )
}

export type Pair = { key: string; otherKey: string }

export function KeyPairs({
  pairs,
  before,
  other,
  onChange,
}: {
  pairs: Pair[]
  before: Prepared
  other: Prepared | null
  onChange: (next: Pair[]) => void
}) {
  const [own, others] = [fieldsOf(before), other ? fieldsOf(other) : []]
  const change = (i: number, part: Partial<Pair>) =>
    onChange(pairs.map((pair, j) => (j === i ? { ...pair, ...part } : pair)))
  const proposed = other && proposeKeys(before.dataset.fields, other.dataset.fields)
  return (
    <>
      {pairs.map((pair, i) => (
        <div key={i} className="contents">
          <Row label={i ? 'and key here' : 'Key here'}>
            <Select
              label={`Key in ${before.entry.name}`}
              value={pair.key}
              options={own}
              onChange={(key) => change(i, { key })}
            />
          </Row>
          <Row label="Key there">
            <Select
              label={`Key in ${other?.entry.name ?? 'the table'}`}
              value={pair.otherKey}
              options={[
                ...(others.some((o) => o.value === pair.otherKey)
                  ? []
                  : [{ value: pair.otherKey, label: 'choose…' }]),
                ...others,
              ]}
              onChange={(otherKey) => change(i, { otherKey })}
            />
            {pairs.length > 1 && (
              <Remove
                label="Without this pair of keys"
                onClick={() => onChange(pairs.filter((_, j) => j !== i))}
              />
            )}
          </Row>
        </div>
      ))}
      <div className="flex gap-1">
        <Add
          label="Another key"
          onClick={() => onChange([...pairs, { key: own[0]?.value ?? '', otherKey: others[0]?.value ?? '' }])}
        />
        {proposed &&
          pairs.length === 1 &&
          (proposed.key !== pairs[0].key || proposed.otherKey !== pairs[0].otherKey) && (
            <Button className="!h-6" look="quiet" onClick={() => onChange([proposed])}>
              Best match
            </Button>
          )}
      </div>
    </>
  )
}

export function Figures({
  figures,
  source,
  onChange,
}: {
  figures: Aggregate[]
  source: Prepared | null
  onChange: (next: Aggregate[]) => void
}) {
  if (!source) return null
  const choices = fieldsOf(source)
  const change = (i: number, part: Partial<Aggregate>) =>
    onChange(figures.map((figure, j) => (j === i ? { ...figure, ...part } : figure)))
  const opFor = (key: string): AggregateOp => {
    const column = source.dataset.fields.find((f) => f.key === key)?.column
    return column ? proposeOp(source.fieldMeta(key), column) : 'sum'
  }
  return (
    <div>
      <span className="text-xs text-muted">Figures</span>
      <ul className="flex max-h-60 flex-col gap-1 overflow-y-auto">
        {figures.map((figure, i) => (
          <li key={i} className="flex flex-col gap-1">
            <div className="flex gap-1">
              <Select
                label={`Field of figure ${i + 1}`}
                value={figure.field}
                options={choices}
                onChange={(field) => change(i, { field, op: opFor(field) })}
              />
              <Select
                label={`Figure ${i + 1}`}
                className="!w-20 shrink-0"
                value={figure.op}
                options={aggregateOps.map((op) => ({ value: op, label: op }))}
                onChange={(op: AggregateOp) =>
                  change(i, {
                    op,
                    weight:
                      op === 'weighted mean'
                        ? (figure.weight ?? choices.find((c) => c.kind === 'number')?.value ?? null)
                        : figure.weight,
                  })
                }
              />
              <Remove
                label={`Without figure ${i + 1}`}
                onClick={() => onChange(figures.filter((_, j) => j !== i))}
              />
            </div>
            {figure.op === 'weighted mean' && (
              <Row label="weighted by">
                <Select
                  label={`Weight of figure ${i + 1}`}
                  value={figure.weight ?? ''}
                  options={choices.filter((c) => c.kind === 'number')}
                  onChange={(weight) => change(i, { weight })}
                />
              </Row>
            )}
          </li>
        ))}
      </ul>
      <Add
        label="Another figure"
        onClick={() =>
          onChange([
            ...figures,
            {
              field: choices.find((c) => c.kind === 'number')?.value ?? choices[0]?.value ?? '',
              op: opFor(choices.find((c) => c.kind === 'number')?.value ?? ''),
              weight: null,
            },
          ])
        }
      />
    </div>
  )
}

export function Conditions({
  conditions,
  choices,
  onChange,
}: {
  conditions: Condition[]
  choices: FieldChoice[]
  onChange: (next: Condition[]) => void
}) {
  const change = (i: number, part: Partial<Condition>) =>
    onChange(conditions.map((condition, j) => (j === i ? { ...condition, ...part } : condition)))
  return (
    <div className="flex flex-col gap-1.5">
      {conditions.map((condition, i) => (
        <div key={i} className="flex flex-col gap-1 rounded border border-line p-1.5">
          <div className="flex gap-1">
            <Select
              label={`Field of condition ${i + 1}`}
              value={condition.field}
              options={choices}
              onChange={(field) => change(i, { field })}
            />
            <Remove
              label={`Without condition ${i + 1}`}
              onClick={() => onChange(conditions.filter((_, j) => j !== i))}
            />
          </div>
          <div className="flex gap-1">
            <Select
              label={`Test of condition ${i + 1}`}
              className="!w-28 shrink-0"
              value={condition.test}
              options={conditionTests.map((test) => ({ value: test, label: test }))}
              onChange={(test) => change(i, { test })}
            />
            {!['is missing', 'is there'].includes(condition.test) && (
              <TextField
                label={`Value of condition ${i + 1}`}
                value={condition.value}
                allowEmpty
                onChange={(value) => change(i, { value })}
              />
            )}
            {condition.test === 'lies between' && (
              <TextField
                label={`Upper value of condition ${i + 1}`}
                value={condition.upTo}
                allowEmpty
                onChange={(upTo) => change(i, { upTo })}
              />
            )}
          </div>
        </div>
      ))}
      <Add
        label="Another condition"
        onClick={() =>
          onChange([
            ...conditions,
            {
              field: choices[0]?.value ?? '',
              test: choices[0]?.kind === 'number' ? 'is at least' : 'is',
              value: '',
              upTo: '',
            },
          ])
        }
      />
    </div>
  )
}

export type Range = { under: number | null; name: string }

export function Ranges({ ranges, onChange }: { ranges: Range[]; onChange: (next: Range[]) => void }) {
  const change = (i: number, part: Partial<Range>) =>
    onChange(ranges.map((range, j) => (j === i ? { ...range, ...part } : range)))
  return (
    <div className="flex flex-col gap-1">
      {ranges.map((range, i) => (
        <div key={i} className="flex items-center gap-1">
          <span className="w-9 shrink-0 text-xs text-muted">{range.under === null ? 'over' : 'under'}</span>
          {range.under !== null && (
            <NumberField
              label={`Limit ${i + 1}`}
              className="max-w-20"
              value={range.under}
              onChange={(under) => change(i, { under })}
            />
          )}
          <TextField
            label={`Name of range ${i + 1}`}
            value={range.name}
            onChange={(name) => change(i, { name })}
          />
          {range.under !== null && ranges.length > 2 && (
            <Remove
              label={`Without range ${i + 1}`}
              onClick={() => onChange(ranges.filter((_, j) => j !== i))}
            />
          )}
        </div>
      ))}
      <Add
        label="Another range"
        onClick={() =>
          onChange([
            ...ranges.slice(0, -1),
            { under: (ranges.at(-2)?.under ?? 0) + 1, name: 'new range' },
            ranges[ranges.length - 1],
          ])
        }
      />
    </div>
  )
}

const Remove = ({ label, onClick }: { label: string; onClick: () => void }) => (
  <IconButton label={label} className="!size-6" onClick={onClick}>
    <X size={13} />
  </IconButton>
)

const Add = ({ label, onClick }: { label: string; onClick: () => void }) => (
  <Button className="!h-6 self-start" look="quiet" onClick={onClick}>
    <Plus size={13} /> {label}
  </Button>
)

export function DrawnArea({
  label,
  corners,
  onChange,
}: {
  label: string
  corners: number
  onChange: (ring: [number, number][]) => void
}) {
  const { done, begin } = useDrawingArea()
  return (
    <Row label={label}>
      <Button className="flex-1" disabled={done !== null} onClick={() => begin(onChange)}>
        <SquareDashedMousePointer size={14} /> {done && 'drawing…'}
        {!done && (corners ? 'Draw it anew' : 'Draw it on the map')}
      </Button>
      {corners > 0 && <Remove label="Without the drawn area" onClick={() => onChange([])} />}
    </Row>
  )
}

const byName = '(none)'

/**
 * Own fields, each with the field of the other dataset that goes into it; equal names go together by
 * themselves.
 */
export function Matching({
  matched,
  before,
  other,
  onChange,
}: {
  matched: Record<string, string>
  before: Prepared
  other: Prepared | null
  onChange: (next: Record<string, string>) => void
}) {
  if (!other) return null
  const [own, others] = [fieldsOf(before), fieldsOf(other)]
  const used = new Set(own.map(({ value }) => matched[value] ?? value))
  const left = others.filter(({ value }) => !used.has(value))
  return (
    <>
      {own.map(({ value, label }) => {
        const here = matched[value] ?? (others.some((o) => o.value === value) ? value : byName)
        return (
          <Row key={value} label={label}>
            <Select
              label={`Goes into ${label}`}
              value={here}
              options={[{ value: byName, label: 'nothing' }, ...others]}
              onChange={(next) =>
                onChange(
                  Object.fromEntries(
                    Object.entries({ ...matched, [value]: next === byName ? '' : next }).filter(
                      ([key, v]) => v !== key,
                    ),
                  ),
                )
              }
            />
          </Row>
        )
      })}
      {left.length > 0 && (
        <p className="text-xs text-muted">Added as new: {left.map(({ label }) => label).join(', ')}.</p>
      )}
    </>
  )
}

/** The cells that were set by hand, each of which can be taken back. */
export function Corrections({
  edits,
  before,
  onChange,
}: {
  edits: Correction[]
  before: Prepared
  onChange: (next: Correction[]) => void
}) {
  if (!edits.length)
    return (
      <p className="text-xs text-muted">
        Double-click a cell of the table, or press Enter on a marked row, and type what is right.
      </p>
    )
  return (
    <ul className="flex max-h-44 flex-col overflow-y-auto text-xs">
      {edits.map(({ row, field, value }, i) => (
        <li key={i} className="flex items-center justify-between gap-1">
          <span
            className="min-w-0 truncate"
            title={`${before.fieldMeta(field).label} of ${row}: ${value ?? 'missing'}`}
          >
            <span className="text-muted">{row},</span> {before.fieldMeta(field).label}:{' '}
            <span className="font-semibold">{value ?? 'missing'}</span>
          </span>
          <Remove
            label={`Take back ${before.fieldMeta(field).label} of ${row}`}
            onClick={() => onChange(edits.filter((_, j) => j !== i))}
          />
        </li>
      ))}
    </ul>
  )
}
