'use client'
import { fading, type Fill, type GradientStop } from '@/core/sheet/fill'
import { Row, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { GradientBar } from './gradient-bar'
import { NumberField } from '../../kit/number-field'
import { useFolio } from '../../shell/folio-store'

type Props = {
  fill: Fill
  onChange: (fill: Fill, merge?: string) => void
  /** Which sorts of fill there are to choose from. */
  sorts?: readonly Fill['by'][]
}

const words: Record<Fill['by'], string> = {
  none: 'None',
  plain: 'Plain colour',
  linear: 'From side to side',
  round: 'Round',
  inward: 'Inward from the edge',
  hatch: 'Hatch',
}

const allSorts = Object.keys(words) as Fill['by'][]

const stopsOf = (fill: Fill): GradientStop[] => {
  if ('stops' in fill) return fill.stops
  return fading(fill.by === 'plain' || fill.by === 'hatch' ? fill.colour : '#1b1b1b')
}

/** Another sort of fill in the colours of the one before. */
function newFill(by: Fill['by'], before: Fill): Fill {
  const stops = stopsOf(before)
  const { colour } = stops[0]
  switch (by) {
    case 'none':
      return { by }
    case 'plain':
      return { by, colour, opacity: 1 }
    case 'linear':
      return { by, angleDeg: 0, stops, bands: 0 }
    case 'round':
      return { by, centre: [0.5, 0.5], radius: 1, stops, bands: 0 }
    case 'inward':
      return { by, widthMm: 20, stops, bands: 0 }
    case 'hatch':
      return { by, colour, background: null, angleDeg: 45, spacingMm: 1.5, widthPt: 0.5, form: 'lines' }
  }
}

/** What fills a shape or a shade. */
export function FillRows({ fill, onChange, sorts = allSorts }: Props) {
  return (
    <>
      <Row label="Fill">
        <Select
          label="Sort of fill"
          value={fill.by}
          options={sorts.map((by) => ({ value: by, label: words[by] }))}
          onChange={(by) => onChange(newFill(by, fill))}
        />
      </Row>
      {fill.by === 'plain' && (
        <Row label="Colour">
          <ColourField
            label="Colour of the fill"
            value={fill.colour}
            onChange={(colour) => onChange({ ...fill, colour }, 'fill colour')}
          />
          <NumberField
            label="Opacity of the fill"
            value={fill.opacity * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            decimals={0}
            onChange={(n) => onChange({ ...fill, opacity: n / 100 }, 'fill opacity')}
          />
        </Row>
      )}
      {fill.by === 'hatch' && <HatchRows fill={fill} onChange={onChange} />}
      {'stops' in fill && <GradientRows fill={fill} onChange={onChange} />}
    </>
  )
}

type GradientFill = Extract<Fill, { stops: unknown }>

function GradientRows({ fill, onChange }: { fill: GradientFill; onChange: Props['onChange'] }) {
  const percent = (label: string, value: number, set: (n: number) => Fill) => (
    <NumberField
      label={label}
      value={value * 100}
      unit="%"
      min={-200}
      max={500}
      step={5}
      decimals={0}
      onChange={(n) => onChange(set(n / 100), label)}
    />
  )
  return (
    <>
      <GradientBar
        stops={fill.stops}
        onChange={(stops, merge) => onChange({ ...fill, stops }, merge)}
        onEnd={() => useFolio.getState().seal()}
      />
      {fill.by === 'linear' && (
        <Row label="Direction">
          <NumberField
            label="Direction of the gradient"
            value={fill.angleDeg}
            unit="°"
            min={-360}
            max={360}
            step={5}
            onChange={(angleDeg) => onChange({ ...fill, angleDeg }, 'fill angle')}
          />
          <span className="flex-1" />
        </Row>
      )}
      {fill.by === 'inward' && (
        <Row label="Width">
          <NumberField
            label="Width of the gradient"
            value={fill.widthMm}
            unit="mm"
            min={0.1}
            max={2000}
            onChange={(widthMm) => onChange({ ...fill, widthMm }, 'fill width')}
          />
          <span className="flex-1" />
        </Row>
      )}
      {fill.by === 'round' && (
        <>
          <Row label="Middle">
            {percent('Middle of the gradient from left', fill.centre[0], (n) => ({
              ...fill,
              centre: [n, fill.centre[1]],
            }))}
            {percent('Middle of the gradient from top', fill.centre[1], (n) => ({
              ...fill,
              centre: [fill.centre[0], n],
            }))}
          </Row>
          <Row label="Radius">
            {percent('Radius of the gradient', fill.radius, (n) => ({ ...fill, radius: Math.max(0.01, n) }))}
            <span className="flex-1" />
          </Row>
        </>
      )}
      <Row label="Bands">
        <NumberField
          label="Bands of the gradient, 0 for smooth"
          value={fill.bands}
          min={0}
          max={60}
          decimals={0}
          onChange={(bands) => onChange({ ...fill, bands }, 'fill bands')}
        />
        <span className="flex-1 text-xs text-muted">{fill.bands ? '' : 'smooth'}</span>
      </Row>
    </>
  )
}

function HatchRows({
  fill,
  onChange,
}: {
  fill: Extract<Fill, { by: 'hatch' }>
  onChange: Props['onChange']
}) {
  return (
    <>
      <Row label="Colour">
        <ColourField
          label="Colour of the hatch"
          value={fill.colour}
          onChange={(colour) => onChange({ ...fill, colour }, 'hatch colour')}
        />
        <Select
          label="Form of the hatch"
          value={fill.form}
          options={[
            { value: 'lines', label: 'Lines' },
            { value: 'crossed', label: 'Crossed' },
            { value: 'dots', label: 'Dots' },
          ]}
          onChange={(form) => onChange({ ...fill, form })}
        />
      </Row>
      <Row label="Distance, width">
        <NumberField
          label="Distance of the hatch"
          value={fill.spacingMm}
          unit="mm"
          min={0.1}
          max={50}
          step={0.1}
          onChange={(spacingMm) => onChange({ ...fill, spacingMm }, 'hatch distance')}
        />
        <NumberField
          label="Width of the hatch"
          value={fill.widthPt}
          unit="pt"
          min={0.05}
          max={20}
          step={0.1}
          onChange={(widthPt) => onChange({ ...fill, widthPt }, 'hatch width')}
        />
      </Row>
      <Row label="Direction">
        <NumberField
          label="Direction of the hatch"
          value={fill.angleDeg}
          unit="°"
          min={-180}
          max={180}
          step={5}
          onChange={(angleDeg) => onChange({ ...fill, angleDeg }, 'hatch angle')}
        />
        <span className="flex-1" />
      </Row>
    </>
  )
}
