'use client'
import { Eye, EyeOff, Filter, GripVertical, Plus, Type } from 'lucide-react'
import { Fragment, useState } from 'react'
import { kindOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/layer-plan'
import { usePlan } from './plans'
import { shownOf } from '@/core/map/shown'
import type { Layer, MapSpec } from '@/core/map/spec'
import { moveOnto } from '@/core/map/stack'
import { formOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { Button, ColumnHead, IconButton } from '../kit/controls'
import { Popover } from '../kit/popover'
import { useFolio } from '../shell/folio-store'
import { addBeneath, addLayer, editLayer, editMap, proposedKind } from './edit-map'
import { GroupRow } from './layers/group-row'
import { LayerSettings } from './layers/layer-settings'
import { MapForm } from './map-form'

/** The layers of a map from top to bottom; the selected one unfolds its settings. */
export function LayerStack({ map, all }: { map: MapSpec; all: Map<string, Prepared> }) {
  const { selection, select } = useFolio()
  const [dragged, setDragged] = useState<string | null>(null)
  const rows = map.layers.map((layer, i) => ({
    layer,
    group: map.groups.find(({ id }) => id === layer.groupId) ?? null,
    first: i === 0 || map.layers[i - 1].groupId !== layer.groupId,
  }))
  const chosen = map.layers.find(({ id }) => id === selection.layerId)
  const chosenRows = chosen && shownOf(chosen, all)
  const chosenWhole = chosen && all.get(chosen.datasetId)
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <ColumnHead title="Layers">
        <Popover
          label="Add a layer"
          align="end"
          trigger={
            <IconButton label="Add a layer">
              <Plus size={16} />
            </IconButton>
          }
        >
          {(close) => (
            <ul className="min-w-56">
              {[...all.values()].flatMap((prepared) => {
                const kind = proposedKind(prepared)
                if (!kind) return []
                return [
                  <li key={prepared.entry.id} className="flex items-center justify-between gap-2">
                    <span className="px-2">{prepared.entry.name}</span>
                    <span className="flex">
                      {kindOf(kind).thematic && (
                        <button
                          type="button"
                          className="rounded px-2 py-1 text-xs hover:bg-base-200"
                          onClick={() => {
                            addLayer(map.id, prepared)
                            close()
                          }}
                        >
                          {kindOf(kind).label.toLowerCase()}
                        </button>
                      )}
                      {formOf(prepared.dataset) !== 'none' && (
                        <button
                          type="button"
                          className="rounded px-2 py-1 text-xs hover:bg-base-200"
                          onClick={() => {
                            addLayer(map.id, prepared, true)
                            close()
                          }}
                        >
                          plain
                        </button>
                      )}
                    </span>
                  </li>,
                ]
              })}
            </ul>
          )}
        </Popover>
      </ColumnHead>
      <ol
        className="max-h-[216px] shrink-0 overflow-y-auto border-b border-line"
        aria-label="Layers, from top to bottom"
      >
        {rows.map(({ layer, group, first }) => {
          const prepared = shownOf(layer, all) ?? undefined
          const on = layer.id === selection.layerId
          return (
            <Fragment key={layer.id}>
              {group && first && (
                <GroupRow
                  map={map}
                  group={group}
                  count={map.layers.filter(({ groupId }) => groupId === group.id).length}
                />
              )}
              {!group?.folded && (
                <li
                  className={`border-b border-l-3 border-line ${on ? 'border-l-primary bg-tint' : 'border-l-transparent'} ${group ? 'pl-3' : ''} ${dragged && dragged !== layer.id ? 'hover:border-t-2 hover:border-t-primary' : ''}`}
                  onDragOver={(event) => dragged && event.preventDefault()}
                  onDrop={() => {
                    if (dragged)
                      editMap(map.id, 'Reorder layers', (draft) => moveOnto(draft, dragged, layer.id))
                    setDragged(null)
                  }}
                >
                  <div className="flex h-7 items-center gap-1.5 pr-2 pl-1">
                    <span
                      draggable
                      onDragStart={() => setDragged(layer.id)}
                      onDragEnd={() => setDragged(null)}
                      className="cursor-grab text-muted"
                      title="Drag to reorder"
                      aria-hidden
                    >
                      <GripVertical size={14} />
                    </span>
                    <button
                      type="button"
                      aria-current={on}
                      onClick={() => select({ layerId: layer.id })}
                      title={aboutLayer(layer, prepared)}
                      className="flex h-7 min-w-0 flex-1 items-center gap-2 text-left"
                    >
                      {prepared && <Chip layer={layer} prepared={prepared} />}
                      <span
                        className={`truncate ${on ? 'font-semibold' : ''} ${layer.visible && group?.visible !== false ? '' : 'text-muted'}`}
                      >
                        {layer.name}
                      </span>
                      <span className="sr-only">{aboutLayer(layer, prepared)}</span>
                      <span className="ml-auto flex shrink-0 gap-1 text-muted" aria-hidden>
                        {layer.filter && <Filter size={12} />}
                        {layer.labels && <Type size={12} />}
                      </span>
                    </button>
                    <IconButton
                      label={layer.visible ? `Hide ${layer.name}` : `Show ${layer.name}`}
                      className="!size-6"
                      onClick={() =>
                        editLayer(
                          layer.id,
                          layer.visible ? 'Hide layer' : 'Show layer',
                          (draft) => void (draft.visible = !draft.visible),
                        )
                      }
                    >
                      {layer.visible ? <Eye size={16} /> : <EyeOff size={16} />}
                    </IconButton>
                  </div>
                </li>
              )}
            </Fragment>
          )
        })}
      </ol>
      <Beneath map={map} all={all} />
      <div className="min-h-0 flex-1 overflow-y-auto" role="region" aria-label="Settings of the chosen layer">
        {chosen && chosenRows && chosenWhole && (
          <LayerSettings layer={chosen} prepared={chosenRows} whole={chosenWhole} map={map} />
        )}
      </div>
      <MapForm map={map} all={all} />
    </div>
  )
}

/** What a layer is, in a few words. */
const aboutLayer = (layer: Layer, prepared: Prepared | undefined): string =>
  [
    kindOf(layer.symbology.kind).label.toLowerCase(),
    prepared?.entry.name.toLowerCase() ?? 'loading',
    layer.filter && 'filtered',
    layer.labels && 'labels',
  ]
    .filter(Boolean)
    .join(' · ')

/** Boundaries for a map of nothing but points, one click away. */
function Beneath({ map, all }: { map: MapSpec; all: Map<string, Prepared> }) {
  const drawn = map.layers.flatMap((layer) => all.get(layer.datasetId) ?? [])
  const onlyPoints = drawn.length > 0 && drawn.every(({ dataset }) => formOf(dataset) === 'points')
  const areas = [...all.values()].filter(({ dataset }) => formOf(dataset) === 'areas').slice(0, 3)
  if (!onlyPoints || map.land || !areas.length) return null
  return (
    <div className="flex flex-wrap items-center gap-1.5 border-b border-line bg-base-200 px-3 py-2 text-xs">
      <span className="w-full">Nothing lies beneath the points. Put boundaries there:</span>
      {areas.map((prepared) => (
        <Button key={prepared.entry.id} onClick={() => addBeneath(map, prepared)}>
          {prepared.entry.name}
        </Button>
      ))}
    </div>
  )
}

/** A small picture of what a layer draws: the colours of its classes, or its line, dot or fill. */
function Chip({ layer, prepared }: { layer: Layer; prepared: Prepared }) {
  const planned = usePlan(layer, prepared)
  if (!planned) return <span className="h-4 w-7 shrink-0 rounded-sm bg-base-300" aria-hidden />
  const { plan } = planned
  const { kind: id, settings } = planned.layer.symbology
  const kind = kindOf(id)
  const items = kind.thematic ? [] : kind.legend(plan, settings, kindData(planned.prepared), null).items
  const [first] = items
  // What has several colours, such as heights, is known by all of them.
  if (!first || first.swatch.shape === 'ramp' || (items.length > 1 && first.swatch.shape === 'box'))
    return (
      <span className="flex h-4 w-7 shrink-0 overflow-hidden rounded-sm border border-line" aria-hidden>
        {kind.chip(plan, settings).map((colour, i) => (
          <span key={i} className="flex-1" style={{ background: colour }} />
        ))}
      </span>
    )
  const { shape, fill, stroke } = first.swatch
  const paint = {
    fill: fill?.type === 'solid' ? fill.colour : 'none',
    stroke: stroke?.colour,
    strokeWidth: stroke ? Math.max(1, Math.min(3, stroke.widthMm * 4)) : 0,
  }
  return (
    <svg width={28} height={17.5} viewBox="0 0 32 20" className="shrink-0" aria-hidden>
      {shape === 'line' && <path d="M2 13C8 3 14 17 20 9S28 8 30 6" {...paint} fill="none" />}
      {(shape === 'dot' || shape === 'symbol') && <circle cx={16} cy={10} r={3.5} {...paint} />}
      {shape === 'box' &&
        (fill ? (
          <rect x={1} y={1} width={30} height={18} rx={2} {...paint} />
        ) : (
          <path d="M2 6L12 3L20 8L30 5V16L18 14L9 17L2 14Z" {...paint} />
        ))}
    </svg>
  )
}
