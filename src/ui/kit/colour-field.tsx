'use client'
import { HexColorInput, HexColorPicker } from 'react-colorful'
import { Popover } from './popover'

export function ColourField({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <Popover
      label={label}
      trigger={
        <button type="button" aria-label={`${label}: ${value}`} className="control flex min-w-0 flex-1 items-center gap-2">
          <span className="size-4 shrink-0 rounded-sm border border-line" style={{ background: value }} />
          <span className="truncate uppercase">{value.slice(1)}</span>
        </button>
      }
    >
      <HexColorPicker color={value} onChange={(next) => /^#[0-9a-f]{6}$/i.test(next) && onChange(next.toLowerCase())} style={{ width: 200, height: 150 }} />
      <HexColorInput aria-label={`${label}, hexadecimal`} prefixed color={value} onChange={(next) => /^#[0-9a-f]{6}$/i.test(next) && onChange(next.toLowerCase())} className="control mt-2 w-full uppercase" />
    </Popover>
  )
}
