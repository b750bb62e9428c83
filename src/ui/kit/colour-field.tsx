'use client'
import { ColourPicker } from './colour-picker'
import { Popover } from './popover'

export function ColourField({
  label,
  value,
  onChange,
}: {
  label: string
  value: string
  onChange: (value: string) => void
}) {
  return (
    <Popover
      label={label}
      trigger={
        <button
          type="button"
          aria-label={`${label}: ${value}`}
          className="control flex min-w-0 flex-1 items-center gap-2"
        >
          <span className="size-4 shrink-0 rounded-sm border border-line" style={{ background: value }} />
          <span className="truncate uppercase">{value.slice(1)}</span>
        </button>
      }
    >
      <ColourPicker label={label} value={value} onChange={onChange} />
    </Popover>
  )
}
