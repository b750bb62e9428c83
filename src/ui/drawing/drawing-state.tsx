'use client'
import { Button } from '../kit/controls'
import type { Stoppable } from './use-stoppable'

/** What there is to say of a drawing over what is seen of it: that it is under way, was stopped, or failed. */
export function DrawingState({
  what,
  drawn,
  late,
  problem,
  forget,
  work: { share, halted, stop, restart },
}: {
  what: 'map' | 'sheet'
  /** Whether something is seen of it. */
  drawn: boolean
  late: boolean
  problem: string | null
  /** Lets go of what waits to be drawn next. */
  forget: () => void
  work: Stoppable
}) {
  const stopAll = () => {
    forget()
    stop()
  }
  return (
    <div
      data-over-map
      className="pointer-events-none absolute inset-x-0 top-3 grid justify-items-center gap-2"
    >
      {halted && !late && (
        <div
          role="status"
          className="floating pointer-events-auto flex items-center gap-2 px-3 py-1.5 text-xs"
        >
          {drawn
            ? `Stopped: this is the ${what} as it was last drawn.`
            : 'Stopped before anything was drawn.'}
          <Button className="!h-6 text-xs" onClick={restart}>
            Draw it
          </Button>
        </div>
      )}
      {late && share === null && (
        <span
          className="loading loading-spinner loading-sm text-primary"
          role="status"
          aria-label="Drawing"
        />
      )}
      {late && share !== null && (
        <div className="floating pointer-events-auto flex items-center gap-2 px-3 py-1.5 text-xs">
          <progress
            className="progress w-28"
            value={share}
            max={1}
            aria-label={what === 'map' ? 'Reckoning the layer' : 'Reckoning the maps'}
          />
          <Button look="quiet" className="!h-6 text-xs" onClick={stopAll}>
            Stop
          </Button>
        </div>
      )}
      {problem && (
        <p role="alert" className="floating pointer-events-auto px-3 py-2 text-error">
          The {what} could not be drawn: {problem}
        </p>
      )}
    </div>
  )
}
