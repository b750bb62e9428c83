'use client'
import { ArrowDown, ArrowUp, Copy, Eye, EyeOff, GripVertical, Plus, Trash2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import { useState } from 'react'
import { kindOf } from '@/core/kinds/registry'
import { kindData, planOf } from '@/core/map/compose-map'
import type { Layer, MapSpec } from '@/core/map/spec'
import { blendModes, type BlendMode } from '@/core/scene/paint'
import { formOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { Check, ColumnHead, IconButton, Row, Section, Select } from '../kit/controls'
import { ColourField } from '../kit/colour-field'
import { NumberField } from '../kit/number-field'
import { Popover } from '../kit/popover'
import { TextField } from '../kit/text-field'
import { useFolio } from '../shell/folio-store'
import { addLayer, editLayer, editMap, kindsFor, switchKind } from './edit-map'
import { kindUi } from './kinds/registry'
import { ProjectionPicker } from './projection-picker'

/** The layers of a map from top to bottom; the selected one unfolds its settings. */
export function LayerStack({ map, all }: { map: MapSpec; all: Map<string, Prepared> }) {
  const { selection, select } = useFolio()
  const [dragged, setDragged] = useState<string | null>(null)
  const move = (id: string, to: number) =>
    editMap(map.id, 'Reorder layers', (draft) => {
      const from = draft.layers.findIndex((l) => l.id === id)
      const [layer] = draft.layers.splice(from, 1)
      draft.layers.splice(Math.max(0, Math.min(draft.layers.length, to)), 0, layer)
    })
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <ColumnHead title="Layers">
        <Popover label="Add a layer" align="end" trigger={<IconButton label="Add a layer"><Plus size={16} /></IconButton>}>
          {(close) => (
            <ul className="min-w-56">
              {[...all.values()]
                .filter((prepared) => kindsFor(prepared).length > 0)
                .map((prepared) => (
                  <li key={prepared.entry.id} className="flex items-center justify-between gap-2">
                    <span className="px-2">{prepared.entry.name}</span>
                    <span className="flex">
                      {kindOf(kindsFor(prepared)[0]).thematic && (
                        <button type="button" className="rounded px-2 py-1 text-xs hover:bg-base-200" onClick={() => { addLayer(map.id, prepared); close() }}>
                          {kindOf(kindsFor(prepared)[0]).label.toLowerCase()}
                        </button>
                      )}
                      {formOf(prepared.dataset) !== 'none' && (
                        <button type="button" className="rounded px-2 py-1 text-xs hover:bg-base-200" onClick={() => { addLayer(map.id, prepared, true); close() }}>
                          plain
                        </button>
                      )}
                    </span>
                  </li>
                ))}
            </ul>
          )}
        </Popover>
      </ColumnHead>
      <ol className="min-h-0 flex-1 overflow-y-auto" aria-label="Layers, from top to bottom">
        {map.layers.map((layer, i) => {
          const prepared = all.get(layer.datasetId)
          const on = layer.id === selection.layerId
          return (
            <li
              key={layer.id}
              className={`border-b border-l-3 border-line ${on ? 'border-l-primary bg-tint' : 'border-l-transparent'} ${dragged && dragged !== layer.id ? 'hover:border-t-2 hover:border-t-primary' : ''}`}
              onDragOver={(event) => dragged && event.preventDefault()}
              onDrop={() => {
                if (dragged) move(dragged, i)
                setDragged(null)
              }}
            >
              <div className="flex items-center gap-2 py-1.5 pr-2 pl-1">
                <span draggable onDragStart={() => setDragged(layer.id)} onDragEnd={() => setDragged(null)} className="cursor-grab text-muted" title="Drag to reorder" aria-hidden>
                  <GripVertical size={14} />
                </span>
                <button type="button" aria-current={on} onClick={() => select({ layerId: layer.id })} className="flex min-w-0 flex-1 items-center gap-2.5 text-left">
                  {prepared && <Chip layer={layer} prepared={prepared} />}
                  <span className="min-w-0">
                    <span className={`block truncate font-semibold ${layer.visible ? '' : 'text-muted'}`}>{layer.name}</span>
                    <span className="block truncate text-xs text-muted">
                      {kindOf(layer.symbology.kind).label.toLowerCase()} · {prepared?.entry.name.toLowerCase() ?? 'loading'}
                    </span>
                  </span>
                </button>
                <IconButton label={layer.visible ? `Hide ${layer.name}` : `Show ${layer.name}`} onClick={() => editLayer(layer.id, layer.visible ? 'Hide layer' : 'Show layer', (draft) => void (draft.visible = !draft.visible))}>
                  {layer.visible ? <Eye size={16} /> : <EyeOff size={16} />}
                </IconButton>
              </div>
              {on && prepared && <LayerSettings layer={layer} prepared={prepared} map={map} index={i} move={move} />}
            </li>
          )
        })}
      </ol>
      <Section title="Map">
        <Row label="Ground">
          <ColourField label="Background colour" value={map.background} onChange={(colour) => editMap(map.id, 'Background colour', (draft) => void (draft.background = colour), 'background')} />
        </Row>
        <Row label="Projection">
          <ProjectionPicker map={map} all={all} />
        </Row>
      </Section>
    </div>
  )
}

/** A small picture of what a layer draws: the colours of its classes, or its line, dot or fill. */
function Chip({ layer, prepared }: { layer: Layer; prepared: Prepared }) {
  const kind = kindOf(layer.symbology.kind)
  const plan = planOf(layer, prepared)
  if (kind.thematic)
    return (
      <span className="flex h-5 w-8 shrink-0 overflow-hidden rounded-sm border border-line" aria-hidden>
        {kind.chip(plan, layer.symbology.settings).map((colour, i) => (
          <span key={i} className="flex-1" style={{ background: colour }} />
        ))}
      </span>
    )
  const { shape, fill, stroke } = kind.legend(plan, layer.symbology.settings, kindData(prepared)).items[0].swatch
  const paint = { fill: fill?.type === 'solid' ? fill.colour : 'none', stroke: stroke?.colour, strokeWidth: stroke ? Math.max(1, Math.min(3, stroke.widthMm * 4)) : 0 }
  return (
    <svg width={32} height={20} className="shrink-0" aria-hidden>
      {shape === 'line' && <path d="M2 13C8 3 14 17 20 9S28 8 30 6" {...paint} fill="none" />}
      {shape === 'dot' && <circle cx={16} cy={10} r={3.5} {...paint} />}
      {shape === 'box' && (fill ? <rect x={1} y={1} width={30} height={18} rx={2} {...paint} /> : <path d="M2 6L12 3L20 8L30 5V16L18 14L9 17L2 14Z" {...paint} />)}
    </svg>
  )
}

function LayerSettings({ layer, prepared, map, index, move }: { layer: Layer; prepared: Prepared; map: MapSpec; index: number; move: (id: string, to: number) => void }) {
  const { Settings } = kindUi[layer.symbology.kind]
  const kinds = kindsFor(prepared)
  return (
    <div className="mx-2 mb-2 rounded border border-line bg-base-100 [&>section:last-child]:border-b-0">
      <Settings layer={layer} prepared={prepared} />
      <Section title="Layer">
        <Row label="Name">
          <TextField label="Name of the layer" value={layer.name} onChange={(name) => editLayer(layer.id, 'Rename layer', (draft) => void (draft.name = name))} />
        </Row>
        {kinds.length > 1 && (
          <Row label="Kind">
            <Select label="Map kind" value={layer.symbology.kind} options={kinds.map((id) => ({ value: id, label: kindOf(id).label }))} onChange={(kind) => switchKind(layer, prepared, kind)} />
          </Row>
        )}
        <Row label="Opacity">
          <NumberField label="Opacity" value={layer.opacity * 100} unit="%" min={0} max={100} step={5} decimals={0} onChange={(n) => editLayer(layer.id, 'Opacity', (draft) => void (draft.opacity = n / 100), 'opacity')} />
          <Select label="Blend mode" className="!w-[92px] shrink-0" value={layer.blend} options={blendModes.map((mode) => ({ value: mode, label: mode }))} onChange={(mode: BlendMode) => editLayer(layer.id, 'Blend mode', (draft) => void (draft.blend = mode))} />
        </Row>
        <div className="flex items-center justify-between">
          <Check label="In the legend" checked={layer.inLegend} onChange={(on) => editLayer(layer.id, on ? 'Into the legend' : 'Out of the legend', (draft) => void (draft.inLegend = on))} />
          <span className="flex">
            <IconButton label="Layer up" disabled={index === 0} onClick={() => move(layer.id, index - 1)}>
              <ArrowUp size={14} />
            </IconButton>
            <IconButton label="Layer down" disabled={index === map.layers.length - 1} onClick={() => move(layer.id, index + 1)}>
              <ArrowDown size={14} />
            </IconButton>
            <IconButton label="Duplicate layer" onClick={() => editMap(map.id, 'Duplicate layer', (draft) => void draft.layers.splice(index, 0, { ...structuredClone(layer), id: nanoid(8), name: `${layer.name}, copy` } as never))}>
              <Copy size={14} />
            </IconButton>
            <IconButton
              label="Delete layer"
              onClick={() => {
                editMap(map.id, 'Delete layer', (draft) => void (draft.layers = draft.layers.filter((l) => l.id !== layer.id)))
                useFolio.getState().tell(`The layer “${layer.name}” was deleted.`, true)
              }}
            >
              <Trash2 size={14} />
            </IconButton>
          </span>
        </div>
      </Section>
    </div>
  )
}
