'use client'
import type { Draft } from 'immer'
import { plainPencil, type Pencil } from '@/core/kinds/pencil'
import { Button, Check, Row, Section } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'

/** Strokes as if by pencil in place of flat colours. */
export function PencilSection({
  pencil,
  onChange,
}: {
  pencil: Pencil | null
  onChange: (name: string, recipe: (look: Draft<{ pencil: Pencil | null }>) => void, merge?: string) => void
}) {
  const set = (name: string, part: Partial<Pencil>, merge?: string) =>
    onChange(name, (d) => d.pencil && void Object.assign(d.pencil, part), merge)
  const share = (label: string, key: 'pressure' | 'roughness', value: number) => (
    <Row label={label}>
      <NumberField
        label={`${label} of the pencil`}
        value={Math.round(100 * value)}
        unit="%"
        min={0}
        max={100}
        step={5}
        decimals={0}
        onChange={(n) => set(`${label} of the pencil`, { [key]: n / 100 }, key)}
      />
    </Row>
  )
  return (
    <Section
      title="Pencil"
      aside={
        <Check
          label="Drawn by hand"
          checked={pencil !== null}
          onChange={(on) =>
            onChange(
              on ? 'Drawn by hand' : 'Flat colours',
              (d) => void (d.pencil = on ? plainPencil() : null),
            )
          }
        />
      }
    >
      {pencil && (
        <>
          <Row label="Strokes">
            <NumberField
              label="Direction of strokes"
              value={pencil.directionDeg}
              unit="°"
              min={-90}
              max={90}
              step={5}
              decimals={0}
              onChange={(directionDeg) => set('Direction of strokes', { directionDeg }, 'direction')}
            />
            <NumberField
              label="Distance of strokes"
              value={pencil.spacingMm}
              unit="mm"
              min={0.2}
              max={20}
              step={0.1}
              decimals={2}
              onChange={(spacingMm) => set('Distance of strokes', { spacingMm }, 'spacing')}
            />
          </Row>
          {share('Pressure', 'pressure', pencil.pressure)}
          {share('Roughness', 'roughness', pencil.roughness)}
          <Row label="Passes">
            <NumberField
              label="Passes of the pencil"
              value={pencil.passes}
              min={1}
              max={4}
              step={1}
              decimals={0}
              onChange={(n) => set('Passes of the pencil', { passes: Math.round(n) })}
            />
            <Button look="quiet" onClick={() => set('Another hand', { seed: (pencil.seed + 1) % 1_000_000 })}>
              Another hand
            </Button>
          </Row>
          <Check
            label="High classes denser"
            checked={pencil.denser}
            onChange={(denser) => set(denser ? 'High classes denser' : 'All classes alike', { denser })}
          />
        </>
      )}
    </Section>
  )
}
