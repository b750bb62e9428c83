'use client'
import { fading } from '@/core/sheet/fill'
import type { Effects } from '@/core/sheet/lettering/spec'
import { Check, Row } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { Fold } from '../../kit/fold'
import { NumberField } from '../../kit/number-field'
import { FillRows } from './fill-rows'

type Props = { effects: Effects; onChange: (name: string, part: Partial<Effects>, merge?: string) => void }

/** Halo, glow, shadow and gradient of letters. The glow has one slider. */
export function EffectRows({ effects, onChange }: Props) {
  const { halo, glow, shadow, fill } = effects
  const on = [halo && 'halo', glow && 'glow', shadow && 'shadow', fill && 'gradient'].filter(Boolean)
  return (
    <Fold title="Around the letters" aside={on.join(', ')}>
      <Check
        label="Halo"
        checked={halo !== null}
        onChange={(is) => onChange('Halo', { halo: is ? { colour: '#ffffff', widthPt: 1.5 } : null })}
      />
      {halo && (
        <Row label="">
          <ColourField
            label="Colour of the halo"
            value={halo.colour}
            onChange={(colour) => onChange('Halo', { halo: { ...halo, colour } }, 'halo colour')}
          />
          <NumberField
            label="Width of the halo"
            value={halo.widthPt}
            unit="pt"
            min={0.1}
            max={20}
            step={0.25}
            onChange={(widthPt) => onChange('Halo', { halo: { ...halo, widthPt } }, 'halo width')}
          />
        </Row>
      )}
      <Check
        label="Glow"
        checked={glow !== null}
        onChange={(is) =>
          onChange('Glow', { glow: is ? { colour: '#ffffff', radiusMm: 3, strength: 0.8 } : null })
        }
      />
      {glow && (
        <>
          <input
            type="range"
            aria-label="Reach of the glow"
            className="range range-xs range-primary"
            min={0.2}
            max={20}
            step={0.1}
            value={glow.radiusMm}
            onChange={(event) =>
              onChange('Glow', { glow: { ...glow, radiusMm: Number(event.target.value) } }, 'glow radius')
            }
          />
          <Row label="">
            <ColourField
              label="Colour of the glow"
              value={glow.colour}
              onChange={(colour) => onChange('Glow', { glow: { ...glow, colour } }, 'glow colour')}
            />
            <NumberField
              label="Strength of the glow"
              value={glow.strength * 100}
              unit="%"
              min={0}
              max={100}
              step={5}
              decimals={0}
              onChange={(n) => onChange('Glow', { glow: { ...glow, strength: n / 100 } }, 'glow strength')}
            />
          </Row>
        </>
      )}
      <Check
        label="Shadow"
        checked={shadow !== null}
        onChange={(is) =>
          onChange('Shadow', {
            shadow: is ? { colour: '#000000', opacity: 0.4, dx: 0.4, dy: 0.5, softMm: 0.5 } : null,
          })
        }
      />
      {shadow && <ShadowRows shadow={shadow} onChange={onChange} />}
      <Check
        label="Gradient in the letters"
        checked={fill !== null}
        onChange={(is) =>
          onChange('Gradient in the letters', {
            fill: is
              ? {
                  by: 'linear',
                  angleDeg: 90,
                  stops: fading('#9c1f5e').map((s) => ({ ...s, opacity: 1 })),
                  bands: 0,
                }
              : null,
          })
        }
      />
      {fill && (
        <FillRows
          fill={fill}
          sorts={['linear', 'round', 'hatch']}
          onChange={(next, merge) => onChange('Gradient in the letters', { fill: next }, merge)}
        />
      )}
    </Fold>
  )
}

function ShadowRows({
  shadow,
  onChange,
}: {
  shadow: NonNullable<Effects['shadow']>
  onChange: Props['onChange']
}) {
  const set = (part: Partial<typeof shadow>, merge: string) =>
    onChange('Shadow', { shadow: { ...shadow, ...part } }, `shadow ${merge}`)
  return (
    <>
      <Row label="">
        <ColourField
          label="Colour of the shadow"
          value={shadow.colour}
          onChange={(colour) => set({ colour }, 'colour')}
        />
        <NumberField
          label="Opacity of the shadow"
          value={shadow.opacity * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          decimals={0}
          onChange={(n) => set({ opacity: n / 100 }, 'opacity')}
        />
      </Row>
      <Row label="Shift, softness">
        <NumberField
          label="Shadow to the right"
          value={shadow.dx}
          unit="mm"
          step={0.1}
          min={-50}
          max={50}
          onChange={(dx) => set({ dx }, 'dx')}
        />
        <NumberField
          label="Shadow down"
          value={shadow.dy}
          unit="mm"
          step={0.1}
          min={-50}
          max={50}
          onChange={(dy) => set({ dy }, 'dy')}
        />
        <NumberField
          label="Softness of the shadow"
          value={shadow.softMm}
          unit="mm"
          step={0.1}
          min={0}
          max={20}
          onChange={(softMm) => set({ softMm }, 'soft')}
        />
      </Row>
    </>
  )
}
