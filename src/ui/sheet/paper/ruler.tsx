'use client'
import { useEffect, useState, type RefObject } from 'react'

/** Millimetres along the paper's edge; follows scrolling and zoom. */
export function Ruler({
  lengthMm,
  scale,
  frame,
  page,
  axis,
  drawn,
  onPull,
}: {
  lengthMm: number
  scale: number
  frame: RefObject<HTMLDivElement | null>
  page: RefObject<HTMLDivElement | null>
  axis: 'x' | 'y'
  drawn: unknown
  /** A press on the ruler, from which a guide is pulled. */
  onPull: (event: React.PointerEvent) => void
}) {
  const [start, setStart] = useState(0)
  useEffect(() => {
    const update = () => {
      const [outer, inner] = [frame.current?.getBoundingClientRect(), page.current?.getBoundingClientRect()]
      if (outer && inner) setStart(axis === 'x' ? inner.left - outer.left : inner.top - outer.top)
    }
    update()
    const element = frame.current
    element?.addEventListener('scroll', update)
    return () => element?.removeEventListener('scroll', update)
  }, [frame, page, axis, scale, drawn])
  const step = [1, 2, 5, 10, 20, 50, 100, 200].find((mm) => mm * scale >= 26) ?? 500
  const marks = Array.from({ length: Math.floor(lengthMm / step) + 1 }, (_, i) => i * step)
  const ticks = Array.from({ length: Math.floor((lengthMm / step) * 5) + 1 }, (_, i) => (i * step) / 5)
  return (
    <svg
      aria-hidden
      onPointerDown={onPull}
      className={`absolute z-10 bg-base-100 text-muted ${axis === 'x' ? 'cursor-ns-resize top-0 right-0 left-[18px] h-[18px] w-[calc(100%-18px)] border-b border-line' : 'cursor-ew-resize top-[18px] bottom-0 left-0 h-[calc(100%-18px)] w-[18px] border-r border-line'}`}
    >
      <g transform={axis === 'x' ? `translate(${start} 0)` : `translate(0 ${start})`} stroke="currentColor">
        {ticks.map((mm) =>
          axis === 'x' ? (
            <path key={mm} d={`M${mm * scale} 18v-3`} strokeOpacity={0.6} />
          ) : (
            <path key={mm} d={`M18 ${mm * scale}h-3`} strokeOpacity={0.6} />
          ),
        )}
        {marks.map((mm) =>
          axis === 'x' ? (
            <path key={mm} d={`M${mm * scale} 18v-6`} />
          ) : (
            <path key={mm} d={`M18 ${mm * scale}h-6`} />
          ),
        )}
        {marks.map((mm) => (
          <text
            key={`t${mm}`}
            fontSize={9}
            stroke="none"
            fill="currentColor"
            transform={
              axis === 'x' ? `translate(${mm * scale + 2} 9)` : `translate(9 ${mm * scale + 2}) rotate(90)`
            }
          >
            {mm}
          </text>
        ))}
      </g>
    </svg>
  )
}
