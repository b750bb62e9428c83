'use client'

/** A slider for a share, from `least` to 1, in steps of a hundredth. */
export function ShareSlider({
  label,
  value,
  least = 0,
  onChange,
}: {
  label: string
  value: number
  least?: 0 | -1
  onChange: (share: number) => void
}) {
  return (
    <input
      type="range"
      aria-label={label}
      className="range range-xs flex-1"
      min={100 * least}
      max={100}
      value={Math.round(100 * value)}
      onChange={(event) => onChange(Number(event.target.value) / 100)}
    />
  )
}
