'use client'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { computedIds, maxClasses, methods, minClasses, type MethodId } from '@/core/classify/classify'
import type { Raster } from '@/core/data/raster'
import { kindOf } from '@/core/kinds/registry'
import type { ReliefPlan } from '@/core/kinds/relief/plan'
import type { ReliefSettings } from '@/core/kinds/relief/spec'
import { stopsByClasses } from '@/core/kinds/relief/classed'
import { readyTints, stopsOf } from '@/core/kinds/relief/tints'
import { kindData } from '@/core/map/layer-plan'
import type { Prepared } from '@/core/data/prepare'
import { Check, IconButton, Row, Section, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { NumberField } from '../../../kit/number-field'
import type { Change } from '../kind-ui'
import { TintBar } from './tint-bar'

/** Those that need no neighbours of areas. */
const forCells = computedIds.filter((id) => id !== 'boundary-error')

type ReadyTints = keyof typeof readyTints
type Tints = NonNullable<ReliefSettings['tints']>
type Mist = NonNullable<ReliefSettings['mist']>
export type Inner = {
  s: ReliefSettings
  change: Change<ReliefSettings>
  plan: ReliefPlan
  prepared: Prepared
}

/** Tints by height and mist, on one bar under the heights that there are. */
export function HeightColours({ s, change, plan, prepared }: Inner) {
  const [chosen, setChosen] = useState(0)
  const { tints, mist } = s
  const set = (name: string, recipe: (draft: Tints) => void, merge?: string) =>
    change(name, (d) => void (d.tints && recipe(d.tints)), merge)
  const setMist = (name: string, recipe: (draft: Mist) => void, merge?: string) =>
    change(name, (d) => void (d.mist && recipe(d.mist)), merge)
  const first = () => kindOf('relief').initial(kindData(prepared)) as ReliefSettings
  const stop = tints?.stops[Math.min(chosen, tints.stops.length - 1)]
  const index = tints ? Math.min(chosen, tints.stops.length - 1) : 0
  const { raster } = prepared.dataset
  const span = plan ? plan.high - plan.low : 100
  return (
    <Section
      title="Tints and mist"
      aside={
        <span className="flex gap-3">
          <Check
            label="Tints"
            checked={tints !== null}
            onChange={(on) =>
              change(on ? 'Tints by height' : 'No tints', (d) => void (d.tints = on ? first().tints : null))
            }
          />
          <Check
            label="Mist"
            checked={mist !== null}
            onChange={(on) =>
              change(on ? 'Mist' : 'No mist', (d) => {
                const reach = Math.max(1, Math.round(span / 4))
                const foot = Math.round(plan?.low ?? 0)
                d.mist = on ? { colour: '#ffffff', opacity: 0.5, foot, reach } : null
              })
            }
          />
        </span>
      }
    >
      {plan && (tints || mist) && (
        <TintBar
          plan={plan}
          tints={tints}
          mist={mist}
          unit={s.unit}
          chosen={index}
          onChoose={setChosen}
          onStop={(i, at) => set('Height of a tint', (d) => void (d.stops[i].at = at), `at ${i}`)}
          onAdd={(added) => {
            setChosen(tints?.stops.length ?? 0)
            set('Add a tint', (d) => void d.stops.push(added))
          }}
          onMist={(foot, reach) => setMist('Mist', (d) => void Object.assign(d, { foot, reach }), 'mist')}
        />
      )}
      {tints && stop && (
        <>
          <div className="flex items-center gap-1">
            <span className="w-[92px] shrink-0">
              <NumberField
                label={`Height of tint ${index + 1}`}
                value={stop.at}
                unit={s.unit}
                step={10}
                onChange={(n) => set('Height of a tint', (d) => void (d.stops[index].at = n), `at ${index}`)}
              />
            </span>
            <ColourField
              label={`Colour of tint ${index + 1}`}
              value={stop.colour}
              onChange={(next) =>
                set('Colour of a tint', (d) => void (d.stops[index].colour = next), `tint ${index}`)
              }
            />
            <span className="w-[70px] shrink-0">
              <NumberField
                label={`Opacity of tint ${index + 1}`}
                value={Math.round(100 * stop.opacity)}
                unit="%"
                min={0}
                max={100}
                step={5}
                onChange={(n) =>
                  set('Opacity of a tint', (d) => void (d.stops[index].opacity = n / 100), `clear ${index}`)
                }
              />
            </span>
          </div>
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
                plan &&
                set(`Tints ${name}`, (d) => {
                  d.stops = stopsOf(readyTints[name as ReadyTints], plan.low, plan.high)
                })
              }
            />
            <IconButton
              label={`Remove tint ${index + 1}`}
              disabled={tints.stops.length < 2}
              onClick={() => set('Remove a tint', (d) => void d.stops.splice(index, 1))}
            >
              <Trash2 size={14} />
            </IconButton>
          </Row>
          {tints.stepped && raster && <StepsBy tints={tints} raster={raster} band={s.band} set={set} />}
          <div className="flex gap-4">
            <Check
              label="In steps"
              checked={tints.stepped}
              onChange={(on) => set(on ? 'Tints in steps' : 'Smooth tints', (d) => void (d.stepped = on))}
            />
            <Check
              label="By what is in view"
              checked={tints.inView}
              onChange={(on) =>
                set(on ? 'Tints by what is in view' : 'Tints by height', (d) => void (d.inView = on))
              }
            />
          </div>
        </>
      )}
      {mist && (
        <>
          <Row label="Mist up to">
            <NumberField
              label="Foot of the mist"
              value={mist.foot}
              unit={s.unit}
              step={10}
              onChange={(n) => setMist('Foot of the mist', (d) => void (d.foot = n), 'foot')}
            />
            <NumberField
              label="Reach of the mist"
              value={mist.reach}
              unit={`${s.unit} more`}
              min={0.001}
              step={10}
              onChange={(n) => setMist('Reach of the mist', (d) => void (d.reach = n), 'reach')}
            />
          </Row>
          <Row label="Mist colour">
            <ColourField
              label="Colour of the mist"
              value={mist.colour}
              onChange={(colour) =>
                setMist('Colour of the mist', (d) => void (d.colour = colour), 'mist colour')
              }
            />
            <NumberField
              label="Thickness of the mist"
              value={Math.round(100 * mist.opacity)}
              unit="%"
              min={0}
              max={100}
              step={5}
              onChange={(n) => setMist('Thickness of the mist', (d) => void (d.opacity = n / 100), 'thick')}
            />
          </Row>
        </>
      )}
    </Section>
  )
}

