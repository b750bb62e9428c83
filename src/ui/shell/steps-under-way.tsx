'use client'
import { X } from 'lucide-react'
import { useEffect, useState } from 'react'
import { stepKindOf } from '@/core/data/steps/registry'
import { stopPreparing } from '@/workers/preparing'
import { Button } from '../kit/controls'
import { usePreparation } from './contents'
import { editFolio, useDocument, useFolio } from './folio-store'

const patienceMs = 500

/** Shown while prep steps take their time: which one, how far it is, and a way to stop it. */
export function StepsUnderWay() {
  const { datasets } = useDocument()
  const { doing, problem } = usePreparation()
  const [late, setLate] = useState(false)
  const busy = doing !== null
  useEffect(() => {
    setLate(false)
    if (!busy) return
    const timer = setTimeout(() => setLate(true), patienceMs)
    return () => clearTimeout(timer)
  }, [busy])
  useEffect(() => {
    if (problem) useFolio.getState().tell(problem)
  }, [problem])
  const entry = datasets.find((d) => d.id === doing?.datasetId)
  const step = entry?.steps.find((s) => s.id === doing?.stepId)
  if (!late || !doing || !entry || !step) return null
  const { label } = stepKindOf(step.type)
  const stop = () => {
    stopPreparing()
    editFolio(`Stop ${label.toLowerCase()}`, (draft) => {
      const running = draft.datasets.find((d) => d.id === entry.id)?.steps.find((s) => s.id === step.id)
      if (running) running.on = false
    })
    useFolio.getState().tell(`“${label}” of ${entry.name} was stopped and is switched off.`, true)
  }
  return (
    <div role="status" className="floating fixed right-4 bottom-4 z-40 flex w-72 flex-col gap-1.5 px-3 py-2">
      <span className="flex items-center justify-between gap-2">
        <span className="min-w-0 truncate">
          <span className="font-semibold">{label}</span> of {entry.name}
        </span>
        <Button className="!h-6" onClick={stop}>
          <X size={13} /> Stop
        </Button>
      </span>
      <progress
        className="progress progress-primary h-1 w-full"
        aria-label={`How much of ${label.toLowerCase()} is done`}
        value={doing.share || undefined}
        max={1}
      />
    </div>
  )
}
