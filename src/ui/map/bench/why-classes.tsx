'use client'
import { HelpCircle } from 'lucide-react'
import { useMemo } from 'react'
import { firstChoices, type Reason } from '@/core/classify/first-choices'
import type { Classing } from '@/core/classify/spec'
import type { Layer } from '@/core/map/spec'
import { Button, IconButton } from '../../kit/controls'
import { Popover } from '../../kit/popover'
import { changeClassing } from '../edit-classing'

/** Why classes are as the shape of the data asked for, each reason with what could be taken in its place. */
export function WhyClasses({
  layer,
  classing,
  values,
}: {
  layer: Layer
  classing: Classing
  values: Float64Array
}) {
  const reasons = useMemo(() => reasonsFor(classing, values), [classing, values])
  if (!reasons.length) return null
  return (
    <Popover
      label="Why these classes"
      align="end"
      side="top"
      trigger={
        <IconButton label="Why these classes?">
          <HelpCircle size={15} />
        </IconButton>
      }
    >
      <ul className="flex w-64 flex-col gap-3 text-xs">
        {reasons.map(({ words, instead }) => (
          <li key={words} className="flex flex-col items-start gap-1.5">
            <span>{words}</span>
            {instead && (
              <Button
                className="!h-6"
                onClick={() =>
                  changeClassing(layer, instead.label, (draft) => void Object.assign(draft, instead.classing))
                }
              >
                {instead.label}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Popover>
  )
}

/** The reasons of the first choices, as long as they are those that were made. */
function reasonsFor(classing: Classing, values: Float64Array): Reason[] {
  const counted = firstChoices(values, { isCount: classing.setAside.length > 0 })
  const { method, midpoint } = counted.classing
  if (method !== classing.method || ((midpoint ?? null) === null) !== (classing.midpoint === null)) return []
  return counted.reasons
}
