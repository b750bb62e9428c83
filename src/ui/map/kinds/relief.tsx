'use client'
import { Plus, Trash2 } from 'lucide-react'
import type { ReliefPlan } from '@/core/kinds/relief/plan'
import { mostStops, type ReliefSettings, type Shading } from '@/core/kinds/relief/spec'
import { readyTints, stopsOf } from '@/core/kinds/relief/tints'
import { kindOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/layer-plan'
import { Button, Check, IconButton, Row, Section, Segments, Select } from '../../kit/controls'
import { ColourField } from '../../kit/colour-field'
import { NumberField } from '../../kit/number-field'
import { TextField } from '../../kit/text-field'
import { editingOf, type Change, type KindUi, type SettingsProps } from './kind-ui'
import { SunDial } from './sun-dial'

type Inner = { s: ReliefSettings; change: Change<ReliefSettings>; plan: ReliefPlan }

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
        {s.shading && <Light s={s} change={change} plan={plan} shading={s.shading} />}
      </Section>
      <Section
        title="Tints by height"
        aside={
          <Check
            label="On"
            checked={s.tints !== null}
            onChange={(on) =>
              change(on ? 'Tints by height' : 'No tints', (d) => void (d.tints = on ? first().tints : null))
            }
          />
        }
      >
        {s.tints && plan && <Tints s={s} change={change} plan={plan} tints={s.tints} />}
      </Section>
      <Mist s={s} change={change} plan={plan} />
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
        <input
          type="range"
          aria-label="Fine to broad"
          className="range range-xs flex-1"
          min={0}
          max={100}
          value={Math.round(100 * shading.broad)}
          onChange={(event) =>
            set('Fine to broad', (d) => void (d.broad = Number(event.target.value) / 100), 'broad')
          }
        />
      </Row>
      {shading.broad > 0 && (
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
    </>
  )
}

type ReadyTints = keyof typeof readyTints

function Tints({
  s,
  change,
  plan,
  tints,
}: Inner & { plan: NonNullable<ReliefPlan>; tints: NonNullable<ReliefSettings['tints']> }) {
  const set = (name: string, recipe: (draft: NonNullable<ReliefSettings['tints']>) => void, merge?: string) =>
    change(name, (d) => void (d.tints && recipe(d.tints)), merge)
  return (
    <>
      <Row label="Ready ones">
        <Select
          label="Ready tints"
          value=""
          options={[
            { value: '', label: 'Take …' },
            ...(Object.keys(readyTints) as ReadyTints[]).map((value) => ({ value, label: value })),
          ]}
          onChange={(name) =>
            name &&
            set(`Tints ${name}`, (d) => {
              d.stops = stopsOf(readyTints[name as ReadyTints], plan.low, plan.high)
            })
          }
        />
      </Row>
      <Check
        label="In steps"
        checked={tints.stepped}
        onChange={(on) => set(on ? 'Tints in steps' : 'Smooth tints', (d) => void (d.stepped = on))}
      />
      {tints.stops.map(({ at, colour }, i) => (
        <div key={i} className="flex items-center gap-1">
          <span className="w-[92px] shrink-0">
            <NumberField
              label={`Height of tint ${i + 1}`}
              value={at}
              unit={s.unit}
              step={50}
              onChange={(n) => set('Height of a tint', (d) => void (d.stops[i].at = n), `at ${i}`)}
            />
          </span>
          <ColourField
            label={`Colour of tint ${i + 1}`}
            value={colour}
            onChange={(next) => set('Colour of a tint', (d) => void (d.stops[i].colour = next), `tint ${i}`)}
          />
          <IconButton
            label={`Remove tint ${i + 1}`}
            disabled={tints.stops.length < 2}
            onClick={() => set('Remove a tint', (d) => void d.stops.splice(i, 1))}
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
      {tints.stops.length < mostStops && (
        <Button
          look="quiet"
          onClick={() =>
            set('Add a tint', (d) => {
              const last = d.stops[d.stops.length - 1]
              d.stops.push({ ...last, at: last.at + 100 })
            })
          }
        >
          <Plus size={14} aria-hidden /> Tint
        </Button>
      )}
    </>
  )
}

function Mist({ s, change, plan }: Inner) {
  const { mist } = s
  const set = (name: string, recipe: (draft: NonNullable<ReliefSettings['mist']>) => void, merge?: string) =>
    change(name, (d) => void (d.mist && recipe(d.mist)), merge)
  const span = plan ? plan.high - plan.low : 100
  return (
    <Section
      title="Mist"
      aside={
        <Check
          label="On"
          checked={mist !== null}
          onChange={(on) =>
            change(on ? 'Mist' : 'No mist', (d) => {
              d.mist = on
                ? {
                    colour: '#ffffff',
                    opacity: 0.5,
                    foot: Math.round(plan?.low ?? 0),
                    reach: Math.max(1, Math.round(span / 4)),
                  }
                : null
            })
          }
        />
      }
    >
      {mist && (
        <>
          <Row label="Thick up to">
            <NumberField
              label="Foot of the mist"
              value={mist.foot}
              unit={s.unit}
              step={10}
              onChange={(n) => set('Foot of the mist', (d) => void (d.foot = n), 'foot')}
            />
          </Row>
          <Row label="Gone after">
            <NumberField
              label="Reach of the mist"
              value={mist.reach}
              unit={s.unit}
              min={0.001}
              step={10}
              onChange={(n) => set('Reach of the mist', (d) => void (d.reach = n), 'reach')}
            />
          </Row>
          <Row label="Colour">
            <ColourField
              label="Colour of the mist"
              value={mist.colour}
              onChange={(colour) => set('Colour of the mist', (d) => void (d.colour = colour), 'mist colour')}
            />
            <NumberField
              label="Thickness of the mist"
              value={Math.round(100 * mist.opacity)}
              unit="%"
              min={0}
              max={100}
              step={5}
              onChange={(n) => set('Thickness of the mist', (d) => void (d.opacity = n / 100), 'mist')}
            />
          </Row>
        </>
      )}
    </Section>
  )
}

export const reliefUi: KindUi = { Picker: () => null, Settings }
