'use client'
import {
  AlertTriangle,
  ArrowDown,
  ArrowUp,
  Calculator,
  ChartColumnStacked,
  Check as CheckIcon,
  Circle,
  Combine,
  Crosshair,
  Columns3,
  FileInput,
  Info,
  Rows3,
  TrendingUp,
  Filter,
  GitMerge,
  Grid3x3,
  Hexagon,
  Layers,
  ListChecks,
  MoreHorizontal,
  PencilLine,
  Plus,
  Ruler,
  Scissors,
  Sigma,
  Spline,
  SquaresIntersect,
  Trash2,
  type LucideIcon,
} from 'lucide-react'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import { formOf, shapeWords, type Dataset } from '@/core/data/dataset'
import type { DatasetEntry } from '@/core/data/entry'
import type { Prepared, StepReport } from '@/core/data/prepare'
import type { ShapeNote } from '@/core/data/reading'
import { joinMatch, type JoinSettings } from '@/core/data/steps/join'
import {
  stepKindOf,
  stepTypes,
  type AnyStepKind,
  type PrepStep,
  type StepType,
} from '@/core/data/steps/registry'
import { stepSorts, type StepSort } from '@/core/data/steps/step'
import { Check, ColumnHead, IconButton } from '../kit/controls'
import { Popover } from '../kit/popover'
import { editFolio } from '../shell/folio-store'
import { lookAgain } from './border-checks'
import { useStages } from '../shell/contents'
import { JoinReport } from './steps/join-report'
import { SourceForm } from './source-form'
import { StepForm } from './steps/step-form'
import { StepListFile } from './steps/step-list-file'

const icons: Record<StepType, LucideIcon> = {
  join: GitMerge,
  derive: Calculator,
  complete: ListChecks,
  classify: ChartColumnStacked,
  correct: PencilLine,
  filter: Filter,
  merge: Combine,
  summarise: Sigma,
  'count-points': Crosshair,
  nearest: Ruler,
  overlay: SquaresIntersect,
  stack: Layers,
  grid: Grid3x3,
  'areas-to-points': Circle,
  'areas-to-borders': Spline,
  simplify: Spline,
  clip: Scissors,
  buffer: Hexagon,
  'long-to-wide': Columns3,
  'wide-to-long': Rows3,
  running: TrendingUp,
  'split-off': Hexagon,
}

const editSteps = (datasetId: string, name: string, recipe: (steps: PrepStep[]) => void, merge?: string) =>
  editFolio(
    name,
    (draft) => {
      const entry = draft.datasets.find((d) => d.id === datasetId)
      if (entry) recipe(entry.steps as PrepStep[])
    },
    merge,
  )

/**
 * The steps that make a dataset, in order; each can be edited, switched off, moved and taken away. The table
 * shows what comes out.
 */
