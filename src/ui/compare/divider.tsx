'use client'
import { GripVertical } from 'lucide-react'
import { useComparing } from './store'

/**
 * The line between two pictures of the same ground, dragged or moved by keys; on either side of its foot it says what
 * is seen there.
 * @param turnDeg how far what it divides is turned, clockwise
 */
export function Divider({ near, far, turnDeg = 0 }: { near: string; far: string; turnDeg?: number }) {
  const { share, move } = useComparing()
  const follow = (event: React.PointerEvent<HTMLDivElement>): void => {
    const parent = event.currentTarget.parentElement
    if (!parent?.offsetWidth) return
    // The middle stays where it is, however what lies about it is turned.
    const { left, top, width, height } = parent.getBoundingClientRect()
    const [x, y] = [event.clientX - left - width / 2, event.clientY - top - height / 2]
    const turn = (turnDeg * Math.PI) / 180
    move(0.5 + (x * Math.cos(turn) + y * Math.sin(turn)) / parent.offsetWidth)
  }
  return (
    <div
      data-over-map
      data-inside
      role="slider"
      tabIndex={0}
      aria-label={`Divider between ${near} and ${far}`}
      aria-orientation="horizontal"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(100 * share)}
      aria-valuetext={`${Math.round(100 * share)} % ${near}`}
      className="absolute inset-y-0 z-10 w-5 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: `${100 * share}%` }}
      onPointerDown={(event) => {
        event.stopPropagation()
        if (event.button !== 0) return
        event.currentTarget.setPointerCapture(event.pointerId)
        event.currentTarget.focus()
      }}
      onPointerMove={(event) => {
        event.stopPropagation()
        if (event.currentTarget.hasPointerCapture(event.pointerId)) follow(event)
      }}
      onKeyDown={(event) => {
        const step = event.shiftKey ? 0.1 : 0.01
        if (event.key === 'ArrowLeft') move(share - step)
        else if (event.key === 'ArrowRight') move(share + step)
        else if (event.key === 'Home') move(0)
        else if (event.key === 'End') move(1)
        else return
        event.preventDefault()
        event.stopPropagation()
      }}
    >
      <span className="absolute inset-y-0 left-1/2 w-0.5 -translate-x-1/2 bg-white shadow-[0_0_0_1px_rgb(0_0_0/0.45)]" />
      <span className="floating absolute top-1/2 left-1/2 grid h-8 w-4 -translate-1/2 place-items-center !rounded-full text-muted">
        <GripVertical size={12} aria-hidden />
      </span>
      <Side words={near} side="right-[calc(50%+8px)]" />
      <Side words={far} side="left-[calc(50%+8px)]" />
    </div>
  )
}

function Side({ words, side }: { words: string; side: string }) {
  return (
    <span
      aria-hidden
      className={`floating pointer-events-none absolute top-3 max-w-44 truncate px-2 py-1 text-xs whitespace-nowrap ${side}`}
    >
      {words}
    </span>
  )
}

/** The part of a picture that lies beyond the divider. */
export const beyond = (share: number): string => `inset(0 0 0 ${100 * share}%)`
