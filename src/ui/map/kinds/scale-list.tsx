'use client'
import { shadings } from '@/core/classify/spec'
import { ChoiceList } from '../../kit/popover'

const notes = {
  linear: 'by size',
  'square-root': 'large ones held back',
  logarithmic: 'by ratio',
  rank: 'evenly spread',
}

/** The scales along which values without classes get their shades. */
export function ScaleList({
  value,
  onPick,
}: {
  value: (typeof shadings)[number] | null
  onPick: (scaling: (typeof shadings)[number]) => void
}) {
  return (
    <ChoiceList
      value={value}
      options={shadings.map((one) => ({
        value: one,
        label: one === 'rank' ? 'by rank' : one,
        note: notes[one],
      }))}
      onPick={onPick}
    />
  )
}
