'use client'
import { panelView, panelPart } from '@/core/sheet/panel-view'
import { barLookIds, barLooks } from '@/core/sheet/parts/scale-bar/spec'
import { scaleSpread, spreadLimit } from '@/core/sheet/parts/scale-bar/spread'
import { unitSystems, type UnitSystem } from '@/core/sheet/parts/scale-bar/length'
import { Button, Row, Section, Segments, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { usePrepared } from '../../../shell/contents'
import { useDocument } from '../../../shell/folio-store'
import { settingsChanger } from '../../edit-sheet'
import type { FormProps } from '../face'
import { PanelRow } from '../panel-row'
import { TypeStyleRows } from '../type-style-rows'

const unitWords: Record<UnitSystem, string> = { metric: 'Metric', imperial: 'Imperial', nautical: 'Nautical' }
const twoColours = ['blocks', 'rows', 'stairs', 'hollow']

export function ScaleBarForm({ sheet, part }: FormProps<'scale-bar'>) {
  const { units, second, look, style, panelId, segments, labelEvery, heightMm, light } = part.settings
  const change = settingsChanger(sheet.id, part)
  const { maps } = useDocument()
  const datasets = usePrepared()
  const target = panelPart(sheet, panelId)
  const view = target && panelView(target, sheet, { maps, datasets })
  const spread = view ? scaleSpread(view) : 0
  const drawn = look !== 'words' && look !== 'fraction'
  return (
    <>
      <Section title="Bar">
        <PanelRow
          sheet={sheet}
          label="Measures"
          panelId={panelId}
          onChange={(id) => change('Measure another panel', (s) => void (s.panelId = id))}
        />
        <Row label="Look">
          <Select
            label="Look"
            value={look}
            options={barLookIds.map((id) => ({ value: id, label: barLooks[id] }))}
            onChange={(next) => change('Look of the bar', (s) => void (s.look = next))}
          />
        </Row>
        {look !== 'fraction' && (
          <>
            <Row label="Units">
              <div className="flex-1">
                <Segments
                  label="Units"
                  value={units}
                  options={unitSystems.map((id) => ({ value: id, label: unitWords[id] }))}
                  onChange={(next) => change('Units', (s) => void (s.units = next))}
                />
              </div>
            </Row>
            {look !== 'diagram' && (
              <Row label="and beneath">
                <Select
                  label="Second units"
                  value={second ?? ''}
                  options={[
                    { value: '', label: 'no other units' },
                    ...unitSystems.map((id) => ({ value: id as string, label: unitWords[id] })),
                  ]}
                  onChange={(id) =>
                    change('Second units', (s) => void (s.second = (id || null) as UnitSystem | null))
                  }
                />
              </Row>
            )}
          </>
        )}
        {drawn && (
          <>
            <Row label="Segments">
              <Select
                label="Segments right of zero"
                value={String(segments.right ?? '')}
                options={[
                  { value: '', label: 'as they come' },
                  ...[1, 2, 3, 4, 5, 6, 8, 10].map((n) => ({ value: String(n), label: `${n} right` })),
                ]}
                onChange={(n) => change('Segments', (s) => void (s.segments.right = n ? Number(n) : null))}
              />
              <Select
                label="Parts left of zero"
                value={String(segments.left)}
                options={[0, 2, 4, 5, 10].map((n) => ({
                  value: String(n),
                  label: n ? `${n} left` : 'none left',
                }))}
                onChange={(n) => change('Segments', (s) => void (s.segments.left = Number(n)))}
              />
            </Row>
            <Row label="Number each">
              <NumberField
                label="A number at every so many-th division"
                value={labelEvery}
                min={1}
                max={12}
                decimals={0}
                onChange={(n) => change('Numbers of the bar', (s) => void (s.labelEvery = n), 'numbers')}
              />
              <NumberField
                label="Height of the bar"
                value={heightMm}
                unit="mm"
                min={0.3}
                max={20}
                step={0.1}
                onChange={(n) => change('Height of the bar', (s) => void (s.heightMm = n), 'height')}
              />
            </Row>
          </>
        )}
        {twoColours.includes(look) && (
          <Row label="Light colour">
            <ColourField
              label="Light colour of the bar"
              value={light}
              onChange={(colour) => change('Colour of the bar', (s) => void (s.light = colour), 'light')}
            />
          </Row>
        )}
        {spread > spreadLimit && look !== 'diagram' && (
          <p className="rounded border border-warning bg-warning/10 px-2 py-1.5 text-xs">
            On this panel the scale changes by {Math.round(spread * 100)} %: one bar is not true everywhere.{' '}
            <Button
              look="quiet"
              className="!h-6 !px-1 text-xs underline"
              onClick={() => change('Diagram by latitude', (s) => void (s.look = 'diagram'))}
            >
              Draw a diagram by latitude
            </Button>
          </p>
        )}
        <p className="text-xs text-muted">
          {drawn
            ? 'The longest round length that fits the part’s width, true on the ground at the panel’s centre.'
            : 'True on the ground at the panel’s centre.'}
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
