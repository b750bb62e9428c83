'use client'
import type { Ground } from '@/core/sheet/lettering/spec'
import { Check, Row } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { Fold } from '../../kit/fold'
import { NumberField } from '../../kit/number-field'

/** The ground on which words stand: padding, background and border. */
export function GroundRows({
  ground,
  onChange,
}: {
  ground: Ground
  onChange: (name: string, part: Partial<Ground>, merge?: string) => void
}) {
  const { background, opacity, border, cornerMm, paddingMm } = ground
  return (
    <Fold title="Ground" aside={background || border.widthPt > 0 ? 'drawn' : ''}>
      <Row label="Padding">
        <NumberField
          label="Padding"
          value={paddingMm}
          unit="mm"
          min={0}
          max={100}
          step={0.5}
          onChange={(n) => onChange('Padding', { paddingMm: n }, 'padding')}
        />
        <NumberField
          label="Radius of the corners"
          value={cornerMm}
          unit="mm"
          min={0}
          max={100}
          step={0.5}
          onChange={(n) => onChange('Corners', { cornerMm: n }, 'ground corners')}
        />
      </Row>
      <Check
        label="Background"
        checked={background !== null}
        onChange={(on) => onChange('Background', { background: on ? '#ffffff' : null })}
      />
      {background !== null && (
        <Row label="Colour">
          <ColourField
            label="Background"
            value={background}
            onChange={(colour) => onChange('Background', { background: colour }, 'background')}
          />
          <NumberField
            label="Opacity of the background"
            value={opacity * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            decimals={0}
            onChange={(n) => onChange('Opacity of the background', { opacity: n / 100 }, 'ground opacity')}
          />
        </Row>
      )}
      <Row label="Border">
        <ColourField
          label="Colour of the border"
          value={border.colour}
          onChange={(colour) => onChange('Border', { border: { ...border, colour } }, 'border colour')}
        />
        <NumberField
          label="Width of the border"
          value={border.widthPt}
          unit="pt"
          min={0}
          max={20}
          step={0.25}
          onChange={(widthPt) => onChange('Border', { border: { ...border, widthPt } }, 'border width')}
        />
      </Row>
    </Fold>
  )
}
