'use client'
import { Columns2, Maximize, Plus, Snowflake, Trash2, Waves } from 'lucide-react'
import type { Draft } from 'immer'
import { changesOf } from '@/core/map/changes'
import type { MapSpec } from '@/core/map/spec'
import { turnToFit } from '@/core/map/turn-to-fit'
import { hasOwnPlaces } from '@/core/map/fit-made'
import { fitMap, nextRoundScale, roundScale } from '@/core/map/view'
import { vantageView } from '@/core/map/vantage'
import { panelsOf, panelView, type PanelPart } from '@/core/sheet/panel-view'
import type { PanelSettings } from '@/core/sheet/parts/panel/spec'
import type { Sheet } from '@/core/sheet/spec'
import { againstWords } from '../../../compare/against'
import { CompareMenu } from '../../../compare/menu'
import { useComparing } from '../../../compare/store'
import { Button, Check, IconButton, Row, Section, Select } from '../../../kit/controls'
import { ColourField } from '../../../kit/colour-field'
import { Fold } from '../../../kit/fold'
import { NumberField } from '../../../kit/number-field'
import { Ticks } from '../../../kit/ticks'
import { usePrepared } from '../../../shell/contents'
import { folioNow, useDocument } from '../../../shell/folio-store'
import { ask } from '@/workers/client'
import { settingsChanger, type ChangeSettings } from '../../edit-sheet'
import type { FormProps } from '../face'
import { FitRows } from './fit-rows'
import { MorePanels } from './more-panels'
import { ProjectionRow } from './projection-row'
import { PanelShapeForm } from './shape-form'

type Change = ChangeSettings<'panel'>
type Inner = { sheet: Sheet; part: PanelPart; change: Change; map: MapSpec | null }

/** What a panel shows, in which view and form. */
export function PanelForm({ sheet, part }: FormProps<'panel'>) {
  const { maps } = useDocument()
  const datasets = usePrepared()
  const change = settingsChanger(sheet.id, part)
  const map = panelView(part, sheet, { maps, datasets })?.map ?? null
  const inner = { sheet, part, change, map }
  return (
    <>
      <ShownForm {...inner} />
      <ViewForm {...inner} />
      <PanelShapeForm sheet={sheet} part={part} change={change} />
      <FootprintForm {...inner} />
      {map && <MorePanels sheet={sheet} part={part} map={map} />}
    </>
  )
}

const dayOf = (at: string): string =>
  new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })

/** Which map, as it is now or as it was, and which of its layers. */
function ShownForm({ part, change, map }: Inner) {
  const { maps } = useDocument()
  const { mapId, frozen, hiddenLayers } = part.settings
  const whole = frozen?.map ?? maps.find(({ id }) => id === mapId)
  const now = maps.find(({ id }) => id === frozen?.map.id)
  const changes = frozen && now ? changesOf(frozen.map, now) : []
  const hidden = whole?.layers.filter(({ id }) => hiddenLayers.includes(id)).length ?? 0
  const against = useComparing((state) => state.against[part.id] ?? null)
  const compared = against && map ? againstWords(against, map, maps) : null
  return (
    <Section title="Shows">
      <Row label="Map">
        <Select
          label="Map"
          value={mapId ?? ''}
          options={[
            ...(mapId === null || !map ? [{ value: '', label: 'none yet' }] : []),
            ...maps.map((m) => ({ value: m.id, label: m.name })),
          ]}
          onChange={(id) =>
            change('Show another map', (s) =>
              Object.assign(s, { mapId: id || null, frozen: null, hiddenLayers: [] }),
            )
          }
        />
      </Row>
      {whole && (
        <Row label={frozen ? 'Frozen' : 'Follows'}>
          {frozen ? (
            <Button
              title={changes.length ? `It will show the map ${changes.join('; ')}.` : undefined}
              onClick={() => change('Let the panel follow', (s) => void (s.frozen = null))}
            >
              <Waves size={14} aria-hidden /> Let follow again
            </Button>
          ) : (
            <Button
              onClick={() =>
                change('Freeze the panel', (s) => {
                  s.frozen = { at: new Date().toISOString(), map: structuredClone(whole) as Draft<MapSpec> }
                })
              }
            >
              <Snowflake size={14} aria-hidden /> Freeze as it is
            </Button>
          )}
        </Row>
      )}
      {frozen && (
        <p className="text-xs text-muted">
          Frozen on {dayOf(frozen.at)}
          {hidden > 0 && `, ${hidden} ${hidden === 1 ? 'layer' : 'layers'} hidden`}.{' '}
          {!now && 'The map itself is gone. '}Rows still follow the data.{' '}
          {now &&
            (changes.length
              ? `Following again it shows ${changes.join('; ')}.`
              : 'Nothing has changed since.')}
        </p>
      )}
      {map && (
        <Row label="Compare">
          <CompareMenu
            id={part.id}
            map={map}
            trigger={
              <Button className="w-full min-w-0">
                <Columns2 size={14} className="shrink-0" aria-hidden />
                <span className="truncate">{compared ?? 'across a divider'}</span>
              </Button>
            }
          />
        </Row>
      )}
      {whole && <LayersOfPanel whole={whole} hiddenLayers={hiddenLayers} hidden={hidden} change={change} />}
    </Section>
  )
}

