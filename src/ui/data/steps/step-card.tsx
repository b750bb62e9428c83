'use client'
import {
  AlertTriangle,
  ArrowDown,
  ArrowUp,
  Check as CheckIcon,
  Info,
  MoreHorizontal,
  Trash2,
} from 'lucide-react'
import type { DatasetEntry } from '@/core/data/entry'
import type { Prepared, StepReport } from '@/core/data/prepare'
import { joinMatch, type JoinSettings } from '@/core/data/steps/join'
import { stepKindOf, type AnyStepKind, type PrepStep } from '@/core/data/steps/registry'
import { Check, IconButton } from '../../kit/controls'
import { Popover } from '../../kit/popover'
import { editSteps } from './edit-steps'
import { stepIcons } from './icons'
import { JoinReport } from './join-report'
import { StepForm } from './step-form'

type CardProps = {
  step: PrepStep
  index: number
  entry: DatasetEntry
  before: Prepared
  report: StepReport | null
  all: Map<string, Prepared>
  open: boolean
  onOpen: () => void
  /** Shows a row on the map above the table. */
  onLook: (row: number) => void
}

const matchWords = (
  { matched, unmatched }: NonNullable<ReturnType<typeof joinMatch>>,
  mended: number,
): string => `${matched} matched, ${unmatched.length} not${mended ? `, ${mended} mended by hand` : ''}`

function rowWords({ on }: PrepStep, report: StepReport | null): string {
  if (!on) return 'switched off'
  return report ? `${report.rows.toLocaleString('en-GB')} rows` : 'under way…'
}

/** One step: what it does, what became of it, and its form. */
export function StepCard({ step, index, entry, before, report, all, open, onOpen, onLook }: CardProps) {
  const kind = stepKindOf(step.type)
  const Icon = stepIcons[step.type]
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
          {!match && rowWords(step, report)}
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
              onAccept={(accepts) =>
                change('Ways to match', (s) => void (s.type === 'join' && (s.settings.accepts = accepts)))
              }
              onLook={onLook}
            />
          )}
        </div>
      )}
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
