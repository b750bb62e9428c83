'use client'
import { Plus } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { Prepared } from '@/core/data/prepare'
import { stepKindOf, stepTypes, type PrepStep, type StepType } from '@/core/data/steps/registry'
import { ColumnHead, IconButton } from '../kit/controls'
import { Popover } from '../kit/popover'
import { useStages } from '../shell/contents'
import { editSteps } from './steps/edit-steps'
import { OfferedSteps } from './steps/offered-steps'
import { SourceCard } from './steps/source-card'
import { StepCard } from './steps/step-card'
import { StepListFile } from './steps/step-list-file'

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
  // A raster takes the steps for its cells; its rows are its bands.
  const isRaster = prepared.dataset.raster !== undefined
  const offered = stepTypes.filter(
    (type) => (stepKindOf(type).about === 'cells') === isRaster && stepKindOf(type).accepts(prepared),
  )
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
          className={isRaster ? 'w-[240px]' : 'w-[500px]'}
          trigger={
            <IconButton label="Add a step">
              <Plus size={16} />
            </IconButton>
          }
        >
          {(close) => (
            <>
              <OfferedSteps
                offered={offered}
                onPick={(type) => {
                  add(type)
                  close()
                }}
              />
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
            onLook={(row) => onLook(row, null)}
          />
        ))}
      </ol>
    </section>
  )
}
