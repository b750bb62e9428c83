'use client'
import { useState } from 'react'
import { formulaFunctions, formulaName, parseFormula } from '@/core/data/formula'
import type { Prepared } from '@/core/data/prepare'

type Props = {
  label: string
  value: string
  before: Prepared
  onChange: (next: string) => void
  placeholder?: string
  /** Functions besides the usual ones. */
  more?: Record<string, unknown>
  /** Taken over when the field is left, and only if it can be used. */
  later?: boolean
}

/** A formula with what is wrong with it, and names of fields and functions that go on from what is typed. */
export function FormulaField({
  label,
  value,
  before,
  onChange,
  placeholder = 'lib_loans_2025 / population * 1000',
  more = {},
  later = false,
}: Props) {
  const [draft, setDraft] = useState<string | null>(null)
  const text = draft ?? value
  const set = (next: string) => (later ? setDraft(next) : onChange(next))
  const names = before.dataset.fields.map(({ key }) => formulaName(key))
  const problem = problemOf(text, before, more)
  const typed = /[\p{L}_][\p{L}\p{N}_]*$/u.exec(text)?.[0] ?? ''
  const offered = typed
    ? [...names, ...[...Object.keys(more), ...formulaFunctions].map((f) => `${f}(`)]
        .filter((name) => name.toLowerCase().startsWith(typed.toLowerCase()) && name !== typed)
        .slice(0, 6)
    : []
  return (
    <div>
      <span className="text-xs text-muted">{label}</span>
      <textarea
        aria-label={label}
        rows={2}
        spellCheck={false}
        className={`control !h-auto w-full py-1 font-mono ${problem ? '!border-error' : ''}`}
        value={text}
        placeholder={placeholder}
        onChange={(event) => set(event.target.value)}
        onBlur={() => {
          if (draft === null || problem) return
          if (draft !== value) onChange(draft)
          setDraft(null)
        }}
      />
      {problem && <p className="text-xs text-error">{problem}</p>}
      {offered.length > 0 && (
        <p className="flex flex-wrap gap-1">
          {offered.map((name) => (
            <button
              key={name}
              type="button"
              className="rounded bg-base-200 px-1.5 py-0.5 font-mono text-[11px] hover:bg-tint"
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => set(text.slice(0, text.length - typed.length) + name)}
            >
              {name}
            </button>
          ))}
        </p>
      )}
    </div>
  )
}

function problemOf(text: string, before: Prepared, more: Record<string, unknown>): string | null {
  if (!text.trim()) return null
  try {
    parseFormula(
      text,
      before.dataset.fields.map(({ key }) => key),
      more,
    )
    return null
  } catch (error) {
    return (error as Error).message
  }
}
