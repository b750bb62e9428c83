'use client'
import { useState } from 'react'
import { formatNumber } from '@/core/classify/labels'
import { parseArithmetic } from '../../kit/arithmetic'

type Props = {
  index: number
  value: number
  decimals: number
  x: number
  /** Middle of its number, which stands aside where others are near. */
  labelX: number
  top: number
  bottom: number
  low: number
  high: number
  step: number
  locked: boolean
  /** Breaks set by hand stay anyway. */
  canLock: boolean
  onLock: () => void
  onMove: (px: number) => void
  onSet: (value: number) => void
  onRemove: () => void
  onEnd: () => void
}

/** As far from the plot as this, a dragged break is taken out when it is let go. */
const outPx = 46

/** As wide as the number of a break is set, px. */
export const labelWidth = (value: number, decimals: number): number =>
  Math.max(30, formatNumber(value, decimals).length * 7 + 12)

/**
 * A break on the bench: dragged, moved with the arrow keys, typed after Enter or a double click, locked with
 * L, removed with Delete or by dragging it out.
 */
export function BreakHandle({
  index,
  value,
  decimals,
  x,
  labelX,
  top,
  bottom,
  low,
  high,
  step,
  locked,
  canLock,
  onLock,
  onMove,
  onSet,
  onRemove,
  onEnd,
}: Props) {
  const [held, setHeld] = useState(false)
  const [typing, setTyping] = useState(false)
  const [out, setOut] = useState(false)
  const words = formatNumber(value, decimals)
  const width = labelWidth(value, decimals)
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
      className={`group cursor-ew-resize outline-none ${out ? 'opacity-30' : ''}`}
      onPointerDown={(event) => {
        if (typing) return
        event.currentTarget.setPointerCapture(event.pointerId)
        setHeld(true)
      }}
      onPointerMove={(event) => {
        const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect()
        if (!held || !box) return
        const away = event.clientY < box.top - outPx || event.clientY > box.bottom + outPx
        setOut(away)
        if (!away) onMove(event.clientX - box.left)
      }}
      onPointerUp={() => {
        setHeld(false)
        if (out) onRemove()
        setOut(false)
        onEnd()
      }}
      onDoubleClick={(event) => {
        event.stopPropagation()
        setTyping(true)
      }}
      onKeyDown={(event) => {
        if (typing) return
        const size = step * (event.shiftKey ? 10 : 1)
        if (event.key === 'ArrowRight' || event.key === 'ArrowUp')
          onSet(Number((value + size).toPrecision(12)))
        else if (event.key === 'ArrowLeft' || event.key === 'ArrowDown')
          onSet(Number((value - size).toPrecision(12)))
        else if (event.key.toLowerCase() === 'l' && canLock) onLock()
        else if (event.key === 'Enter') setTyping(true)
        else if (event.key === 'Delete' || event.key === 'Backspace') onRemove()
        else return
        event.preventDefault()
        event.stopPropagation()
      }}
    >
      <rect x={x - 12} y={top - 5} width={24} height={bottom - top + 5} fill="transparent" />
      <path
        d={`M${labelX} ${top - 5}L${x} ${top}V${bottom}`}
        fill="none"
        stroke={held ? 'var(--color-primary)' : 'currentColor'}
        strokeWidth={held ? 2 : 1.25}
        className="group-focus-visible:stroke-primary"
      />
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
          <rect
            x={labelX - width / 2}
            y={3}
            width={width}
            height={18}
            rx={3}
            fill={held ? 'var(--color-primary)' : 'var(--color-base-100)'}
            stroke={held ? 'var(--color-primary)' : 'currentColor'}
            className="group-focus-visible:stroke-primary group-focus-visible:stroke-2"
          />
          <text
            x={labelX}
            y={16}
            textAnchor="middle"
            fontSize={12}
            fill={held ? 'var(--color-primary-content)' : 'currentColor'}
          >
            {words}
          </text>
          {canLock && (
            <g
              role="button"
              aria-label={locked ? `Unlock break ${index + 1}` : `Lock break ${index + 1}`}
              className={`cursor-pointer ${locked ? '' : 'opacity-0 group-hover:opacity-100 group-focus-visible:opacity-100'}`}
              onPointerDown={(event) => event.stopPropagation()}
              onClick={onLock}
              onDoubleClick={(event) => event.stopPropagation()}
            >
              <title>
                {locked ? 'Let it move again (L)' : 'Keep it while the method fits the others around it (L)'}
              </title>
              <circle
                cx={x}
                cy={top + 6}
                r={8}
                fill="var(--color-base-100)"
                stroke={locked ? 'var(--color-primary)' : 'var(--muted)'}
              />
              <path
                d={`M${x - 3} ${top + 5.5}h6v4h-6zM${x - 1.8} ${top + 5.5}v-1.6a1.8 1.8 0 0 1 ${locked ? '3.6 0v1.6' : '3.4 -0.7'}`}
                fill={locked ? 'var(--color-primary)' : 'none'}
                stroke={locked ? 'var(--color-primary)' : 'currentColor'}
              />
            </g>
          )}
        </>
      )}
    </g>
  )
}