export function PrepSteps({
  prepared,
  all,
  onLook,
}: {
  prepared: Prepared
  all: Map<string, Prepared>
  onLook: (row: number, at: [number, number] | null) => void
}) {
  const { entry, reports } = prepared
  const [open, setOpen] = useState<string | null>(null)
  const stages = useStages(entry)
  const others = [...all.values()].filter((other) => other.entry.id !== entry.id)
  const offered = prepared.dataset.raster
    ? []
    : stepTypes.filter((type) => stepKindOf(type).accepts(prepared))
  const add = (type: StepType) => {
    const kind = stepKindOf(type)
    const id = nanoid(8)
    editSteps(
      entry.id,
      `${kind.label}: new step`,
      (steps) =>
        void steps.push({ type, id, on: true, settings: kind.initial(prepared, others) } as PrepStep),
    )
    setOpen(id)
  }
  const source = stages[0]
  return (
    <section className="border-b border-line" aria-label="Prep steps">
      <ColumnHead title="Prep steps">
        <Popover
          label="Add a step"
          align="end"
          className="w-[500px]"
          trigger={
            <IconButton label="Add a step">
              <Plus size={16} />
            </IconButton>
          }
        >
          {(close) => (
            <>
              <div className="grid grid-cols-[1fr_1fr_1.1fr] gap-x-3">
                {(Object.keys(stepSorts) as StepSort[]).map((sort) => (
                  <section key={sort} aria-label={stepSorts[sort]}>
                    <h3 className="px-2 pb-1 text-xs text-muted">{stepSorts[sort]}</h3>
                    <ul>
                      {offered
                        .filter((type) => stepKindOf(type).about === sort)
                        .map((type) => (
                          <OfferedStep
                            key={type}
                            type={type}
                            onPick={() => {
                              add(type)
                              close()
                            }}
                          />
                        ))}
                    </ul>
                  </section>
                ))}
              </div>
              <StepListFile
                entry={entry}
                onTake={(taken) => {
                  editSteps(entry.id, 'Take steps from a list', (steps) => void steps.push(...taken))
                  close()
                }}
              />
            </>
          )}
        </Popover>
      </ColumnHead>
      <ol className="flex flex-col gap-2 p-3">
        <SourceCard
          entry={entry}
          source={source ?? prepared}
          open={open === 'source'}
          onOpen={() => setOpen(open === 'source' ? null : 'source')}
          onLook={onLook}
        />
        {entry.steps.map((step, i) => (
          <StepCard
            key={step.id}
            step={step}
            index={i}
            entry={entry}
            before={stages[i] ?? prepared}
            report={reports.find((r) => r.stepId === step.id) ?? null}
            all={all}
            open={open === step.id}
            onOpen={() => setOpen(open === step.id ? null : step.id)}
          />
        ))}
      </ol>
    </section>
  )
}

const sizeWords = (dataset: Dataset): string => {
  const count = (n: number) => n.toLocaleString('en-GB')
  if (dataset.raster)
    return `${count(dataset.raster.fileSize[0])} × ${count(dataset.raster.fileSize[1])} cells`
  return `${count(dataset.rowCount)} ${shapeWords[formOf(dataset)][dataset.rowCount === 1 ? 0 : 1]}`
}

/** Where the rows come from, what was found while reading them, and how they were read. */
function SourceCard({
  entry,
  source,
  open,
  onOpen,
  onLook,
}: {
  entry: DatasetEntry
  source: Prepared
  open: boolean
  onOpen: () => void
  onLook: (row: number, at: [number, number] | null) => void
}) {
  const { notes } = entry.source
  const kinds = [...new Set(notes.map(({ what }) => what))]
  return (
    <li className={`rounded border px-2.5 py-1.5 ${notes.length ? 'border-caution' : 'border-line'}`}>
      <button
        type="button"
        aria-expanded={open}
        className="flex w-full items-center gap-2 font-semibold"
        onClick={onOpen}
      >
        <FileInput size={14} aria-hidden /> Source
      </button>
      <p className="text-xs break-words text-muted">
        {entry.source.fileName}, {sizeWords(source.dataset)}
      </p>
      {kinds.map((what) => {
        const rows = notes.filter((note) => note.what === what)
        return <NoteLine key={what} what={what} notes={rows} onLook={onLook} />
      })}
      {entry.source.remarks.map((remark) => (
        <p key={remark} className="flex items-start gap-1.5 text-xs">
          <Info size={13} className="mt-0.5 shrink-0 text-muted" aria-hidden /> <span>{remark}</span>
        </p>
      ))}
      {entry.source.borders === 'stopped' && (
        <button
          type="button"
          className="flex items-start gap-1.5 text-left text-xs hover:underline"
          onClick={() => lookAgain(entry.id)}
        >
          <Info size={13} className="mt-0.5 shrink-0 text-muted" aria-hidden /> Borders were not looked at.
          Look for gaps and overlaps
        </button>
      )}
      {open && (
        <div className="mt-2 border-t border-line pt-2">
          <SourceForm
            entry={entry}
            fields={source.dataset.fields.map(({ key }) => ({
              value: key,
              label: source.fieldMeta(key).label,
            }))}
          />
        </div>
      )}
    </li>
  )
}

