'use client'
import {
  dashes,
  headForms,
  isOpen,
  shapeForms,
  type Dash,
  type HeadForm,
  type ShapeForm as Form,
  type ShapeSettings,
} from '@/core/sheet/parts/shape'
import { Row, Section, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { FillRows } from '../fill-rows'

const formWords: Record<Form, string> = {
  rectangle: 'Rectangle',
  ellipse: 'Ellipse',
  line: 'Line or arrow',
  bracket: 'Bracket',
  polygon: 'Polygon',
  freehand: 'Freehand line',
}

const headWords: Record<HeadForm, string> = {
  none: 'plain',
  filled: 'arrow head',
  open: 'open head',
  dot: 'dot',
  bar: 'bar',
}

/** The places that a form begins with. */
function pointsFor(form: Form, { points }: ShapeSettings): [number, number][] {
  if (form === 'polygon' && points.length < 3)
    return [
      [0.5, 0],
      [1, 1],
      [0, 1],
    ]
  if (form === 'line' && points.length > 2)
    return [
      [0, 0],
      [1, 1],
    ]
  if (form === 'freehand' && points.length < 3)
    return [
      [0, 0.5],
      [0.25, 0.2],
      [0.6, 0.8],
      [1, 0.5],
    ]
  return points
}

/** Form, fill, line and heads of a shape. */
export function ShapeForm({ sheet, part }: FormProps<'shape'>) {
  const { form, cornerMm, fill, line, heads } = part.settings
  const change = settingsChanger(sheet.id, part)
  return (
    <>
      <Section title="Form">
        <Row label="Form">
          <Select
            label="Form of the shape"
            value={form}
            options={shapeForms.map((id) => ({ value: id, label: formWords[id] }))}
            onChange={(next) =>
              change('Form of the shape', (s) => {
                s.form = next
                s.points = pointsFor(next, part.settings)
              })
            }
          />
        </Row>
        {form === 'rectangle' && (
          <Row label="Corners">
            <NumberField
              label="Radius of the corners"
              value={cornerMm}
              unit="mm"
              min={0}
              max={500}
              onChange={(n) => change('Corners', (s) => void (s.cornerMm = n), 'corners')}
            />
            <span className="flex-1" />
          </Row>
        )}
        {(form === 'line' || form === 'polygon' || form === 'freehand') && (
          <p className="text-xs text-muted">Double click to move its points; a click on a line adds one.</p>
        )}
      </Section>
      {!isOpen(form) && (
        <Section title="Inside">
          <FillRows
            fill={fill}
            sorts={form === 'polygon' ? ['none', 'plain', 'linear', 'round', 'hatch'] : undefined}
            onChange={(next, merge) => change('Fill', (s) => void (s.fill = next), merge)}
          />
        </Section>
      )}
      <Section title="Line">
        <Row label="Colour">
          <ColourField
            label="Colour of the line"
            value={line.colour}
            onChange={(colour) => change('Line', (s) => void (s.line.colour = colour), 'line colour')}
          />
          <NumberField
            label="Width of the line"
            value={line.widthPt}
            unit="pt"
            min={0}
            max={60}
            step={0.25}
            onChange={(n) => change('Line', (s) => void (s.line.widthPt = n), 'line width')}
          />
        </Row>
        <Row label="Dashes, ends">
          <Select
            label="Dashes"
            value={line.dash}
            options={(Object.keys(dashes) as Dash[]).map((id) => ({ value: id, label: id }))}
            onChange={(dash) => change('Dashes', (s) => void (s.line.dash = dash))}
          />
          <Select
            label="Ends of the line"
            value={line.cap}
            options={[
              { value: 'butt', label: 'cut' },
              { value: 'round', label: 'round' },
              { value: 'square', label: 'square' },
            ]}
            onChange={(cap) => change('Ends of the line', (s) => void (s.line.cap = cap))}
          />
        </Row>
        {(form === 'line' || form === 'freehand') && (
          <>
            <Row label="Start, end">
              {(['start', 'end'] as const).map((which) => (
                <Select
                  key={which}
                  label={which === 'start' ? 'Start of the line' : 'End of the line'}
                  value={heads[which]}
                  options={headForms.map((id) => ({ value: id, label: headWords[id] }))}
                  onChange={(next) => change('Heads', (s) => void (s.heads[which] = next))}
                />
              ))}
            </Row>
            {(heads.start !== 'none' || heads.end !== 'none') && (
              <Row label="Head size">
                <NumberField
                  label="Size of the heads"
                  value={heads.size}
                  unit="×"
                  min={1}
                  max={20}
                  step={0.5}
                  onChange={(n) => change('Size of the heads', (s) => void (s.heads.size = n), 'heads')}
                />
                <span className="flex-1" />
              </Row>
            )}
          </>
        )}
      </Section>
    </>
  )
}
