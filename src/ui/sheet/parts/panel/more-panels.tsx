'use client'
import { LocateFixed, PictureInPicture2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import type { MapSpec } from '@/core/map/spec'
import { divisionProblem } from '@/core/sheet/arrange'
import { farInsets, farPartsOfMap } from '@/core/sheet/far-insets'
import { locatorFor } from '@/core/sheet/locator'
import { roomIn } from '@/core/sheet/map-room'
import { innerBox } from '@/core/sheet/page'
import { viewOfPanel, type PanelPart } from '@/core/sheet/panel-view'
import {
  columnsFor,
  layerVariants,
  mostMultiples,
  smallMultiples,
  variantsOf,
} from '@/core/sheet/small-multiples'
import type { PanelVariant } from '@/core/sheet/parts/panel/spec'
import type { Part, Sheet } from '@/core/sheet/spec'
import type { Draft } from 'immer'
import { Button, Check, Row, Select } from '../../../kit/controls'
import { Fold } from '../../../kit/fold'
import { NumberField } from '../../../kit/number-field'
import { Ticks } from '../../../kit/ticks'
import { usePrepared } from '../../../shell/contents'
import { useFolio } from '../../../shell/folio-store'
import { addPart, editSheet, settingsChanger } from '../../edit-sheet'
import { useFrameOf } from '../../frames'
import { useFieldOptions } from '../dataset-row'
import { TypeStyleRows } from '../type-style-rows'

type Props = { sheet: Sheet; part: PanelPart; map: MapSpec }

/** More panels from this one: a locator that shows where it lies, and itself repeated in small. */
export function MorePanels({ sheet, part, map }: Props) {
  const datasets = usePrepared()
  const frameOf = useFrameOf()
  return (
    <>
      <Fold title="More panels from this one">
        <Button
          onClick={() =>
            addPart(sheet.id, locatorFor(part, { sheet, map, datasets, id: nanoid(8), frameOf }))
          }
        >
          <LocateFixed size={14} aria-hidden /> Add a locator
        </Button>
        <FarInsets sheet={sheet} part={part} map={map} />
        <MultiplesRows sheet={sheet} part={part} map={map} />
      </Fold>
      {part.settings.variant && <VariantRows sheet={sheet} part={part} map={map} />}
    </>
  )
}

/** Insets of what lies far from the main land, where there is such. */
function FarInsets({ sheet, part, map }: Props) {
  const datasets = usePrepared()
  const frameOf = useFrameOf()
  const count = farPartsOfMap(map, datasets)?.far.length ?? 0
  if (!count) return null
  const add = () => {
    const view = viewOfPanel(part, sheet)
    const others = sheet.parts.filter(({ id }) => id !== part.id)
    const boxes = others.filter(({ hidden }) => !hidden).map((one) => frameOf(one).box)
    const { parts } = farInsets({
      panel: { ...part, settings: { ...part.settings, view } },
      others,
      map,
      datasets,
      newId: () => nanoid(8),
      room: roomIn(map, datasets, { view, panel: part.box, box: innerBox(sheet), boxes }),
    })
    editSheet(sheet.id, 'Insets of far parts', (draft) => void draft.parts.push(...(parts as Draft<Part>[])))
  }
  return (
    <Button onClick={add}>
      <PictureInPicture2 size={14} aria-hidden />{' '}
      {count === 1 ? 'Inset of the far part' : `Insets of ${count} far parts`}
    </Button>
  )
}

/** Repeats a panel over years or values, in a grid over its own box. */
function MultiplesRows({ sheet, part, map }: Props) {
  const datasets = usePrepared()
  const layers = map.layers.filter(
    (layer) => layer.visible && (variantsOf(layer, datasets, 'years').length > 1 || layer.inLegend),
  )
  const [layerId, setLayerId] = useState(layers[0]?.id ?? '')
  const layer = layers.find(({ id }) => id === layerId) ?? layers[0]
  const words = useFieldOptions(layer?.datasetId ?? '', 'all')
  const years = layer ? variantsOf(layer, datasets, 'years') : []
  const [over, setOver] = useState('')
  const [ticked, setTicked] = useState<string[] | null>(null)
  const chosen = over || (years.length > 1 ? 'years' : (words[0]?.value ?? ''))
  const among = map.layers.filter(({ id }) => (ticked ?? layers.map((one) => one.id)).includes(id))
  const variants = ((): PanelVariant[] => {
    if (chosen === 'layers') return layerVariants(among)
    return layer ? variantsOf(layer, datasets, chosen === 'years' ? 'years' : { field: chosen }) : []
  })()
  const [asked, setAsked] = useState<{ columns?: number; gutter?: number }>({})
  const columns = asked.columns ?? columnsFor(Math.max(1, variants.length), part.box)
  const gutter = asked.gutter ?? 2
  if (!layer) return null
  const division = {
    columns,
    rows: Math.max(1, Math.ceil(variants.length / columns)),
    gutterX: gutter,
    gutterY: gutter,
  }
  const tooMany =
    variants.length > mostMultiples ? `More than ${mostMultiples} small maps cannot be read.` : null
  const problem =
    variants.length < 2 ? 'It needs at least two.' : (tooMany ?? divisionProblem(part.box, division))
  const repeat = () => {
    const made = smallMultiples(part, variants, {
      division,
      newId: () => nanoid(8),
      layers: map.layers,
      prepared: datasets.get(layer.datasetId),
    })
    editSheet(sheet.id, `Repeat ${part.name} ${made.length} times`, (draft) => {
      const at = draft.parts.findIndex(({ id }) => id === part.id)
      draft.parts.splice(at, 1, ...(made as Draft<PanelPart>[]))
    })
    useFolio.getState().select({ partIds: made.map(({ id }) => id) })
  }
  return (
    <>
      <Row label="Repeat over">
        <Select
          label="Repeat over"
          value={chosen}
          options={[
            ...(years.length > 1
              ? [{ value: 'years', label: `the years of the series (${years.length})` }]
              : []),
            ...(layers.length > 1 ? [{ value: 'layers', label: 'layers of the map' }] : []),
            ...words.map(({ value, label }) => ({ value, label: `each ${label.toLowerCase()}` })),
          ]}
          onChange={setOver}
        />
      </Row>
      {chosen === 'layers' && (
        <Ticks
          title="Layers"
          aside={`${among.length} of ${map.layers.length}`}
          items={map.layers}
          ticked={(id) => among.some((one) => one.id === id)}
          onTick={(id, on) => {
            const now = among.map((one) => one.id)
            setTicked(on ? [...now, id] : now.filter((one) => one !== id))
          }}
        />
      )}
      {layers.length > 1 && chosen !== 'layers' && (
        <Row label="of">
          <Select
            label="Layer to repeat"
            value={layer.id}
            options={layers.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={setLayerId}
          />
        </Row>
      )}
      <Row label="Columns, gutter">
        <NumberField
          label="Columns of small maps"
          value={columns}
          min={1}
          max={20}
          decimals={0}
          onChange={(n) => setAsked({ ...asked, columns: n })}
        />
        <NumberField
          label="Gutter between small maps"
          value={gutter}
          unit="mm"
          min={0}
          max={100}
          onChange={(n) => setAsked({ ...asked, gutter: n })}
        />
      </Row>
      {problem ? (
        <p className="text-xs text-muted">{problem}</p>
      ) : (
        <Button onClick={repeat}>Make {variants.length} small maps</Button>
      )}
    </>
  )
}

/** What one of several small maps shows, and how it is let go. */
function VariantRows({ sheet, part }: Props) {
  const { captioned, caption, samePlaceAs } = part.settings
  const change = settingsChanger(sheet.id, part)
  return (
    <Fold title="One of several small maps" open>
      <Check
        label="What it is in its corner"
        checked={captioned}
        onChange={(on) => change('Caption', (s) => void (s.captioned = on))}
      />
      {captioned && (
        <TypeStyleRows
          label="Type"
          style={caption}
          onChange={(next) =>
            change('Type', (s) => void Object.assign(s.caption, next), `caption ${Object.keys(next)[0]}`)
          }
        />
      )}
      {samePlaceAs !== null && (
        <Button
          onClick={() =>
            change('Break out', (s) => {
              s.samePlaceAs = s.sameScaleAs = null
            })
          }
        >
          Break out: a view of its own
        </Button>
      )}
    </Fold>
  )
}
