'use client'
import { Maximize } from 'lucide-react'
import { fitMap, roundScale } from '@/core/map/view'
import { vantageView } from '@/core/map/vantage'
import { panelView } from '@/core/sheet/panel-view'
import type { Part, Sheet } from '@/core/sheet/spec'
import { Button, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { usePrepared } from '../../shell/contents'
import { useDocument } from '../../shell/folio-store'
import { editPart } from '../edit-sheet'

type PanelPart = Extract<Part, { type: 'panel' }>

export function PanelForm({ sheet, part }: { sheet: Sheet; part: PanelPart }) {
  const { maps } = useDocument()
  const datasets = usePrepared()
  const map = panelView(part, maps, datasets)?.map
  const change = (name: string, recipe: (settings: PanelPart['settings']) => void, merge?: string) =>
    editPart(
      { sheetId: sheet.id, partId: part.id },
      name,
      (p) => p.type === 'panel' && recipe(p.settings),
      merge,
    )
  const fit = () => {
    const fitted = map && fitMap(map, datasets, part.box)
    if (fitted)
      change(
        'Fit to the map',
        (s) => void (s.view = { ...fitted, scaleDenominator: roundScale(fitted.scaleDenominator) }),
      )
  }
  const goTo = (id: string) => {
    const vantage = map?.vantages.find((one) => one.id === id)
    const view = vantage && map && vantageView(vantage, map, part.box)
    if (view)
      change(
        `Vantage ${vantage.name}`,
        (s) =>
          void (s.view =
            vantage.of.by === 'view'
              ? { ...view }
              : { ...view, scaleDenominator: roundScale(view.scaleDenominator) }),
      )
  }
  return (
    <>
      <Section title="View">
        <Row label="Map">
          <Select
            label="Map"
            value={part.settings.mapId}
            options={maps.map((m) => ({ value: m.id, label: m.name }))}
            onChange={(id) => change('Show another map', (s) => void (s.mapId = id))}
          />
        </Row>
        <Row label="Scale">
          <span className="text-xs text-muted">1 :</span>
          <NumberField
            label="Scale, 1 to"
            value={part.settings.view.scaleDenominator}
            min={100}
            max={1e9}
            step={50_000}
            decimals={0}
            onChange={(n) => change('Scale', (s) => void (s.view.scaleDenominator = n), 'scale')}
          />
        </Row>
        <Row label="Centre">
          <NumberField
            label="Longitude of the centre"
            value={part.settings.view.centre[0]}
            unit="°"
            min={-180}
            max={180}
            step={0.1}
            decimals={3}
            onChange={(n) => change('Centre', (s) => void (s.view.centre[0] = n), 'lon')}
          />
          <NumberField
            label="Latitude of the centre"
            value={part.settings.view.centre[1]}
            unit="°"
            min={-90}
            max={90}
            step={0.1}
            decimals={3}
            onChange={(n) => change('Centre', (s) => void (s.view.centre[1] = n), 'lat')}
          />
        </Row>
        {map && map.vantages.length > 0 && (
          <Row label="Vantage">
            <Select
              label="Vantage"
              value=""
              options={[
                { value: '', label: 'go to…' },
                ...map.vantages.map(({ id, name }) => ({ value: id, label: name })),
              ]}
              onChange={goTo}
            />
          </Row>
        )}
        <Button onClick={fit}>
          <Maximize size={14} /> Fit to the thematic layer
        </Button>
        <p className="text-xs text-muted">Double click the panel to pan and zoom inside it.</p>
      </Section>
      <Section title="Frame">
        <Row label="Line">
          <ColourField
            label="Frame colour"
            value={part.settings.frame.colour}
            onChange={(colour) => change('Frame colour', (s) => void (s.frame.colour = colour), 'frame')}
          />
          <NumberField
            label="Frame width"
            value={part.settings.frame.widthPt}
            unit="pt"
            min={0}
            max={20}
            step={0.25}
            onChange={(n) => change('Frame width', (s) => void (s.frame.widthPt = n), 'frame width')}
          />
        </Row>
      </Section>
    </>
  )
}
