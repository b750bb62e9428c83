'use client'
import type { Aggregate } from '@/core/data/aggregate'
import type { Dataset } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import type { Correction } from '@/core/data/steps/correct'
import type { Condition } from '@/core/data/steps/filter'
import type { StepControl } from '@/core/data/steps/step'
import { Check, Row, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { FormulaField } from '../../kit/formula-field'
import {
  Conditions,
  Corrections,
  DrawnArea,
  FieldChecks,
  FieldList,
  fieldsOf,
  Figures,
  KeyPairs,
  Matching,
  Ranges,
  type Pair,
  type Range,
} from './step-controls'

type Settings = Record<string, unknown>
type Props = {
  control: StepControl
  settings: Settings
  before: Prepared
  all: Map<string, Prepared>
  onChange: (name: string, value: unknown) => void
}

/**
 * The form of a step, row by row as its kind describes it. `before` is the dataset as it comes to the step.
 */
export function StepForm({
  form,
  settings,
  before,
  all,
  onChange,
}: { form: StepControl[] } & Omit<Props, 'control'>) {
  return (
    <div className="flex flex-col gap-1">
      {form
        .filter(({ when }) => !when || when.is.includes(String(settings[when.name])))
        .map((control) => (
          <ControlRow
            key={control.name}
            control={control}
            settings={settings}
            before={before}
            all={all}
            onChange={onChange}
          />
        ))}
    </div>
  )
}

/** Whether a dataset can be chosen in a control. */
const fitsControl = (
  wanted: Extract<StepControl, { control: 'dataset' }>['geometry'],
  { raster, geometry }: Dataset,
): boolean => {
  if (wanted === 'raster') return raster !== undefined
  return wanted === 'any' || wanted.includes(geometry.kind)
}

function ControlRow(props: Props) {
  const { control, settings, before, all, onChange } = props
  const value = settings[control.name]
  const source = 'of' in control && control.of ? (all.get(String(settings[control.of])) ?? null) : before
  const set = (next: unknown) => onChange(control.name, next)
  switch (control.control) {
    case 'dataset': {
      const fitting = [...all.values()].filter(
        (other) => other.entry.id !== before.entry.id && fitsControl(control.geometry, other.dataset),
      )
      return (
        <Row label={control.label}>
          <Select
            label={control.label}
            value={String(value)}
            options={[
              ...(control.none ? [{ value: '', label: control.none }] : []),
              ...((control.none && value === '') || fitting.some((o) => o.entry.id === value)
                ? []
                : [{ value: String(value), label: fitting.length ? 'choose…' : 'none there yet' }]),
              ...fitting.map(({ entry }) => ({ value: entry.id, label: entry.name })),
            ]}
            onChange={set}
          />
        </Row>
      )
    }
    case 'field': {
      const choices = source
        ? fieldsOf(source).filter(({ kind }) => control.kind === 'any' || kind === control.kind)
        : []
      return (
        <Row label={control.label}>
          <Select
            label={control.label}
            value={String(value)}
            options={[
              ...(choices.some((c) => c.value === value) ? [] : [{ value: String(value), label: 'choose…' }]),
              ...choices,
            ]}
            onChange={set}
          />
        </Row>
      )
    }
    case 'fields': {
      const choices = (source ? fieldsOf(source) : []).filter(
        ({ kind }) => control.kind === 'any' || kind === control.kind,
      )
      const List = control.many ? FieldChecks : FieldList
      return <List label={control.label} chosen={value as string[]} choices={choices} onChange={set} />
    }
    case 'keys':
      return (
        <KeyPairs
          pairs={value as Pair[]}
          before={before}
          other={source === before ? null : source}
          onChange={set}
        />
      )
    case 'choice':
      return (
        <Row label={control.label}>
          <Select label={control.label} value={String(value)} options={control.options} onChange={set} />
        </Row>
      )
    case 'number':
      return (
        <Row label={control.label}>
          <NumberField
            label={control.label}
            value={Number(value)}
            unit={control.unit}
            min={control.min}
            max={control.max}
            step={control.step}
            onChange={set}
          />
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
    case 'drawn':
      return <DrawnArea label={control.label} corners={(value as unknown[]).length} onChange={set} />
    case 'matching':
      return (
        <Matching
          matched={value as Record<string, string>}
          before={before}
          other={source === before ? null : source}
          onChange={set}
        />
      )
    case 'corrections':
      return <Corrections edits={value as Correction[]} before={before} onChange={set} />
    case 'ranges':
      return <Ranges ranges={value as Range[]} onChange={set} />
  }
}
