'use client'
import type { Draft } from 'immer'
import { rasterLooks, type RasterSettings } from '@/core/kinds/raster/spec'
import type { RasterPlan } from '@/core/kinds/raster/plan'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { editLayer } from '../edit-map'
import type { KindUi, SettingsProps } from './kind-ui'

const change = (
  layer: Layer,
  name: string,
  recipe: (settings: Draft<RasterSettings>) => void,
  merge?: string,
): void =>
  editLayer(
    layer.id,
    name,
    (draft) => draft.symbology.kind === 'raster' && recipe(draft.symbology.settings),
    merge,
  )

const lookWords = { greys: 'greys', heights: 'height tints', colours: 'its own colours' }

function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const s = layer.symbology.settings as RasterSettings
  const plan = made as RasterPlan
  const bands = prepared.dataset.raster?.bands ?? 1
  return (
    <Section title="Fill">
      <Row label="Shown in">
        <Select
          label="Shown in"
          value={s.look}
          options={rasterLooks
            .filter((look) => look !== 'colours' || bands >= 3)
            .map((value) => ({ value, label: lookWords[value] }))}
          onChange={(look) => change(layer, `Show in ${lookWords[look]}`, (d) => void (d.look = look))}
        />
      </Row>
      {s.look !== 'colours' && plan && (
        <>
          {bands > 1 && (
            <Row label="Band">
              <Select
                label="Band"
                value={String(s.band)}
                options={Array.from({ length: bands }, (_, i) => ({
                  value: String(i),
                  label: String(i + 1),
                }))}
                onChange={(band) => change(layer, 'Band', (d) => void (d.band = Number(band)))}
              />
            </Row>
          )}
          <Row label="From, to">
            <NumberField
              label="Lowest value"
              value={plan.low}
              onChange={(n) => change(layer, 'Lowest value', (d) => void (d.low = n), 'low')}
            />
            <NumberField
              label="Highest value"
              value={plan.high}
              onChange={(n) => change(layer, 'Highest value', (d) => void (d.high = n), 'high')}
            />
          </Row>
          <Check
            label="Reversed"
            checked={s.reversed}
            onChange={(reversed) => change(layer, 'Reverse colours', (d) => void (d.reversed = reversed))}
          />
        </>
      )}
    </Section>
  )
}

export const rasterUi: KindUi = { Picker: () => null, Settings }
