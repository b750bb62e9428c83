'use client'
import { Ruler } from 'lucide-react'
import type { Classing } from '@/core/classify/spec'
import type { Layer } from '@/core/map/spec'
import { Button, Row, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { changeClassing } from '../edit-classing'

/** What rounding would cost is told before it is done. */
export function RoundButton({
  layer,
  classing,
  cost,
  moved,
}: {
  layer: Layer
  classing: Classing
  cost: number
  moved: number
}) {
  const manual = classing.method === 'manual'
  const taken = `Rounding ${classing.rounded ? 'took' : 'would take'} ${cost.toFixed(3)} of the fit.`
  const said = Math.abs(cost) < 0.0005 ? 'Rounding costs nothing of the fit.' : taken
  const shifted = classing.rounded
    ? `${moved === 0 ? 'Every value keeps its class.' : `${moved} ${moved === 1 ? 'value has' : 'values have'} another class than without it.`}`
    : 'Values near a break may get another class.'
  const words = manual ? 'Breaks set by hand stay as they are.' : `${said} ${shifted}`
  return (
    <Button
      aria-pressed={classing.rounded}
      disabled={manual}
      title={words}
      className={`!px-2 ${classing.rounded ? '!border-primary text-primary' : ''}`}
      onClick={() =>
        changeClassing(
          layer,
          classing.rounded ? 'Exact breaks' : 'Round breaks',
          (s) => void (s.rounded = !s.rounded),
        )
      }
    >
      <Ruler size={14} /> Round breaks
    </Button>
  )
}

/** What a method can be told besides the number of classes. */
export function MethodRow({ layer, classing }: { layer: Layer; classing: Classing }) {
  if (classing.method === 'standard-deviation')
    return (
      <Row label="Each class">
        <Select
          label="Width of a class"
          value={String(classing.deviations)}
          options={[
            { value: '1', label: 'one deviation' },
            { value: '0.5', label: 'half a deviation' },
            { value: String(1 / 3), label: 'a third of one' },
          ]}
          onChange={(n) =>
            changeClassing(
              layer,
              'Width of a class',
              (s) => void (s.deviations = Number(n) as Classing['deviations']),
            )
          }
        />
      </Row>
    )
  if (classing.method === 'rounded-steps')
    return (
      <Row label="Each class">
        <NumberField
          label="Width of a class, 0 by the number of classes"
          value={classing.step ?? 0}
          min={0}
          decimals={6}
          onChange={(step) =>
            changeClassing(layer, 'Width of a class', (s) => void (s.step = step > 0 ? step : null))
          }
        />
      </Row>
    )
  return null
}
