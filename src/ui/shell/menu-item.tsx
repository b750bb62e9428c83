import type { ReactNode } from 'react'

/** A line of a menu: what it does, and what is to be known of it. */
export function MenuItem({
  icon,
  label,
  note,
  onClick,
}: {
  icon: ReactNode
  label: string
  note?: string
  onClick: () => void
}) {
  return (
    <button
      type="button"
      onClick={onClick}
      className="flex items-start gap-2 rounded px-2 py-1.5 text-left hover:bg-base-200"
    >
      <span className="mt-0.5 shrink-0">{icon}</span>
      <span>
        {label}
        {note && <span className="block text-xs text-muted">{note}</span>}
      </span>
    </button>
  )
}