/** What was found so many times; each click goes to the next place. */
function NoteLine({
  what,
  notes,
  onLook,
}: {
  what: string
  notes: ShapeNote[]
  onLook: (row: number, at: [number, number] | null) => void
}) {
  const [next, setNext] = useState(0)
  const { row, at } = notes[next]
  return (
    <button
      type="button"
      className="flex items-start gap-1.5 text-left text-xs hover:underline"
      onClick={() => {
        onLook(row, at ? [at[0], at[1]] : null)
        setNext((next + 1) % notes.length)
      }}
    >
      <AlertTriangle size={13} className="mt-0.5 shrink-0 text-caution" /> {notes.length} × {what}:{' '}
      {next + 1 < notes.length || next ? `see number ${next + 1}` : 'see it'}, row {row + 1}
    </button>
  )
}

type CardProps = {
  step: PrepStep
  index: number
  entry: DatasetEntry
  before: Prepared
  report: StepReport | null
  all: Map<string, Prepared>
  open: boolean
  onOpen: () => void
}

const matchWords = (
  { matched, unmatched }: NonNullable<ReturnType<typeof joinMatch>>,
  mended: number,
): string => `${matched} matched, ${unmatched.length} not${mended ? `, ${mended} mended by hand` : ''}`

function StepCard({ step, index, entry, before, report, all, open, onOpen }: CardProps) {
  const kind = stepKindOf(step.type)
  const Icon = icons[step.type]
  const name = (datasetId: string, field?: string) =>
    field !== undefined
      ? before.fieldMeta(field).label
      : (all.get(datasetId)?.entry.name ?? 'a dataset that is gone')
  const match = step.type === 'join' ? joinMatch(step.settings, before, (id) => all.get(id) ?? null) : null
  const warning =
    report?.problem ??
    (match?.unmatched.length ? `${match.matched} matched, ${match.unmatched.length} not` : null)
  const mended = step.type === 'join' ? Object.keys(step.settings.mended).length : 0
  const edge = warning || report?.remark ? 'border-caution' : 'border-line'
  const change = (words: string, recipe: (step: PrepStep) => void, merge?: string) =>
    editSteps(
      entry.id,
      words,
      (steps) => {
        const changed = steps.find((s) => s.id === step.id)
        if (changed) recipe(changed)
      },
      merge,
    )
  const move = (by: number) =>
    editSteps(
      entry.id,
      `Move ${kind.label.toLowerCase()}`,
      (steps) => void steps.splice(index + by, 0, ...steps.splice(index, 1)),
    )
  return (
    <li
      className={`rounded border px-2.5 py-1.5 ${report?.problem ? 'border-error' : edge} ${step.on ? '' : 'opacity-60'}`}
    >
      <div className="flex items-center justify-between">
        <button
          type="button"
          aria-expanded={open}
          className="flex min-w-0 flex-1 items-center gap-2 font-semibold"
          onClick={onOpen}
        >
          <Icon size={14} aria-hidden /> {kind.label}
        </button>
        <Popover
          label={`More for this ${kind.label.toLowerCase()}`}
          align="end"
          trigger={
            <IconButton label={`More for step ${index + 1}`} className="!size-6">
              <MoreHorizontal size={14} />
            </IconButton>
          }
        >
          {(close) => (
            <div className="flex flex-col">
              <MenuItem
                icon={<ArrowUp size={13} />}
                label="Earlier"
                disabled={index === 0}
                onClick={() => {
                  move(-1)
                  close()
                }}
              />
              <MenuItem
                icon={<ArrowDown size={13} />}
                label="Later"
                disabled={index === entry.steps.length - 1}
                onClick={() => {
                  move(1)
                  close()
                }}
              />
              <MenuItem
                icon={<Trash2 size={13} />}
                label="Delete step"
                onClick={() => {
                  editSteps(
                    entry.id,
                    `Delete ${kind.label.toLowerCase()}`,
                    (steps) => void steps.splice(index, 1),
                  )
                  close()
                }}
              />
            </div>
          )}
        </Popover>
      </div>
      <p className="text-xs break-words text-muted">{kind.words(step.settings, name)}</p>
      {report?.problem ? (
        <p className="flex items-start gap-1.5 text-xs text-error" role="alert">
          <AlertTriangle size={13} className="mt-0.5 shrink-0" /> {report.problem}
        </p>
      ) : (
        <button
          type="button"
          className="flex items-center gap-1.5 text-left text-xs hover:underline"
          onClick={onOpen}
        >
          {warning ? (
            <AlertTriangle size={13} className="shrink-0 text-caution" />
          ) : (
            <CheckIcon size={13} className="shrink-0 text-good" />
          )}
          {match && matchWords(match, mended)}
          {!match && (step.on ? `${(report?.rows ?? 0).toLocaleString('en-GB')} rows` : 'switched off')}
        </button>
      )}
      {report?.note && (
        <p className="flex items-start gap-1.5 text-xs">
          <Info size={13} className="mt-0.5 shrink-0 text-muted" aria-hidden /> <span>{report.note}</span>
        </p>
      )}
      {report?.remark && (
        <p className="flex items-start gap-1.5 text-xs">
          <AlertTriangle size={13} className="mt-0.5 shrink-0 text-caution" /> <span>{report.remark}</span>
        </p>
      )}
      {open && (
        <div className="mt-2 flex flex-col gap-2 border-t border-line pt-2">
          <Check
            label="In use"
            checked={step.on}
            onChange={(on) =>
              change(
                on ? `Switch ${kind.label.toLowerCase()} on` : `Switch ${kind.label.toLowerCase()} off`,
                (s) => void (s.on = on),
              )
            }
          />
          <StepForm
            form={kind.form}
            settings={step.settings as Record<string, unknown>}
            before={before}
            all={all}
            onChange={(key, value) =>
              change(
                `${kind.label}: ${key}`,
                (s) => Object.assign(s.settings, settingsAfter(kind, { key, value, before, all })),
                `step ${step.id} ${key}`,
              )
            }
          />
          {match && all.get((step.settings as JoinSettings).datasetId) && (
            <JoinReport
              match={match}
              settings={step.settings as JoinSettings}
              before={before}
              other={all.get((step.settings as JoinSettings).datasetId) as Prepared}
              onMend={(words, next) =>
                change(words, (s) => void (s.type === 'join' && (s.settings.mended = next)))
              }
            />
          )}
        </div>
      )}
    </li>
  )
}

