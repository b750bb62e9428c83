'use client'
import type { KeyboardEvent, PointerEvent } from 'react'

/**
 * A dial on which the light is set: where the dot lies round the dial it comes from, and the nearer to the middle, the
 * higher it stands. By keys: left and right turn it, up and down raise and lower it.
 */
export function SunDial({
  label = 'Direction of the light',
  size = 64,
  azimuthDeg,
  altitudeDeg,
  onChange,
}: {
  label?: string
  /** CSS pixels. */
  size?: number
  azimuthDeg: number
  altitudeDeg: number
  onChange: (azimuthDeg: number, altitudeDeg: number) => void
}) {
  const middle = size / 2
  const reach = middle - 7
  const angle = (azimuthDeg * Math.PI) / 180
  const far = reach * (1 - altitudeDeg / 90)
  const set = (azimuth: number, altitude: number) =>
    onChange(Math.round(((azimuth % 360) + 360) % 360), Math.round(Math.min(90, Math.max(1, altitude))))
  const at = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect()
    const [x, y] = [event.clientX - box.left - middle, event.clientY - box.top - middle]
    set((Math.atan2(x, -y) * 180) / Math.PI, 90 * (1 - Math.hypot(x, y) / reach))
  }
  const onKey = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 15 : 5
    const turn = { ArrowLeft: -step, ArrowRight: step }[event.key] ?? 0
    const rise = { ArrowUp: step, ArrowDown: -step }[event.key] ?? 0
    if (!turn && !rise) return
    event.preventDefault()
    set(azimuthDeg + turn, altitudeDeg + rise)
  }
  return (
    <svg
      width={size}
      height={size}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={360}
      aria-valuenow={azimuthDeg}
      aria-valuetext={`from ${azimuthDeg}°, ${altitudeDeg}° high`}
      className="shrink-0 cursor-pointer touch-none"
      onKeyDown={onKey}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        at(event)
      }}
      onPointerMove={(event) => event.buttons && at(event)}
    >
      <circle cx={middle} cy={middle} r={reach} className="fill-base-100 stroke-line" />
      <circle
        cx={middle}
        cy={middle}
        r={reach / 2}
        fill="none"
        className="stroke-line"
        strokeDasharray="2 2"
      />
      <path d={`M${middle} 3v5`} className="stroke-muted" />
      <path
        d={`M${middle} ${middle}L${middle + far * Math.sin(angle)} ${middle - far * Math.cos(angle)}`}
        className="stroke-primary"
      />
      <circle
        cx={middle + far * Math.sin(angle)}
        cy={middle - far * Math.cos(angle)}
        r={5}
        className="fill-primary"
      />
    </svg>
  )
}
