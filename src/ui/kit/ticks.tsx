'use client'
import { Check } from './controls'

/** A list that folds out, each line with a tick. */
export function Ticks({
  title,
  aside,
  items,
  ticked,
  onTick,
}: {
  title: string
  aside: string
  items: { id: string; name: string }[]
  ticked: (id: string) => boolean
  onTick: (id: string, on: boolean) => void
}) {
  return (
    <details>
      <summary className="flex min-h-7 cursor-pointer items-center text-xs text-muted">
        {title}: {aside}
      </summary>
      {items.map(({ id, name }) => (
        <Check key={id} label={name} checked={ticked(id)} onChange={(on) => onTick(id, on)} />
      ))}
    </details>
  )
}
