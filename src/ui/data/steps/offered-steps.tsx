'use client'
import { stepKindOf, type StepType } from '@/core/data/steps/registry'
import { stepSorts, type StepSort } from '@/core/data/steps/step'
import { stepIcons } from './icons'

/** The steps that a dataset can take, by what they change. */
export function OfferedSteps({ offered, onPick }: { offered: StepType[]; onPick: (type: StepType) => void }) {
  const sorts = (Object.keys(stepSorts) as StepSort[]).filter((sort) =>
    offered.some((type) => stepKindOf(type).about === sort),
  )
  return (
    <div className={sorts.length > 1 ? 'grid grid-cols-[1fr_1fr_1.1fr] gap-x-3' : ''}>
      {sorts.map((sort) => (
        <section key={sort} aria-label={stepSorts[sort]}>
          <h3 className="px-2 pb-1 text-xs text-muted">{stepSorts[sort]}</h3>
          <ul>
            {offered
              .filter((type) => stepKindOf(type).about === sort)
              .map((type) => (
                <OfferedStep key={type} type={type} onPick={() => onPick(type)} />
              ))}
          </ul>
        </section>
      ))}
    </div>
  )
}

function OfferedStep({ type, onPick }: { type: StepType; onPick: () => void }) {
  const Icon = stepIcons[type]
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
