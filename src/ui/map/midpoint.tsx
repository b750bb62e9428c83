'use client'
import { midpointKinds, type Midpoint } from '@/core/classify/spec'
import { colouringKind, type Colouring } from '@/core/colour/colouring'
import type { Layer } from '@/core/map/spec'
import { Row } from '../kit/controls'
import { NumberField } from '../kit/number-field'
import { ChoiceList } from '../kit/popover'
import { changeClassing, classingOf } from './edit-classing'

const words: Record<Midpoint['at'], { label: string; note: string }> = {
  zero: { label: 'zero', note: 'losses and gains' },
  mean: { label: 'the mean', note: 'of all areas' },
  median: { label: 'the median', note: 'half below, half above' },
  national: { label: 'the national figure', note: 'sum over sum' },
  typed: { label: 'a value', note: 'typed' },
}

/** Whether the data have two sides, and where the middle lies. */
export function MidpointPicker({ layer }: { layer: Layer }) {
  const classing = classingOf(layer)
  if (!classing) return null
  const { midpoint } = classing
  const set = (next: Midpoint | null) =>
    changeClassing(
      layer,
      next ? `Two sides of ${words[next.at].label}` : 'One direction',
      (s) => {
        s.midpoint = next
        // Two sides want colours that run apart from a middle.
        const coloured = s as Partial<Colouring>
        if (
          next &&
          coloured.scheme &&
          colouringKind({ scheme: coloured.scheme, ramp: coloured.ramp ?? null }) === 'sequential'
        )
          Object.assign(coloured, { scheme: 'bark and reed', ramp: null })
      },
      'midpoint',
    )
  return (
    <div className="w-64">
      <ChoiceList
        value={midpoint?.at ?? 'none'}
        options={[
          { value: 'none' as const, label: 'one direction', note: 'low to high' },
          ...midpointKinds.map((value) => ({ value, ...words[value] })),
        ]}
        onPick={(at) => set(at === 'none' ? null : { at, value: midpoint?.value ?? 0 })}
      />
      {midpoint?.at === 'typed' && (
        <div className="mt-1 border-t border-line pt-1">
          <Row label="Middle">
            <NumberField
              label="Middle of the data"
              value={midpoint.value}
              decimals={6}
              onChange={(value) => set({ at: 'typed', value })}
            />
          </Row>
        </div>
      )}
    </div>
  )
}
