'use client'
import { unordered } from '@/core/colour/schemes'
import { Swatches } from '../colours/scheme-picker'

/** The sets of colours without an order, of which one is taken. */
export function SetList({
  value,
  onPick,
}: {
  value: string | null
  onPick: (id: string, label: string) => void
}) {
  return (
    <div className="flex w-56 flex-col">
      {Object.entries(unordered).map(([id, { label, colours }]) => (
        <button
          key={id}
          type="button"
          aria-pressed={id === value}
          onClick={() => onPick(id, label)}
          className={`flex items-center gap-2 rounded px-2 py-1 text-left text-xs hover:bg-base-200 ${id === value ? 'bg-tint font-medium text-primary' : ''}`}
        >
          <Swatches colours={[...colours]} />
          {label}
          <span className="ml-auto text-muted">{colours.length}</span>
        </button>
      ))}
    </div>
  )
}
