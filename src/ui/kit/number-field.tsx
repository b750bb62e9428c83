'use client'
import { useEffect, useRef, useState } from 'react'
import { parseArithmetic } from './arithmetic'

type Props = {
  label: string
  value: number
  unit?: string
  min?: number
  max?: number
  step?: number
  decimals?: number
  onChange: (value: number) => void
  className?: string
  disabled?: boolean
}

/**
 * A number with its unit. Takes arithmetic (`297/3 - 2`), steps with the arrow keys (Shift: ten steps); a bad
 * entry is said and the last good value kept.
 */
export function NumberField({
  label,
  value,
  unit = '',
  min = -Infinity,
  max = Infinity,
  step = 1,
  decimals = 2,
  onChange,
  className = '',
  disabled,
}: Props) {
  const shown = String(Number(value.toFixed(decimals)))
  const [draft, setDraft] = useState<string | null>(null)
  const [wrong, setWrong] = useState(false)
  const field = useRef<HTMLInputElement>(null)
  useEffect(() => setWrong(false), [value])

  const commit = (text: string) => {
    const parsed = parseArithmetic(text, unit)
    if (parsed === null) return setWrong(text.trim() !== '')
    setWrong(false)
    setDraft(null)
    const inside = Math.min(max, Math.max(min, parsed))
    if (inside !== value) onChange(inside)
  }
  const nudge = (by: number) => {
    setDraft(null)
    onChange(Math.min(max, Math.max(min, Number((value + by).toFixed(6)))))
  }
  return (
    <span className={`relative flex flex-1 items-center ${unit ? 'min-w-16' : 'min-w-12'} ${className}`}>
      <input
        ref={field}
        aria-label={unit ? `${label}, ${unit}` : label}
        aria-invalid={wrong}
        title={wrong ? `“${draft ?? ''}” is not a number.` : undefined}
        disabled={disabled}
        inputMode="decimal"
        className={`control w-full min-w-0 ${paddingFor(unit)} ${wrong ? '!border-error' : ''}`}
        value={draft ?? shown}
        onChange={(event) => setDraft(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={() => draft !== null && commit(draft)}
        onKeyDown={(event) => {
          const size = step * (event.shiftKey ? 10 : 1)
          if (event.key === 'Enter' && draft !== null) commit(draft)
          else if (event.key === 'Escape' && draft !== null) setDraft(null)
          else if (event.key === 'ArrowUp') nudge(size)
          else if (event.key === 'ArrowDown') nudge(-size)
          else return
          event.preventDefault()
          event.stopPropagation()
        }}
      />
      {unit && <span className="pointer-events-none absolute right-2 text-[11px] text-muted">{unit}</span>}
    </span>
  )
}

/** Room for the unit behind the number. */
function paddingFor(unit: string | undefined): string {
  if (!unit) return ''
  return unit.length === 1 ? 'pr-5' : 'pr-8'
}
