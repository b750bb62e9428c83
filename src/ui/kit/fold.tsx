'use client'
import { ChevronRight } from 'lucide-react'
import { useState, type ReactNode } from 'react'

const opened = new Map<string, boolean>()

/** A section that is folded away until it is wanted; which ones are open is remembered while the page lives. */
export function Fold({
  title,
  aside,
  children,
  open: first = false,
}: {
  title: string
  aside?: ReactNode
  children: ReactNode
  open?: boolean
}) {
  const [open, setOpen] = useState(opened.get(title) ?? first)
  const toggle = () => {
    opened.set(title, !open)
    setOpen(!open)
  }
  return (
    <section className="border-b border-line px-3 py-1.5">
      <div className="flex items-center justify-between">
        <h3 className="min-w-0 flex-1">
          <button
            type="button"
            aria-expanded={open}
            onClick={toggle}
            className="flex min-h-7 w-full items-center gap-1 text-left font-semibold"
          >
            <ChevronRight size={14} aria-hidden className={`shrink-0 ${open ? 'rotate-90' : ''}`} />
            {title}
          </button>
        </h3>
        {aside && <span className="truncate text-xs text-muted">{aside}</span>}
      </div>
      {open && <div className="flex flex-col gap-1 pt-0.5 pb-1.5">{children}</div>}
    </section>
  )
}
