'use client'
import { areaForms, beside, type LabelSettings } from '@/core/labels/spec'
import { Check, Row, Section, Segments, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import type { Change } from './change'

/** Where the labels of a layer may stand. */
export function Placing({
  labels,
  change,
  shape,
  marked,
}: {
  labels: LabelSettings
  change: Change
  shape: 'areas' | 'lines' | 'points'
  marked: boolean
}) {
  const { point, area, line } = labels
  return (
    <Section title="Place">
      {(shape === 'points' || marked) && (
        <>
          <Row label="Beside">
            <Segments
              label="Side tried first"
              value={point.first}
              options={beside.map((value) => ({ value, label: value }))}
              onChange={(first) => change('Side of labels', (d) => void (d.point.first = first))}
            />
          </Row>
          <Row label="Gap">
            <NumberField
              label="Gap to the symbol"
              value={point.gapMm}
              unit="mm"
              min={0}
              max={50}
              step={0.1}
              onChange={(n) => change('Gap of labels', (d) => void (d.point.gapMm = n), 'gap')}
            />
            <Check
              label="on it"
              checked={point.within}
              onChange={(within) => change('Labels on symbols', (d) => void (d.point.within = within))}
            />
          </Row>
          <Check
            label="Farther off with a line, where there is no place"
            checked={point.far}
            onChange={(far) => change('Labels farther off', (d) => void (d.point.far = far))}
          />
        </>
      )}
      {shape === 'areas' && (
        <>
          <Row label="In areas">
            <Select
              label="Form in areas"
              value={area.form}
              options={areaForms.map((value) => ({ value, label: value }))}
              onChange={(form) => change('Form of labels', (d) => void (d.area.form = form))}
            />
          </Row>
          <div className="grid grid-cols-2">
            <Check
              label="Beyond borders"
              checked={area.beyond}
              onChange={(on) => change('Labels beyond borders', (d) => void (d.area.beyond = on))}
            />
            <Check
              label="Outside, with a line"
              checked={area.outside}
              onChange={(on) => change('Labels outside', (d) => void (d.area.outside = on))}
            />
          </div>
        </>
      )}
      {shape === 'lines' && (
        <>
          <Row label="Along">
            <Segments
              label="Side of the line"
              value={line.side}
              options={[
                { value: 'above', label: 'above it' },
                { value: 'on', label: 'on it' },
              ]}
              onChange={(side) => change('Side of labels', (d) => void (d.line.side = side))}
            />
            <Check
              label="curved"
              checked={line.curved}
              onChange={(curved) => change('Curved labels', (d) => void (d.line.curved = curved))}
            />
          </Row>
          <Row label="Repeated">
            <Check
              label="every"
              checked={line.repeatMm !== null}
              onChange={(on) => change('Repeated labels', (d) => void (d.line.repeatMm = on ? 80 : null))}
            />
            {line.repeatMm !== null && (
              <NumberField
                label="Distance between repetitions"
                value={line.repeatMm}
                unit="mm"
                min={10}
                max={1000}
                step={5}
                onChange={(n) => change('Repeated labels', (d) => void (d.line.repeatMm = n), 'repeat')}
              />
            )}
          </Row>
        </>
      )}
    </Section>
  )
}