/** Steps at the ends of classes, by any method of the class bench; from there on they are dragged. */
function StepsBy({
  tints: { stops },
  raster,
  band,
  set,
}: {
  tints: Tints
  raster: Raster
  band: number
  set: (name: string, recipe: (draft: Tints) => void, merge?: string) => void
}) {
  const [method, setMethod] = useState<MethodId | ''>('')
  const take = (by: MethodId, classes: number) => {
    const made = stopsByClasses(raster, { band, method: by, classes }, stops)
    if (made) set(`Steps by ${methods[by].label}`, (d) => void (d.stops = made), 'steps by')
  }
  return (
    <Row label="Steps by">
      <Select
        label="Method for steps"
        value={method}
        options={[
          ...(method ? [] : [{ value: '', label: 'Take …' }]),
          ...forCells.map((value) => ({ value, label: methods[value].label })),
        ]}
        onChange={(next) => {
          if (!next) return
          setMethod(next as MethodId)
          take(next as MethodId, Math.min(maxClasses, Math.max(minClasses, stops.length)))
        }}
      />
      <span className="w-[44px] shrink-0">
        <NumberField
          label="How many steps"
          value={stops.length}
          min={minClasses}
          max={maxClasses}
          step={1}
          onChange={(count) => take(method || 'natural-breaks', count)}
        />
      </span>
    </Row>
  )
}
