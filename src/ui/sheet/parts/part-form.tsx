'use client'
import type { ComponentType } from 'react'
import type { Part, PartTypeId, Sheet } from '@/core/sheet/spec'
import { ColumnHead, Row, Section } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { partTypeOf } from '@/core/sheet/registry'
import { editPart } from '../edit-sheet'
import { LegendForm } from './legend-form'
import { PanelForm } from './panel-form'
import { ScaleBarForm } from './scale-bar-form'
import { TextForm } from './text-form'

type FormProps<T extends PartTypeId> = { sheet: Sheet; part: Extract<Part, { type: T }> }

/** The settings form of every type of part, one line each. */
const forms: { [T in PartTypeId]: ComponentType<FormProps<T>> } = {
  panel: PanelForm,
  legend: LegendForm,
  'scale-bar': ScaleBarForm,
  text: TextForm,
}

/** The settings of the selected part: what is its own, then its place. */
export function PartForm({ sheet, part }: { sheet: Sheet; part: Part }) {
  const Form = forms[part.type] as ComponentType<{ sheet: Sheet; part: Part }>
  const place = (key: 'x' | 'y' | 'width' | 'height', value: number) =>
    editPart(
      { sheetId: sheet.id, partId: part.id },
      'Place part',
      (p) => void (p.box[key] = value),
      `place ${key}`,
    )
  const { resize } = partTypeOf(part.type)
  return (
    <>
      <ColumnHead title={partTypeOf(part.type).label} />
      <Form key={part.id} sheet={sheet} part={part} />
      <Section title="Place">
        <Row label="Name">
          <TextField
            label="Name of the part"
            value={part.name}
            onChange={(name) =>
              editPart({ sheetId: sheet.id, partId: part.id }, 'Rename part', (p) => void (p.name = name))
            }
          />
        </Row>
        <Row label="From left, top">
          <NumberField label="From left" value={part.box.x} unit="mm" onChange={(n) => place('x', n)} />
          <NumberField label="From top" value={part.box.y} unit="mm" onChange={(n) => place('y', n)} />
        </Row>
        {resize !== 'none' && (
          <Row label={resize === 'free' ? 'Width, height' : 'Width'}>
            <NumberField
              label="Width"
              value={part.box.width}
              unit="mm"
              min={4}
              onChange={(n) => place('width', n)}
            />
            {resize === 'free' ? (
              <NumberField
                label="Height"
                value={part.box.height}
                unit="mm"
                min={4}
                onChange={(n) => place('height', n)}
              />
            ) : (
              <span className="flex-1" />
            )}
          </Row>
        )}
      </Section>
    </>
  )
}
