'use client'
import { Row, Section, Segments, Select } from '../../../kit/controls'
import { settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { TypeStyleRows } from '../type-style-rows'

export function ScaleBarForm({ sheet, part }: FormProps<'scale-bar'>) {
  const { units, look, style, panelId } = part.settings
  const panels = sheet.parts.filter((p) => p.type === 'panel')
  const change = settingsChanger(sheet.id, part)
  return (
    <>
      <Section title="Bar">
        {panels.length > 1 && (
          <Row label="Measures">
            <Select
              label="Panel it measures"
              value={panelId ?? panels[0].id}
              options={panels.map((p) => ({ value: p.id, label: p.name }))}
              onChange={(id) => change('Measure another panel', (s) => void (s.panelId = id))}
            />
          </Row>
        )}
        <Row label="Units">
          <div className="flex-1">
            <Segments
              label="Units"
              value={units}
              options={[
                { value: 'metric', label: 'Metric' },
                { value: 'imperial', label: 'Imperial' },
              ]}
              onChange={(next) => change('Units', (s) => void (s.units = next))}
            />
          </div>
        </Row>
        <Row label="Look">
          <div className="flex-1">
            <Segments
              label="Look"
              value={look}
              options={[
                { value: 'line', label: 'Line' },
                { value: 'blocks', label: 'Blocks' },
              ]}
              onChange={(next) => change('Look of the bar', (s) => void (s.look = next))}
            />
          </div>
        </Row>
        <p className="text-xs text-muted">
          The longest round length that fits the part’s width, true on the ground at the panel’s centre.
        </p>
      </Section>
      <Section title="Text">
        <TypeStyleRows
          label="Type"
          style={style}
          onChange={(next) =>
            change('Type', (s) => void Object.assign(s.style, next), `type ${Object.keys(next)[0]}`)
          }
        />
      </Section>
    </>
  )
}
