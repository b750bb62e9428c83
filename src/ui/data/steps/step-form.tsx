'use client'
import { Plus, X } from 'lucide-react'
import { aggregateOps, proposeOp, type Aggregate, type AggregateOp } from '@/core/data/aggregate'
import { formulaFunctions, formulaName, parseFormula } from '@/core/data/formula'
import type { Prepared } from '@/core/data/prepare'
import { proposeKeys } from '@/core/data/join'
import { conditionTests, type Condition } from '@/core/data/steps/filter'
import type { StepControl } from '@/core/data/steps/step'
import { Button, Check, IconButton, Row, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'

type Settings = Record<string, unknown>
type FieldChoice = { value: string; label: string; kind: 'number' | 'text' }
type Props = { control: StepControl; settings: Settings; before: Prepared; all: Map<string, Prepared>; onChange: (name: string, value: unknown) => void }

const fieldsOf = ({ dataset, fieldMeta }: Prepared): FieldChoice[] => dataset.fields.map(({ key, column }) => ({ value: key, label: fieldMeta(key).label, kind: column.kind }))

/** The form of a step, row by row as its kind describes it. `before` is the dataset as it comes to the step. */
export function StepForm({ form, settings, before, all, onChange }: { form: StepControl[] } & Omit<Props, 'control'>) {
  return (
    <div className="flex flex-col gap-1">
      {form
        .filter(({ when }) => !when || when.is.includes(String(settings[when.name])))
        .map((control) => (
          <ControlRow key={control.name} control={control} settings={settings} before={before} all={all} onChange={onChange} />
        ))}
    </div>
  )
}

function ControlRow(props: Props) {
  const { control, settings, before, all, onChange } = props
  const value = settings[control.name]
  const source = 'of' in control && control.of ? (all.get(String(settings[control.of])) ?? null) : before
  const set = (next: unknown) => onChange(control.name, next)
  switch (control.control) {
    case 'dataset': {
      const fitting = [...all.values()].filter((other) => other.entry.id !== before.entry.id && (control.geometry === 'any' || control.geometry.includes(other.dataset.geometry.kind)))
      return (
        <Row label={control.label}>
          <Select label={control.label} value={String(value)} options={[...(fitting.some((o) => o.entry.id === value) ? [] : [{ value: String(value), label: fitting.length ? 'choose…' : 'none there yet' }]), ...fitting.map(({ entry }) => ({ value: entry.id, label: entry.name }))]} onChange={set} />
        </Row>
      )
    }
    case 'field': {
      const choices = source ? fieldsOf(source).filter(({ kind }) => control.kind === 'any' || kind === control.kind) : []
      return (
        <Row label={control.label}>
          <Select label={control.label} value={String(value)} options={[...(choices.some((c) => c.value === value) ? [] : [{ value: String(value), label: 'choose…' }]), ...choices]} onChange={set} />
        </Row>
      )
    }
    case 'fields':
      return <FieldList label={control.label} chosen={value as string[]} choices={source ? fieldsOf(source) : []} onChange={set} />
    case 'keys':
      return <KeyPairs pairs={value as Pair[]} before={before} other={source === before ? null : source} onChange={set} />
    case 'choice':
      return (
        <Row label={control.label}>
          <Select label={control.label} value={String(value)} options={control.options} onChange={set} />
        </Row>
      )
    case 'number':
      return (
        <Row label={control.label}>
          <NumberField label={control.label} value={Number(value)} unit={control.unit} min={control.min} max={control.max} step={control.step} onChange={set} />
        </Row>
      )
    case 'text':
      return (
        <Row label={control.label}>
          <TextField label={control.label} value={String(value)} allowEmpty onChange={set} />
        </Row>
      )
    case 'check':
      return <Check label={control.label} checked={Boolean(value)} onChange={set} />
    case 'formula':
      return <FormulaField label={control.label} value={String(value)} before={before} onChange={set} />
    case 'aggregates':
      return <Figures figures={value as Aggregate[]} source={source} onChange={set} />
    case 'conditions':
      return <Conditions conditions={value as Condition[]} choices={fieldsOf(before)} onChange={set} />
    case 'ranges':
      return <Ranges ranges={value as Range[]} onChange={set} />
  }
}

function FieldList({ label, chosen, choices, onChange }: { label: string; chosen: string[]; choices: FieldChoice[]; onChange: (next: string[]) => void }) {
  return (
    <>
      {chosen.map((key, i) => (
        <Row key={i} label={i ? 'and' : label}>
          <Select label={`${label} ${i + 1}`} value={key} options={choices} onChange={(next) => onChange(chosen.map((k, j) => (j === i ? next : k)))} />
          {chosen.length > 1 && <Remove label={`Without ${choices.find((c) => c.value === key)?.label ?? key}`} onClick={() => onChange(chosen.filter((_, j) => j !== i))} />}
        </Row>
      ))}
      <Add label="Another field" onClick={() => onChange([...chosen, choices.find((c) => !chosen.includes(c.value))?.value ?? ''])} />
    </>
  )
}

type Pair = { key: string; otherKey: string }

function KeyPairs({ pairs, before, other, onChange }: { pairs: Pair[]; before: Prepared; other: Prepared | null; onChange: (next: Pair[]) => void }) {
  const [own, others] = [fieldsOf(before), other ? fieldsOf(other) : []]
  const change = (i: number, part: Partial<Pair>) => onChange(pairs.map((pair, j) => (j === i ? { ...pair, ...part } : pair)))
  const proposed = other && proposeKeys(before.dataset.fields, other.dataset.fields)
  return (
    <>
      {pairs.map((pair, i) => (
        <div key={i} className="contents">
          <Row label={i ? 'and key here' : 'Key here'}>
            <Select label={`Key in ${before.entry.name}`} value={pair.key} options={own} onChange={(key) => change(i, { key })} />
          </Row>
          <Row label="Key there">
            <Select label={`Key in ${other?.entry.name ?? 'the table'}`} value={pair.otherKey} options={[...(others.some((o) => o.value === pair.otherKey) ? [] : [{ value: pair.otherKey, label: 'choose…' }]), ...others]} onChange={(otherKey) => change(i, { otherKey })} />
            {pairs.length > 1 && <Remove label="Without this pair of keys" onClick={() => onChange(pairs.filter((_, j) => j !== i))} />}
          </Row>
        </div>
      ))}
      <div className="flex gap-1">
        <Add label="Another key" onClick={() => onChange([...pairs, { key: own[0]?.value ?? '', otherKey: others[0]?.value ?? '' }])} />
        {proposed && pairs.length === 1 && (proposed.key !== pairs[0].key || proposed.otherKey !== pairs[0].otherKey) && (
          <Button className="!h-6" look="quiet" onClick={() => onChange([proposed])}>
            Best match
          </Button>
        )}
      </div>
    </>
  )
}

function FormulaField({ label, value, before, onChange }: { label: string; value: string; before: Prepared; onChange: (next: string) => void }) {
  const names = before.dataset.fields.map(({ key }) => ({ name: formulaName(key), label: before.fieldMeta(key).label }))
  let problem: string | null = null
  try {
    if (value.trim()) parseFormula(value, before.dataset.fields.map((f) => f.key))
  } catch (error) {
    problem = (error as Error).message
  }
  const typed = /[\p{L}_][\p{L}\p{N}_]*$/u.exec(value)?.[0] ?? ''
  const offered = typed ? [...names.map((n) => n.name), ...formulaFunctions.map((f) => `${f}(`)].filter((name) => name.toLowerCase().startsWith(typed.toLowerCase()) && name !== typed).slice(0, 6) : []
  return (
    <div>
      <span className="text-xs text-muted">{label}</span>
      <textarea aria-label={label} rows={2} spellCheck={false} className={`control !h-auto w-full py-1 font-mono ${problem ? '!border-error' : ''}`} value={value} placeholder="lib_loans_2025 / population * 1000" onChange={(event) => onChange(event.target.value)} />
      {problem && <p className="text-xs text-error">{problem}</p>}
      {offered.length > 0 && (
        <p className="flex flex-wrap gap-1">
          {offered.map((name) => (
            <button key={name} type="button" className="rounded bg-base-200 px-1.5 py-0.5 font-mono text-[11px] hover:bg-tint" onClick={() => onChange(value.slice(0, value.length - typed.length) + name)}>
              {name}
            </button>
          ))}
        </p>
      )}
    </div>
  )
}

function Figures({ figures, source, onChange }: { figures: Aggregate[]; source: Prepared | null; onChange: (next: Aggregate[]) => void }) {
  if (!source) return null
  const choices = fieldsOf(source)
  const change = (i: number, part: Partial<Aggregate>) => onChange(figures.map((figure, j) => (j === i ? { ...figure, ...part } : figure)))
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
              <Select label={`Field of figure ${i + 1}`} value={figure.field} options={choices} onChange={(field) => change(i, { field, op: opFor(field) })} />
              <Select label={`Figure ${i + 1}`} className="!w-20 shrink-0" value={figure.op} options={aggregateOps.map((op) => ({ value: op, label: op }))} onChange={(op: AggregateOp) => change(i, { op, weight: op === 'weighted mean' ? (figure.weight ?? choices.find((c) => c.kind === 'number')?.value ?? null) : figure.weight })} />
              <Remove label={`Without figure ${i + 1}`} onClick={() => onChange(figures.filter((_, j) => j !== i))} />
            </div>
            {figure.op === 'weighted mean' && (
              <Row label="weighted by">
                <Select label={`Weight of figure ${i + 1}`} value={figure.weight ?? ''} options={choices.filter((c) => c.kind === 'number')} onChange={(weight) => change(i, { weight })} />
              </Row>
            )}
          </li>
        ))}
      </ul>
      <Add label="Another figure" onClick={() => onChange([...figures, { field: choices.find((c) => c.kind === 'number')?.value ?? choices[0]?.value ?? '', op: opFor(choices.find((c) => c.kind === 'number')?.value ?? ''), weight: null }])} />
    </div>
  )
}

