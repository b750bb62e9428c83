'use client'
import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import { create } from 'zustand'
import type { Prepared } from '@/core/data/prepare'
import { kindOf } from '@/core/kinds/registry'
import { kindsFor } from '@/core/map/first-map'
import type { Layer, MapSpec } from '@/core/map/spec'
import { moveBy, removeLayer } from '@/core/map/stack'
import { IconButton, Row, Segments, Select } from '../../kit/controls'
import { useFolio } from '../../shell/folio-store'
import { editMap, switchKind } from '../edit-map'
import { kindUi } from '../kinds/registry'
import { usePlan } from '../plans'
import { LabelForm } from '../labels/label-form'
import { LayerForm } from './layer-form'

type Face = 'look' | 'labels' | 'layer'

/** Which face of a layer's settings is open; kept while other layers are chosen. */
const useFace = create<{ face: Face }>(() => ({ face: 'look' }))

/** The settings of the chosen layer: its look by its kind, its labels, and what it is as a layer. */
export function LayerSettings({
  layer,
  prepared,
  whole,
  map,
}: {
  layer: Layer
  prepared: Prepared
  whole: Prepared
  map: MapSpec
}) {
  const face = useFace((state) => state.face)
  const scale = useFolio((state) => state.views[map.id]?.scaleDenominator) ?? 1_000_000
  const { Settings } = kindUi[layer.symbology.kind]
  const planned = usePlan(layer, prepared)
  const kinds = kindsFor(prepared)
  const index = map.layers.findIndex(({ id }) => id === layer.id)
  const move = (step: -1 | 1) => editMap(map.id, 'Reorder layers', (draft) => moveBy(draft, layer.id, step))
  return (
    <div className="[&>section:last-child]:border-b-0">
      <div className="sticky top-0 z-10 flex items-center gap-1 border-b border-line bg-base-100 px-3 py-1.5">
        <div className="min-w-0 flex-1">
          <Segments
            label="Settings of the layer"
            value={face}
            options={[
              { value: 'look', label: 'Look' },
              { value: 'labels', label: 'Labels' },
              { value: 'layer', label: 'Layer' },
            ]}
            onChange={(next) => useFace.setState({ face: next })}
          />
        </div>
        <span className="flex">
          <IconButton
            label="Layer up"
            className="!w-6"
            disabled={index === 0 && layer.groupId === null}
            onClick={() => move(-1)}
          >
            <ArrowUp size={14} />
          </IconButton>
          <IconButton
            label="Layer down"
            className="!w-6"
            disabled={index === map.layers.length - 1 && layer.groupId === null}
            onClick={() => move(1)}
          >
            <ArrowDown size={14} />
          </IconButton>
          <IconButton
            label="Duplicate layer"
            className="!w-6"
            onClick={() =>
              editMap(
                map.id,
                'Duplicate layer',
                (draft) =>
                  void draft.layers.splice(index, 0, {
                    ...structuredClone(layer),
                    id: nanoid(8),
                    name: `${layer.name}, copy`,
                  }),
              )
            }
          >
            <Copy size={14} />
          </IconButton>
          <IconButton
            label="Delete layer"
            className="!w-6"
            onClick={() => {
              editMap(map.id, 'Delete layer', (draft) => removeLayer(draft, layer.id))
              useFolio.getState().tell(`The layer “${layer.name}” was deleted.`, true)
            }}
          >
            <Trash2 size={14} />
          </IconButton>
        </span>
      </div>
      {face === 'look' && (
        <>
          {kinds.length > 1 && (
            <div className="border-b border-line px-3 py-2">
              <Row label="Kind">
                <Select
                  label="Map kind"
                  value={layer.symbology.kind}
                  options={kinds.map((id) => ({ value: id, label: kindOf(id).label }))}
                  onChange={(kind) => switchKind(layer, prepared, kind)}
                />
              </Row>
            </div>
          )}
          {planned && <Settings layer={layer} prepared={prepared} plan={planned.plan} />}
        </>
      )}
      {face === 'labels' && <LabelForm layer={layer} prepared={prepared} />}
      {face === 'layer' && <LayerForm layer={layer} whole={whole} map={map} scale={scale} />}
    </div>
  )
}
