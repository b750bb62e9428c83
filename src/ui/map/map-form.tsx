'use client'
import type { Draft } from 'immer'
import { memo, useDeferredValue } from 'react'
import { shallow } from 'zustand/shallow'
import type { Prepared } from '@/core/data/prepare'
import { intervals, plainGraticule, type Graticule } from '@/core/map/graticule/spec'
import type { MapSpec } from '@/core/map/spec'
import { Check, Row, Select } from '../kit/controls'
import { ColourField } from '../kit/colour-field'
import { NumberField } from '../kit/number-field'
import { Popover } from '../kit/popover'
import { editMap } from './edit-map'
import { ProjectionPicker } from './projection-picker'

type Props = { map: MapSpec; all: Map<string, Prepared> }

/** What a map has beneath and around its layers: ground, sea and land, graticule, projection. */
export function MapForm({ map, all }: Props) {
  // What is moved in a layer's settings moves at once; this form, which hardly says anything of layers, follows.
  const layers = useDeferredValue(map.layers)
  return <Settled map={{ ...map, layers }} all={all} />
}

const Settled = memo(function Settled({ map, all }: Props) {
  const areas = [...all.values()].filter(({ dataset }) => dataset.geometry.kind === 'areas')
  return (
    <section
      aria-label="Map"
      className="flex shrink-0 flex-col gap-0.5 border-t border-line bg-base-200 px-3 py-1.5 [&_.control]:!h-6 [&>div]:!min-h-6"
    >
      <Row label="Ground">
        <ColourField
          label="Background colour"
          value={map.background}
          onChange={(colour) =>
            editMap(map.id, 'Background colour', (draft) => void (draft.background = colour), 'background')
          }
        />
      </Row>
      <Row label="Sea, land">
        <Popover
          label="Sea and land"
          align="end"
          side="top"
          className="w-72"
          trigger={
            <button
              type="button"
              aria-label={`Sea and land: ${tinted(map)}`}
              className="control w-full text-left"
            >
              {tinted(map)}
            </button>
          }
        >
          <Row label="Sea">
            <Check
              label=""
              checked={map.sea !== null}
              onChange={(on) =>
                editMap(
                  map.id,
                  on ? 'Tint the sea' : 'No tint of the sea',
                  (draft) => void (draft.sea = on ? '#dfe8ee' : null),
                )
              }
            />
            {map.sea && (
              <ColourField
                label="Tint of the sea"
                value={map.sea}
                onChange={(colour) =>
                  editMap(map.id, 'Tint of the sea', (draft) => void (draft.sea = colour), 'sea')
                }
              />
            )}
          </Row>
          <p className="mb-1 text-xs text-muted">The whole globe within its edge, over the ground.</p>
          <Row label="Land">
            <Select
              label="Land"
              value={map.land?.datasetId ?? ''}
              options={[
                { value: '', label: 'none' },
                ...areas.map(({ entry }) => ({ value: entry.id, label: entry.name })),
              ]}
              onChange={(datasetId) =>
                editMap(
                  map.id,
                  datasetId ? 'Tint the land' : 'No tint of the land',
                  (draft) =>
                    void (draft.land = datasetId
                      ? { datasetId, colour: draft.land?.colour ?? '#f3efe4' }
                      : null),
                )
              }
            />
          </Row>
          {map.land && (
            <Row label="Its tint">
              <ColourField
                label="Tint of the land"
                value={map.land.colour}
                onChange={(colour) =>
                  editMap(
                    map.id,
                    'Tint of the land',
                    (draft) => void (draft.land && (draft.land.colour = colour)),
                    'land',
                  )
                }
              />
            </Row>
          )}
        </Popover>
      </Row>
      <Row label="Graticule">
        <GraticulePicker map={map} />
      </Row>
      <Row label="Projection">
        <ProjectionPicker map={map} all={all} />
      </Row>
    </section>
  )
}, alike)

function alike(one: Props, other: Props): boolean {
  return one.all === other.all && shallow(one.map, other.map)
}

