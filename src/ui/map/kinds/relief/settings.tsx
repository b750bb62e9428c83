'use client'
import type { ReliefPlan } from '@/core/kinds/relief/plan'
import type { ReliefSettings, Shading } from '@/core/kinds/relief/spec'
import { kindOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/layer-plan'
import { Check, Row, Section, Segments, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import { ShareSlider } from '../../../kit/share-slider'
import { TextField } from '../../../kit/text-field'
import { useDocument } from '../../../shell/folio-store'
import { editingOf, type KindUi, type SettingsProps } from '../kind-ui'
import { ReliefHands } from './hands'
import { SunDial } from './sun-dial'
import { HeightColours, type Inner } from './tints'

/** Light and shade, tints by height, and mist of an elevation model. */
function Settings({ layer, prepared, plan: made }: SettingsProps) {
  const { s, change } = editingOf('relief', layer)
  const plan = made as ReliefPlan
  const bands = prepared.dataset.raster?.bands ?? 1
  const first = () => kindOf('relief').initial(kindData(prepared)) as ReliefSettings
  return (
    <>
      <Section title="Heights">
        <Row label="Unit">
          <TextField
            label="Unit of the heights"
            value={s.unit}
            onChange={(unit) => change('Unit of the heights', (d) => void (d.unit = unit))}
          />
          {bands > 1 && (
            <Select
              label="Band"
              value={String(s.band)}
              options={Array.from({ length: bands }, (_, i) => ({
                value: String(i),
                label: `band ${i + 1}`,
              }))}
              onChange={(band) => change('Band', (d) => void (d.band = Number(band)))}
            />
          )}
        </Row>
        {plan ? (
          <p className="px-1 text-xs text-muted">
            {Math.round(plan.low).toLocaleString('en-GB')} to {Math.round(plan.high).toLocaleString('en-GB')}{' '}
            {s.unit}, cells of{' '}
            {plan.cellM < 1000 ? `${Math.round(plan.cellM)} m` : `${(plan.cellM / 1000).toFixed(1)} km`}
          </p>
        ) : (
          <p className="text-xs text-error">This band has no heights.</p>
        )}
      </Section>
      <Section
        title="Light and shade"
        aside={
          <Check
            label="On"
            checked={s.shading !== null}
            onChange={(on) =>
              change(on ? 'Light and shade' : 'No light and shade', (d) => {
                d.shading = on ? first().shading : null
              })
            }
          />
        }
      >
        {s.shading && <Light s={s} change={change} plan={plan} prepared={prepared} shading={s.shading} />}
      </Section>
      <HeightColours s={s} change={change} plan={plan} prepared={prepared} />
      <Water s={s} change={change} plan={plan} prepared={prepared} />
    </>
  )
}

function Light({ change, shading }: Inner & { shading: Shading }) {
  const set = (name: string, recipe: (draft: Shading) => void, merge?: string) =>
    change(name, (d) => void (d.shading && recipe(d.shading)), merge)
  return (
    <>
      <div className="flex items-center gap-3">
        <SunDial
          azimuthDeg={shading.azimuthDeg}
          altitudeDeg={shading.altitudeDeg}
          onChange={(azimuth, altitude) =>
            set(
              'Move the light',
              (d) => Object.assign(d, { azimuthDeg: azimuth, altitudeDeg: altitude }),
              'light',
            )
          }
        />
        <div className="flex min-w-0 flex-1 flex-col gap-1">
          <div className="flex gap-1">
            <NumberField
              label="Azimuth of the light"
              value={shading.azimuthDeg}
              unit="°"
              min={0}
              max={360}
              step={5}
              decimals={0}
              onChange={(n) => set('Azimuth of the light', (d) => void (d.azimuthDeg = n), 'azimuth')}
            />
            <NumberField
              label="Altitude of the light"
              value={shading.altitudeDeg}
              unit="° high"
              min={1}
              max={90}
              step={5}
              decimals={0}
              onChange={(n) => set('Altitude of the light', (d) => void (d.altitudeDeg = n), 'altitude')}
            />
          </div>
          <Segments
            label="Lights"
            value={shading.lights}
            options={[
              { value: 'one', label: 'One light' },
              { value: 'four', label: 'Four' },
            ]}
            onChange={(lights) => set('Lights', (d) => void (d.lights = lights))}
          />
        </div>
      </div>
      <Row label="Heights">
        <NumberField
          label="Exaggeration"
          value={shading.exaggeration}
          unit="times"
          min={0.01}
          max={1000}
          step={0.5}
          onChange={(n) => set('Exaggeration', (d) => void (d.exaggeration = n), 'exaggeration')}
        />
      </Row>
      <Row label="Fine – broad">
        <ShareSlider
          label="Fine to broad"
          value={shading.broad}
          onChange={(share) => set('Fine to broad', (d) => void (d.broad = share), 'broad')}
        />
      </Row>
      <Row label="Texture">
        <ShareSlider
          label="Texture by local relief"
          value={shading.texture}
          onChange={(share) => set('Texture', (d) => void (d.texture = share), 'texture')}
        />
      </Row>
      <Row label="Steep – faint">
        <ShareSlider
          label="Brightness curve"
          value={shading.curve}
          least={-1}
          onChange={(share) => set('Brightness curve', (d) => void (d.curve = share), 'curve')}
        />
      </Row>
      {(shading.broad > 0 || shading.texture > 0) && (
        <Row label="Broad without">
          <NumberField
            label="What broad shading leaves out"
            value={shading.reachKm}
            unit="km details"
            min={0.001}
            max={5000}
            onChange={(n) => set('Broad shading', (d) => void (d.reachKm = n), 'reach')}
          />
        </Row>
      )}
      <Row label="Soft light">
        <NumberField
          label="Softness of the light"
          value={Math.round(100 * shading.softness)}
          unit="%"
          min={0}
          max={100}
          step={5}
          onChange={(n) => set('Soft light', (d) => void (d.softness = n / 100), 'softness')}
        />
      </Row>
      {(['dark', 'light'] as const).map((side) => (
        <Row key={side} label={side === 'dark' ? 'Shade' : 'Light'}>
          <ColourField
            label={side === 'dark' ? 'Colour of the shade' : 'Colour of the light'}
            value={shading[side].colour}
            onChange={(colour) =>
              set('Colour of the light', (d) => void (d[side].colour = colour), `${side} colour`)
            }
          />
          <NumberField
            label={side === 'dark' ? 'Strength of the shade' : 'Strength of the light'}
            value={Math.round(100 * shading[side].strength)}
            unit="%"
            min={0}
            max={100}
            step={5}
            onChange={(n) => set('Strength of the light', (d) => void (d[side].strength = n / 100), side)}
          />
        </Row>
      ))}
      <Row label="Sides">
        <Select
          label="Colours of the sides"
          value={shading.aspect ? 'own' : 'none'}
          options={[
            { value: 'none', label: 'in the same colour' },
            { value: 'own', label: 'warm in light, cool in shade' },
          ]}
          onChange={(way) =>
            set('Colours of the sides', (d) => {
              d.aspect = way === 'own' ? { warm: '#f2d9a0', cool: '#7f93b4', strength: 0.35 } : null
            })
          }
        />
      </Row>
      {shading.aspect && (
        <Row label="">
          {(['warm', 'cool'] as const).map((side) => (
            <ColourField
              key={side}
              label={side === 'warm' ? 'Colour towards the light' : 'Colour away from the light'}
              value={shading.aspect?.[side] ?? '#ffffff'}
              onChange={(colour) =>
                set('Colours of the sides', (d) => void (d.aspect && (d.aspect[side] = colour)), side)
              }
            />
          ))}
          <NumberField
            label="Strength of the sides"
            value={Math.round(100 * shading.aspect.strength)}
            unit="%"
            min={0}
            max={100}
            step={5}
            onChange={(n) =>
              set('Colours of the sides', (d) => void (d.aspect && (d.aspect.strength = n / 100)), 'sides')
            }
          />
        </Row>
      )}
    </>
  )
}

/** What lies no higher than a height, and lakes of another dataset, in one colour. */
function Water({ s, change, prepared }: Inner) {
  const { datasets } = useDocument()
  const { water } = s
  const set = (name: string, recipe: (draft: NonNullable<ReliefSettings['water']>) => void, merge?: string) =>
    change(name, (d) => void (d.water && recipe(d.water)), merge)
  const areas = datasets.filter(({ id, geometry }) => id !== prepared.entry.id && geometry === 'areas')
  return (
    <Section
      title="Water"
      aside={
        <Check
          label="On"
          checked={water !== null}
          onChange={(on) =>
            change(on ? 'Water in one colour' : 'No water', (d) => {
              d.water = on ? { colour: '#c9dbe4', upTo: null, datasetId: null } : null
            })
          }
        />
      }
    >
      {water && (
        <>
          <Row label="Colour">
            <ColourField
              label="Colour of the water"
              value={water.colour}
              onChange={(colour) => set('Colour of the water', (d) => void (d.colour = colour), 'water')}
            />
          </Row>
          <Row label="Lakes of">
            <Select
              label="Lakes of"
              value={water.datasetId ?? ''}
              options={[
                { value: '', label: 'no dataset' },
                ...areas.map(({ id, name }) => ({ value: id, label: name })),
              ]}
              onChange={(id) => set('Lakes', (d) => void (d.datasetId = id || null))}
            />
          </Row>
          <Row label="All land">
            <Select
              label="Land that is water"
              value={water.upTo === null ? 'none' : 'low'}
              options={[
                { value: 'none', label: 'stays land' },
                { value: 'low', label: 'is water up to' },
              ]}
              onChange={(way) => set('Water by height', (d) => void (d.upTo = way === 'low' ? 0 : null))}
            />
            {water.upTo !== null && (
              <NumberField
                label="Water up to"
                value={water.upTo}
                unit={s.unit}
                step={1}
                onChange={(n) => set('Water by height', (d) => void (d.upTo = n), 'shore')}
              />
            )}
          </Row>
        </>
      )}
    </Section>
  )
}

export const reliefUi: KindUi = { Picker: () => null, Settings, Hands: ReliefHands }