function LayersOfPanel({
  whole,
  hiddenLayers,
  hidden,
  change,
}: {
  whole: MapSpec
  hiddenLayers: string[]
  hidden: number
  change: Change
}) {
  return (
    <Ticks
      title="Layers of this panel"
      aside={hidden ? `${hidden} hidden` : 'all'}
      items={whole.layers.map(({ id, name }) => ({ id, name }))}
      ticked={(id) => !hiddenLayers.includes(id)}
      onTick={(id, on) =>
        change(on ? 'Show a layer here' : 'Hide a layer here', (s) => {
          s.hiddenLayers = on ? s.hiddenLayers.filter((one) => one !== id) : [...s.hiddenLayers, id]
        })
      }
    />
  )
}

/** Scale, centre and turn, of its own or another panel's. */
function ViewForm({ sheet, part, change, map }: Inner) {
  const datasets = usePrepared()
  const { view, sameScaleAs, samePlaceAs } = part.settings
  const { maps } = useDocument()
  const shown = panelView(part, sheet, { maps, datasets })?.view ?? view
  const others = panelsOf(sheet).filter(({ id }) => id !== part.id)
  const fit = async () => {
    // Areas that find places of their own do not lie where the ground does.
    const { width, height } = part.box
    const made =
      map && hasOwnPlaces(map, datasets)
        ? await ask(folioNow(), (worker) => worker.fitShapes(map, { width, height })).catch(() => null)
        : null
    const fitted = made ?? (map && fitMap(map, datasets, part.box))
    if (fitted)
      change('Fit to the map', (s) => {
        s.view = { ...fitted, scaleDenominator: roundScale(fitted.scaleDenominator) }
      })
  }
  const goTo = (id: string) => {
    const vantage = map?.vantages.find((one) => one.id === id)
    const to = vantage && map && vantageView(vantage, map, part.box)
    if (!to) return
    const scaleDenominator = vantage.of.by === 'view' ? to.scaleDenominator : roundScale(to.scaleDenominator)
    change(`Vantage ${vantage.name}`, (s) => void (s.view = { ...to, scaleDenominator }))
  }
  const turnTo = (layerId: string) => {
    const to = map && turnToFit(map, layerId, datasets, part.box)
    if (to)
      change('Turn to fit', (s) => {
        s.view = { ...to, scaleDenominator: roundScale(to.scaleDenominator) }
      })
  }
  const asOther = (key: 'sameScaleAs' | 'samePlaceAs', words: string) => (id: string) =>
    change(words, (s) => void (s[key] = id || null))
  const options = [
    { value: '', label: 'its own' },
    ...others.map(({ id, name }) => ({ value: id, label: `as ${name}` })),
  ]
  return (
    <Section title="View">
      <Row label="Scale">
        <span className="text-xs text-muted">1 :</span>
        <NumberField
          label="Scale, 1 to"
          value={shown.scaleDenominator}
          min={100}
          max={1e9}
          step={50_000}
          decimals={0}
          disabled={sameScaleAs !== null}
          onChange={(n) => change('Scale', (s) => void (s.view.scaleDenominator = n), 'scale')}
        />
        <IconButton
          label="Round the scale"
          disabled={sameScaleAs !== null}
          onClick={() =>
            change('Round the scale', (s) => {
              s.view.scaleDenominator = nextRoundScale(s.view.scaleDenominator)
            })
          }
        >
          ≈
        </IconButton>
      </Row>
      <Row label="Centre">
        <NumberField
          label="Longitude of the centre"
          value={shown.centre[0]}
          unit="°"
          min={-180}
          max={180}
          step={0.1}
          decimals={3}
          disabled={samePlaceAs !== null}
          onChange={(n) => change('Centre', (s) => void (s.view.centre[0] = n), 'lon')}
        />
        <NumberField
          label="Latitude of the centre"
          value={shown.centre[1]}
          unit="°"
          min={-90}
          max={90}
          step={0.1}
          decimals={3}
          disabled={samePlaceAs !== null}
          onChange={(n) => change('Centre', (s) => void (s.view.centre[1] = n), 'lat')}
        />
      </Row>
      <Row label="Map turned">
        <NumberField
          label="Map turned clockwise"
          value={shown.turnDeg ?? 0}
          unit="°"
          min={-180}
          max={180}
          step={1}
          decimals={1}
          disabled={samePlaceAs !== null}
          onChange={(n) => change('Turn the map', (s) => void (s.view.turnDeg = n || undefined), 'turn map')}
        />
        {map && (
          <Select
            label="Turn to fit a layer"
            value=""
            options={[
              { value: '', label: 'turn to fit…' },
              ...map.layers.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onChange={turnTo}
          />
        )}
      </Row>
      {map && map.stretchedBy === null && (
        <ProjectionRow own={part.settings.projection} map={map} centre={shown.centre} change={change} />
      )}
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
      {others.length > 0 && (
        <Row label="Scale, place">
          <Select
            label="Same scale as"
            value={sameScaleAs ?? ''}
            options={options}
            onChange={asOther('sameScaleAs', 'Same scale')}
          />
          <Select
            label="Same place as"
            value={samePlaceAs ?? ''}
            options={options}
            onChange={asOther('samePlaceAs', 'Same place')}
          />
        </Row>
      )}
      <Button onClick={() => void fit()}>
        <Maximize size={14} /> Fit to the thematic layer
      </Button>
      {map && <FitRows map={map} box={part.box} turnDeg={shown.turnDeg} change={change} />}
      <p className="text-xs text-muted">Double click the panel to pan, zoom and turn inside it.</p>
    </Section>
  )
}

/** The outlines of other panels that are drawn in this one. */
function FootprintForm({ sheet, part, change }: Inner) {
  const { footprints } = part.settings
  const others = panelsOf(sheet).filter(({ id }) => id !== part.id)
  const free = others.filter(({ id }) => !footprints.some(({ panelId }) => panelId === id))
  if (!others.length) return null
  const set = (
    i: number,
    recipe: (one: Draft<PanelSettings['footprints'][number]>) => void,
    merge?: string,
  ) => change('Footprint', (s) => recipe(s.footprints[i]), merge && `footprint ${i} ${merge}`)
  return (
    <Fold title="Footprints of other panels" aside={footprints.length ? String(footprints.length) : ''}>
      {footprints.map((one, i) => (
        <div key={one.panelId} className="flex flex-col gap-1 border-b border-line pb-1.5">
          <Row label="Of">
            <Select
              label="Footprint of"
              value={one.panelId}
              options={others.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={(id) => set(i, (f) => void (f.panelId = id))}
            />
            <IconButton
              label="Remove footprint"
              onClick={() => change('Remove footprint', (s) => void s.footprints.splice(i, 1))}
            >
              <Trash2 size={14} />
            </IconButton>
          </Row>
          <Row label="Line">
            <ColourField
              label="Colour of the footprint"
              value={one.colour}
              onChange={(colour) => set(i, (f) => void (f.colour = colour), 'colour')}
            />
            <NumberField
              label="Width of the footprint's line"
              value={one.widthPt}
              unit="pt"
              min={0}
              max={20}
              step={0.25}
              onChange={(n) => set(i, (f) => void (f.widthPt = n), 'width')}
            />
          </Row>
          <Row label="Filled">
            <NumberField
              label="Opacity of the footprint's fill"
              value={one.fill === null ? 0 : one.fillOpacity * 100}
              unit="%"
              min={0}
              max={100}
              step={5}
              decimals={0}
              onChange={(n) =>
                set(
                  i,
                  (f) =>
                    Object.assign(f, { fill: n > 0 ? (f.fill ?? f.colour) : null, fillOpacity: n / 100 }),
                  'fill',
                )
              }
            />
          </Row>
          <Check
            label="Lines to the panel’s corners"
            checked={one.joined}
            onChange={(joined) => set(i, (f) => void (f.joined = joined))}
          />
        </div>
      ))}
      {free.length > 0 && (
        <Button
          onClick={() =>
            change('Add footprint', (s) => {
              s.footprints.push({
                panelId: free[0].id,
                fill: null,
                fillOpacity: 0.2,
                colour: '#1b1b1b',
                widthPt: 0.75,
                joined: false,
              })
            })
          }
        >
          <Plus size={14} aria-hidden /> Footprint of {free[0].name}
        </Button>
      )}
    </Fold>
  )
}
