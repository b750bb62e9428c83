'use client'
import { fillInNames } from '@/core/sheet/fill-ins'
import { Row, Section, Segments } from '../../../kit/controls'
import { NumberField } from '../../../kit/number-field'
import { settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { TypeStyleRows } from '../type-style-rows'

export function TextForm({ sheet, part }: FormProps<'text'>) {
  const { text, style, align, leading } = part.settings
  const change = settingsChanger(sheet.id, part)
  return (
    <>
      <Section title="Words">
        <textarea
          aria-label="Words"
          rows={3}
          className="control !h-auto w-full py-1"
          value={text}
          onChange={(event) => change('Change text', (s) => void (s.text = event.target.value), 'text')}
        />
        <p className="text-xs text-muted">
          Fill-ins:{' '}
          {fillInNames.map((name) => (
            <button
              key={name}
              type="button"
              className="mr-1.5 rounded hover:underline"
              onClick={() => change('Add a fill-in', (s) => void (s.text = `${s.text}{{${name}}}`))}
            >{`{{${name}}}`}</button>
          ))}
        </p>
      </Section>
      <Section title="Text">
        <TypeStyleRows
          label="Type"
          style={style}
          spacing
          onChange={(next) =>
            change('Type', (s) => void Object.assign(s.style, next), `type ${Object.keys(next)[0]}`)
          }
        />
        <Row label="Aligned">
          <div className="flex-1">
            <Segments
              label="Alignment"
              value={align}
              options={[
                { value: 'left', label: 'Left' },
                { value: 'centre', label: 'Centre' },
                { value: 'right', label: 'Right' },
              ]}
              onChange={(next) => change('Align text', (s) => void (s.align = next))}
            />
          </div>
        </Row>
        <Row label="Leading">
          <NumberField
            label="Leading"
            value={leading}
            unit="×"
            min={0.7}
            max={3}
            step={0.05}
            onChange={(n) => change('Leading', (s) => void (s.leading = n), 'leading')}
          />
        </Row>
      </Section>
    </>
  )
}