function Conditions({ conditions, choices, onChange }: { conditions: Condition[]; choices: FieldChoice[]; onChange: (next: Condition[]) => void }) {
  const change = (i: number, part: Partial<Condition>) => onChange(conditions.map((condition, j) => (j === i ? { ...condition, ...part } : condition)))
  return (
    <div className="flex flex-col gap-1.5">
      {conditions.map((condition, i) => (
        <div key={i} className="flex flex-col gap-1 rounded border border-line p-1.5">
          <div className="flex gap-1">
            <Select label={`Field of condition ${i + 1}`} value={condition.field} options={choices} onChange={(field) => change(i, { field })} />
            <Remove label={`Without condition ${i + 1}`} onClick={() => onChange(conditions.filter((_, j) => j !== i))} />
          </div>
          <div className="flex gap-1">
            <Select label={`Test of condition ${i + 1}`} className="!w-28 shrink-0" value={condition.test} options={conditionTests.map((test) => ({ value: test, label: test }))} onChange={(test) => change(i, { test })} />
            {!['is missing', 'is there'].includes(condition.test) && <TextField label={`Value of condition ${i + 1}`} value={condition.value} allowEmpty onChange={(value) => change(i, { value })} />}
            {condition.test === 'lies between' && <TextField label={`Upper value of condition ${i + 1}`} value={condition.upTo} allowEmpty onChange={(upTo) => change(i, { upTo })} />}
          </div>
        </div>
      ))}
      <Add label="Another condition" onClick={() => onChange([...conditions, { field: choices[0]?.value ?? '', test: choices[0]?.kind === 'number' ? 'is at least' : 'is', value: '', upTo: '' }])} />
    </div>
  )
}

type Range = { under: number | null; name: string }

function Ranges({ ranges, onChange }: { ranges: Range[]; onChange: (next: Range[]) => void }) {
  const change = (i: number, part: Partial<Range>) => onChange(ranges.map((range, j) => (j === i ? { ...range, ...part } : range)))
  return (
    <div className="flex flex-col gap-1">
      {ranges.map((range, i) => (
        <div key={i} className="flex items-center gap-1">
          <span className="w-9 shrink-0 text-xs text-muted">{range.under === null ? 'over' : 'under'}</span>
          {range.under !== null && <NumberField label={`Limit ${i + 1}`} className="max-w-20" value={range.under} onChange={(under) => change(i, { under })} />}
          <TextField label={`Name of range ${i + 1}`} value={range.name} onChange={(name) => change(i, { name })} />
          {range.under !== null && ranges.length > 2 && <Remove label={`Without range ${i + 1}`} onClick={() => onChange(ranges.filter((_, j) => j !== i))} />}
        </div>
      ))}
      <Add label="Another range" onClick={() => onChange([...ranges.slice(0, -1), { under: (ranges.at(-2)?.under ?? 0) + 1, name: 'new range' }, ranges[ranges.length - 1]])} />
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
