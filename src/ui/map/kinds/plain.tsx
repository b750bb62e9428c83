'use client'
import type { Draft } from 'immer'
import type { PlainSettings } from '@/core/kinds/plain/spec'
import { plainShapes, shapeWords } from '@/core/kinds/marks/shapes'
import { presets } from '@/core/kinds/plain/presets'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { editLayer } from '../edit-map'
import type { KindUi, SettingsProps } from './kind-ui'

const change = (
  layer: Layer,
  name: string,
  recipe: (settings: Draft<PlainSettings>) => void,
  merge?: string,
): void =>
  editLayer(
    layer.id,
    name,
    (draft) => draft.symbology.kind === 'plain' && recipe(draft.symbology.settings),
    merge,
  )

function Settings({ layer, prepared }: SettingsProps) {
  const s = layer.symbology.settings as PlainSettings
  const shape = prepared.dataset.geometry.kind
  const fitting = presets.filter((one) => one.shape === shape)
  const current = fitting.find(({ settings }) => JSON.stringify(settings) === JSON.stringify(s))
  return (
    <>
      <Section title="Look">
        <Row label="Made for">
          <Select
            label="Made for"
            value={current?.id ?? ''}
            options={[
              ...(current ? [] : [{ value: '', label: 'a look of its own' }]),
              ...fitting.map(({ id, label }) => ({ value: id, label: label.toLowerCase() })),
            ]}
            onChange={(id) => {
              const preset = presets.find((one) => one.id === id)
              if (preset)
                change(
                  layer,
                  `Look: ${preset.label.toLowerCase()}`,
                  (d) => void Object.assign(d, structuredClone(preset.settings)),
                )
            }}
          />
        </Row>
      </Section>
      {shape !== 'lines' && (
        <Section
          title="Fill"
          aside={
            <Check
              label="Filled"
              checked={s.fill !== null}
              onChange={(on) =>
                change(layer, on ? 'Fill' : 'No fill', (d) => void (d.fill = on ? '#e9e6df' : null))
              }
            />
          }
        >
          {s.fill && (
            <Row label="Colour">
              <ColourField
                label="Fill colour"
                value={s.fill}
                onChange={(colour) => change(layer, 'Fill colour', (d) => void (d.fill = colour), 'fill')}
              />
            </Row>
          )}
          {shape === 'points' && (
            <Row label="Dot">
              <Select
                label="Shape of a dot"
                className="!w-24 shrink-0"
                value={s.dotShape}
                options={plainShapes.map((id) => ({ value: id, label: shapeWords[id] }))}
                onChange={(dotShape) => change(layer, 'Shape of dots', (d) => void (d.dotShape = dotShape))}
              />
              <NumberField
                label="Diameter of a dot"
                value={s.dotPt}
                unit="pt"
                min={0}
                max={60}
                step={0.5}
                onChange={(n) => change(layer, 'Dot size', (d) => void (d.dotPt = n), 'dot')}
              />
            </Row>
          )}
        </Section>
      )}
      <Section title={shape === 'lines' ? 'Line' : 'Outline'}>
        <Row label="Line">
          <ColourField
            label="Line colour"
            value={s.stroke.colour}
            onChange={(colour) =>
              change(layer, 'Line colour', (d) => void (d.stroke.colour = colour), 'line colour')
            }
          />
          <NumberField
            label="Line width"
            value={s.stroke.widthPt}
            unit="pt"
            min={0}
            max={20}
            step={0.1}
            onChange={(n) => change(layer, 'Line width', (d) => void (d.stroke.widthPt = n), 'line width')}
          />
        </Row>
        {shape === 'lines' && (
          <Row label="Casing">
            <Check
              label=""
              checked={s.casing !== null}
              onChange={(on) =>
                change(
                  layer,
                  on ? 'Casing' : 'No casing',
                  (d) => void (d.casing = on ? { colour: '#6b6459', widthPt: 0.4 } : null),
                )
              }
            />
            {s.casing && (
              <>
                <ColourField
                  label="Casing colour"
                  value={s.casing.colour}
                  onChange={(colour) =>
                    change(
                      layer,
                      'Casing colour',
                      (d) => void (d.casing && (d.casing.colour = colour)),
                      'casing colour',
                    )
                  }
                />
                <NumberField
                  label="Casing width"
                  value={s.casing.widthPt}
                  unit="pt"
                  min={0}
                  max={20}
                  step={0.1}
                  onChange={(n) =>
                    change(
                      layer,
                      'Casing width',
                      (d) => void (d.casing && (d.casing.widthPt = n)),
                      'casing width',
                    )
                  }
                />
              </>
            )}
          </Row>
        )}
        <Check
          label="Dashed"
          checked={s.stroke.dashed}
          onChange={(dashed) => change(layer, 'Dashes', (d) => void (d.stroke.dashed = dashed))}
        />
      </Section>
    </>
  )
}

export const plainUi: KindUi = { Picker: () => null, Settings }
