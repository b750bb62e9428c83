'use client'
import { TextRows } from '../text/form'
import { Check, Row, Section, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { PanelRow } from '../panel-row'

/** The place of a callout, its line, and its words. */
export function CalloutForm({ sheet, part }: FormProps<'callout'>) {
  const { panelId, place, leader } = part.settings
  const change = settingsChanger(sheet.id, part)
  return (
    <>
      <Section title="Place and line">
        <PanelRow
          sheet={sheet}
          label="Place on"
          panelId={panelId}
          onChange={(id) => change('Place on another panel', (s) => void (s.panelId = id))}
        />
        <Row label="Place">
          <NumberField
            label="Longitude of the place"
            value={place[0]}
            unit="°"
            min={-180}
            max={180}
            step={0.1}
            decimals={4}
            onChange={(n) => change('Place', (s) => void (s.place[0] = n), 'place lon')}
          />
          <NumberField
            label="Latitude of the place"
            value={place[1]}
            unit="°"
            min={-90}
            max={90}
            step={0.1}
            decimals={4}
            onChange={(n) => change('Place', (s) => void (s.place[1] = n), 'place lat')}
          />
        </Row>
        <Row label="Line">
          <ColourField
            label="Colour of the line"
            value={leader.colour}
            onChange={(colour) => change('Line', (s) => void (s.leader.colour = colour), 'leader colour')}
          />
          <NumberField
            label="Width of the line"
            value={leader.widthPt}
            unit="pt"
            min={0.1}
            max={20}
            step={0.1}
            onChange={(n) => change('Line', (s) => void (s.leader.widthPt = n), 'leader width')}
          />
        </Row>
        <Row label="Ends in">
          <Select
            label="End of the line"
            value={leader.end}
            options={[
              { value: 'none', label: 'nothing' },
              { value: 'dot', label: 'a dot' },
              { value: 'ring', label: 'a ring' },
              { value: 'arrow', label: 'an arrow' },
            ]}
            onChange={(end) => change('End of the line', (s) => void (s.leader.end = end))}
          />
          <NumberField
            label="Size of the end"
            value={leader.endMm}
            unit="mm"
            min={0.2}
            max={20}
            step={0.1}
            onChange={(n) => change('End of the line', (s) => void (s.leader.endMm = n), 'leader end')}
          />
        </Row>
        <Check
          label="With a level piece"
          checked={leader.bent}
          onChange={(bent) => change('Bend of the line', (s) => void (s.leader.bent = bent))}
        />
        <p className="text-xs text-muted">Double click to type; its end can then be dragged on the map.</p>
      </Section>
      <TextRows settings={part.settings} change={change} />
    </>
  )
}
