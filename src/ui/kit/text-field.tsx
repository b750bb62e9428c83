'use client'
import { useState } from 'react'

/**
 * A line of text that is taken over on Enter or when it loses the focus; Escape brings the old words back.
 */
export function TextField({
  label,
  value,
  onChange,
  placeholder,
  className = '',
  allowEmpty = false,
}: {
  label: string
  value: string
  onChange: (value: string) => void
  placeholder?: string
  className?: string
  allowEmpty?: boolean
}) {
  const [draft, setDraft] = useState<string | null>(null)
  const commit = () => {
    if (draft !== null && draft !== value && (allowEmpty || draft.trim())) onChange(draft)
    setDraft(null)
  }
  return (
    <input
      aria-label={label}
      placeholder={placeholder}
      className={`control w-full min-w-0 ${className}`}
      value={draft ?? value}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') {
          setDraft(null)
          event.stopPropagation()
        }
      }}
    />
  )
}