function OfferedStep({ type, onPick }: { type: StepType; onPick: () => void }) {
  const Icon = icons[type]
  return (
    <li>
      <button
        type="button"
        className="flex w-full items-center gap-2 rounded px-2 py-1 text-left whitespace-nowrap hover:bg-base-200"
        onClick={onPick}
      >
        <Icon size={14} className="shrink-0" aria-hidden /> {stepKindOf(type).label}
      </button>
    </li>
  )
}

function MenuItem({
  icon,
  label,
  disabled,
  onClick,
}: {
  icon: React.ReactNode
  label: string
  disabled?: boolean
  onClick: () => void
}) {
  return (
    <button
      type="button"
      disabled={disabled}
      onClick={onClick}
      className="flex items-center gap-2 rounded px-2 py-1.5 text-left hover:bg-base-200 disabled:opacity-40"
    >
      {icon} {label}
    </button>
  )
}

/** A setting that was changed; with another dataset, what is chosen of its fields is proposed anew. */
function settingsAfter(
  kind: AnyStepKind,
  { key, value, before, all }: { key: string; value: unknown; before: Prepared; all: Map<string, Prepared> },
): Record<string, unknown> {
  const control = kind.form.find(({ name }) => name === key)
  const other = control?.control === 'dataset' ? all.get(String(value)) : undefined
  if (!other) return { [key]: value }
  const initial = kind.initial(before, [other]) as Record<string, unknown>
  const leaning = kind.form.filter((one) => 'of' in one && one.of === key)
  return { [key]: value, ...Object.fromEntries(leaning.map(({ name }) => [name, initial[name]])) }
}
