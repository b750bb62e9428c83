'use client'
import { useState } from 'react'
import { formatNumber } from '@/core/classify/labels'
import { parseArithmetic } from '../kit/arithmetic'

type Props = {
  index: number
  value: number
  decimals: number
  x: number
  top: number
  bottom: number
  low: number
  high: number
  step: number
  onMove: (px: number) => void
  onSet: (value: number) => void
  onRemove: () => void
  onEnd: () => void
}

/** A break on the bench: dragged, moved with the arrow keys, typed after Enter or a double click, removed with Delete. */
export function BreakHandle({ index, value, decimals, x, top, bottom, low, high, step, onMove, onSet, onRemove, onEnd }: Props) {
  const [held, setHeld] = useState(false)
  const [typing, setTyping] = useState(false)
  const words = formatNumber(value, decimals)
  const width = Math.max(30, words.length * 7 + 12)
  const set = (text: string) => {
    const next = parseArithmetic(text)
    if (next !== null) onSet(next)
    setTyping(false)
  }
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`Break ${index + 1}`}
      aria-valuenow={value}
      aria-valuemin={low}
      aria-valuemax={high}
      aria-valuetext={words}
      className="group cursor-ew-resize outline-none"
      onPointerDown={(event) => {
        if (typing) return
        event.currentTarget.setPointerCapture(event.pointerId)
        setHeld(true)
      }}
      onPointerMove={(event) => {
        if (held) onMove(event.clientX - (event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0))
      }}
      onPointerUp={() => {
        setHeld(false)
        onEnd()
      }}
      onDoubleClick={(event) => {
        event.stopPropagation()
        setTyping(true)
      }}
      onKeyDown={(event) => {
        if (typing) return
        const size = step * (event.shiftKey ? 10 : 1)
        if (event.key === 'ArrowRight' || event.key === 'ArrowUp') onSet(Number((value + size).toFixed(10)))
        else if (event.key === 'ArrowLeft' || event.key === 'ArrowDown') onSet(Number((value - size).toFixed(10)))
        else if (event.key === 'Enter') setTyping(true)
        else if (event.key === 'Delete' || event.key === 'Backspace') onRemove()
        else return
        event.preventDefault()
        event.stopPropagation()
      }}
    >
      <rect x={x - 12} y={0} width={24} height={bottom} fill="transparent" />
      <path d={`M${x} ${top - 5}V${bottom}`} stroke={held ? 'var(--color-primary)' : 'currentColor'} strokeWidth={held ? 2 : 1.25} className="group-focus-visible:stroke-primary" />
      {typing ? (
        <foreignObject x={x - 34} y={0} width={68} height={24}>
          <input
            autoFocus
            aria-label={`Value of break ${index + 1}`}
            defaultValue={String(Number(value.toFixed(10)))}
            className="control !h-[22px] w-full text-center"
            onFocus={(event) => event.target.select()}
            onBlur={(event) => set(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') set(event.currentTarget.value)
              else if (event.key === 'Escape') setTyping(false)
              event.stopPropagation()
            }}
          />
        </foreignObject>
      ) : (
        <>
          <rect x={x - width / 2} y={3} width={width} height={18} rx={3} fill={held ? 'var(--color-primary)' : 'var(--color-base-100)'} stroke={held ? 'var(--color-primary)' : 'currentColor'} className="group-focus-visible:stroke-primary group-focus-visible:stroke-2" />
          <text x={x} y={16} textAnchor="middle" fontSize={12} fill={held ? 'var(--color-primary-content)' : 'currentColor'}>
            {words}
          </text>
        </>
      )}
    </g>
  )
}
