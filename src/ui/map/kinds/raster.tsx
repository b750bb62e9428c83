'use client'
import type { Draft } from 'immer'
import { rasterLooks, type RasterSettings } from '@/core/kinds/raster/spec'
import type { RasterPlan } from '@/core/kinds/raster/plan'
import type { Layer } from '@/core/map/spec'
import { Check, Row, Section, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { ShareSlider } from '../../kit/share-slider'
import { editLayer } from '../edit-map'
import { CellsRow } from './band-rows'
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
  const bandOptions = Array.from({ length: bands }, (_, i) => ({ value: String(i), label: String(i + 1) }))
  return (
    <Section title="Fill">
      <Row label="Shown in">
        <Select
          label="Shown in"
          value={s.look}
          options={rasterLooks
            .filter((look) => look !== 'colours' || bands >= 2)
            .map((value) => ({ value, label: lookWords[value] }))}
          onChange={(look) => change(layer, `Show in ${lookWords[look]}`, (d) => void (d.look = look))}
        />
      </Row>
      {s.look === 'colours' ? (
        <Row label="Red, green, blue">
          {s.colours.map((band, i) => (
            <Select
              key={i}
              label={`Band shown as ${['red', 'green', 'blue'][i]}`}
              value={String(band)}
              options={bandOptions}
              onChange={(next) => change(layer, 'Bands', (d) => void (d.colours[i] = Number(next)))}
            />
          ))}
        </Row>
      ) : (
        bands > 1 && (
          <Row label="Band">
            <Select
              label="Band"
              value={String(s.band)}
              options={bandOptions}
              onChange={(band) => change(layer, 'Band', (d) => void (d.band = Number(band)))}
            />
          </Row>
        )
      )}
      {plan && (
        <>
          <Row label="From, to">
            <NumberField
              label="Lowest value"
              value={s.look === 'colours' ? (s.low ?? 0) : plan.low}
              onChange={(n) => change(layer, 'Lowest value', (d) => void (d.low = n), 'low')}
            />
            <NumberField
              label="Highest value"
              value={s.look === 'colours' ? (s.high ?? 255) : plan.high}
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
      {s.look !== 'colours' && <OpacityRows s={s} layer={layer} />}
      <Row label="Saturation">
        <ShareSlider
          label="Saturation"
          value={s.saturation}
          onChange={(share) => change(layer, 'Saturation', (d) => void (d.saturation = share), 'saturation')}
        />
      </Row>
      <CellsRow cells={s.cells} onChange={(name, recipe, merge) => change(layer, name, recipe, merge)} />
      <Row label="Without value">
        <Select
          label="Cells without a value"
          value={s.empty ? 'coloured' : 'clear'}
          options={[
            { value: 'clear', label: 'clear' },
            { value: 'coloured', label: 'in a colour' },
          ]}
          onChange={(way) =>
            change(layer, 'Cells without a value', (d) => {
              d.empty = way === 'coloured' ? '#d9d9d9' : null
            })
          }
        />
        {s.empty && (
          <ColourField
            label="Colour of cells without a value"
            value={s.empty}
            onChange={(colour) =>
              change(layer, 'Cells without a value', (d) => void (d.empty = colour), 'empty')
            }
          />
        )}
      </Row>
    </Section>
  )
}

/** How opaque cells are, from the lowest value to the highest. */
function OpacityRows({ s: { opacity }, layer }: { s: RasterSettings; layer: Layer }) {
  const set = (part: Partial<NonNullable<RasterSettings['opacity']>>, merge: string) =>
    change(layer, 'Opacity by value', (d) => void (d.opacity && Object.assign(d.opacity, part)), merge)
  return (
    <>
      <Check
        label="Opacity by value"
        checked={opacity !== null}
        onChange={(on) =>
          change(layer, on ? 'Opacity by value' : 'One opacity', (d) => {
            d.opacity = on ? { low: 0, high: 1, bend: 0 } : null
          })
        }
      />
      {opacity && (
        <>
          {(['low', 'high'] as const).map((end) => (
            <Row key={end} label={end === 'low' ? 'Lowest' : 'Highest'}>
              <ShareSlider
                label={`Opacity of the ${end}est values`}
                value={opacity[end]}
                onChange={(share) => set({ [end]: share }, `opacity ${end}`)}
              />
            </Row>
          ))}
          <Row label="Between">
            <ShareSlider
              label="How opacity grows, from late to early"
              value={opacity.bend}
              least={-1}
              onChange={(share) => set({ bend: share }, 'opacity bend')}
            />
          </Row>
        </>
      )}
    </>
  )
}

export const rasterUi: KindUi = { Picker: () => null, Settings }