function tinted({ sea, land }: MapSpec): string {
  if (sea && land) return 'both tinted'
  const tint = sea ? 'sea' : 'land'
  return sea || land ? `${tint} tinted` : 'not tinted'
}

const words = (graticule: Graticule | null): string =>
  graticule
    ? `${graticule.everyDeg === null ? 'by the scale' : `every ${graticule.everyDeg}°`}${graticule.labels ? '' : ', no degrees'}`
    : 'none'

function GraticulePicker({ map }: { map: MapSpec }) {
  const { graticule } = map
  const change = (name: string, recipe: (draft: Draft<Graticule>) => void, merge?: string) =>
    editMap(map.id, name, (draft) => draft.graticule && recipe(draft.graticule), merge)
  return (
    <Popover
      label="Graticule"
      align="end"
      side="top"
      className="w-72"
      trigger={
        <button
          type="button"
          aria-label={`Graticule: ${words(graticule)}`}
          className="control w-full truncate text-left"
        >
          {words(graticule)}
        </button>
      }
    >
      <Check
        label="Lines of longitude and latitude"
        checked={graticule !== null}
        onChange={(on) =>
          editMap(
            map.id,
            on ? 'Graticule' : 'No graticule',
            (draft) => void (draft.graticule = on ? plainGraticule() : null),
          )
        }
      />
      {graticule && (
        <>
          <Row label="Every">
            <Select
              label="Interval of the graticule"
              value={graticule.everyDeg === null ? '' : String(graticule.everyDeg)}
              options={[
                { value: '', label: 'by the scale' },
                ...[...new Set([...intervals, ...(graticule.everyDeg === null ? [] : [graticule.everyDeg])])]
                  .sort((a, b) => b - a)
                  .map((n) => ({ value: String(n), label: `${n}°` })),
              ]}
              onChange={(value) =>
                change('Interval of the graticule', (d) => void (d.everyDeg = value ? Number(value) : null))
              }
            />
            {graticule.everyDeg !== null && (
              <NumberField
                label="Degrees between lines"
                value={graticule.everyDeg}
                unit="°"
                min={0.01}
                max={90}
                step={1}
                onChange={(n) =>
                  change('Interval of the graticule', (d) => void (d.everyDeg = n), 'interval')
                }
              />
            )}
          </Row>
          <Row label="Lines">
            <ColourField
              label="Colour of the graticule"
              value={graticule.colour}
              onChange={(colour) =>
                change('Colour of the graticule', (d) => void (d.colour = colour), 'colour')
              }
            />
            <NumberField
              label="Width of the graticule"
              value={graticule.widthPt}
              unit="pt"
              min={0.05}
              max={10}
              step={0.1}
              onChange={(n) => change('Width of the graticule', (d) => void (d.widthPt = n), 'width')}
            />
          </Row>
          <div className="grid grid-cols-2">
            <Check
              label="Dashed"
              checked={graticule.dashed}
              onChange={(dashed) => change('Dashes', (d) => void (d.dashed = dashed))}
            />
            <Check
              label="Over the layers"
              checked={graticule.over}
              onChange={(over) => change('Place of the graticule', (d) => void (d.over = over))}
            />
          </div>
          <Check
            label="Degrees at the edge"
            checked={graticule.labels !== null}
            onChange={(on) =>
              change(
                on ? 'Degrees' : 'No degrees',
                (d) => void (d.labels = on ? plainGraticule().labels : null),
              )
            }
          />
          {graticule.labels && (
            <Row label="Degrees">
              <ColourField
                label="Colour of the degrees"
                value={graticule.labels.colour}
                onChange={(colour) =>
                  change(
                    'Colour of the degrees',
                    (d) => void (d.labels && (d.labels.colour = colour)),
                    'degrees',
                  )
                }
              />
              <NumberField
                label="Size of the degrees"
                value={graticule.labels.sizePt}
                unit="pt"
                min={3}
                max={30}
                step={0.5}
                onChange={(n) =>
                  change('Size of the degrees', (d) => void (d.labels && (d.labels.sizePt = n)), 'size')
                }
              />
            </Row>
          )}
        </>
      )}
    </Popover>
  )
}
