'use client'
import type { ComponentType } from 'react'
import { mostMm } from '@/core/scene/bounded'
import { blendModes, type BlendMode } from '@/core/scene/paint'
import { tidyAngle } from '@/core/sheet/frame'
import { partTypeOf } from '@/core/sheet/registry'
import type { Part, Sheet } from '@/core/sheet/spec'
import { ColumnHead, Row, Section, Select } from '../../kit/controls'
import { Fold } from '../../kit/fold'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { editPart } from '../edit-sheet'
import { useFrameOf } from '../frames'
import type { FormProps } from './face'
import { partFaceOf } from './registry'

/** The settings of the selected part: what is its own, then its place and how it is mixed with what lies beneath. */
export function PartForm({ sheet, part }: { sheet: Sheet; part: Part }) {
  const Form = partFaceOf(part.type).Form as ComponentType<FormProps>
  const change = (name: string, recipe: (part: Part) => void, merge?: string) =>
    editPart({ sheetId: sheet.id, partId: part.id }, name, (draft) => recipe(draft as Part), merge)
  return (
    <>
      <ColumnHead title={partTypeOf(part.type).label} />
      <Form key={part.id} sheet={sheet} part={part as FormProps['part']} />
      <PlaceForm part={part} change={change} />
      <Fold
        title="Mixing"
        aside={part.opacity < 1 || part.blend !== 'normal' ? `${Math.round(part.opacity * 100)} %` : ''}
      >
        <Row label="Opacity">
          <NumberField
            label="Opacity of the part"
            value={part.opacity * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            decimals={0}
            onChange={(n) => change('Opacity', (p) => void (p.opacity = n / 100), 'opacity')}
          />
        </Row>
        <Row label="Blend">
          <Select
            label="Blend of the part"
            value={part.blend}
            options={blendModes.map((mode) => ({ value: mode, label: mode.replace('-', ' ') }))}
            onChange={(mode) => change('Blend', (p) => void (p.blend = mode as BlendMode))}
          />
        </Row>
      </Fold>
    </>
  )
}

type Change = (name: string, recipe: (part: Part) => void, merge?: string) => void

function PlaceForm({ part, change }: { part: Part; change: Change }) {
  const { resize } = partTypeOf(part.type)
  const { box } = useFrameOf()(part)
  const place = (key: 'width' | 'height', value: number) =>
    change('Place part', (p) => void (p.box[key] = value), `place ${key}`)
  // A part that stays at a place of a map lies elsewhere than its box says.
  const put = (key: 'x' | 'y', mm: number) =>
    change(
      'Place part',
      (p) => void (p.box[key] = Math.round((p.box[key] + mm - box[key]) * 1e6) / 1e6),
      `place ${key}`,
    )
  return (
    <Section title="Place">
      <Row label="Name">
        <TextField
          label="Name of the part"
          value={part.name}
          onChange={(name) => change('Rename part', (p) => void (p.name = name))}
        />
      </Row>
      <Row label="From left, top">
        <NumberField
          label="From left"
          value={box.x}
          unit="mm"
          min={-mostMm}
          max={mostMm}
          onChange={(n) => put('x', n)}
        />
        <NumberField
          label="From top"
          value={box.y}
          unit="mm"
          min={-mostMm}
          max={mostMm}
          onChange={(n) => put('y', n)}
        />
      </Row>
      {resize !== 'none' && (
        <Row label={resize === 'free' ? 'Width, height' : 'Width'}>
          <NumberField
            label="Width"
            value={part.box.width}
            unit="mm"
            min={resize === 'free' ? 0.1 : 4}
            max={mostMm}
            onChange={(n) => place('width', n)}
          />
          {resize === 'free' ? (
            <NumberField
              label="Height"
              value={part.box.height}
              unit="mm"
              min={0.1}
              max={mostMm}
              onChange={(n) => place('height', n)}
            />
          ) : (
            <span className="flex-1" />
          )}
        </Row>
      )}
      <Row label="Turned">
        <NumberField
          label="Turned clockwise"
          value={part.rotationDeg}
          unit="°"
          step={1}
          onChange={(n) => change('Turn part', (p) => void (p.rotationDeg = tidyAngle(n)), 'turn')}
        />
        <span className="flex-1" />
      </Row>
    </Section>
  )
}
