'use client'
import { Copy, LayoutGrid, Map as MapIcon, Trash2 } from 'lucide-react'
import { nanoid } from 'nanoid'
import type { Draft } from 'immer'
import type { MapSpec } from '@/core/map/spec'
import { Button, IconButton, Row } from '../kit/controls'
import { Popover } from '../kit/popover'
import { TextField } from '../kit/text-field'
import { editFolio, useDocument, useFolio } from '../shell/folio-store'
import { openBecoming } from './become/become-dialog'
import { editMap } from './edit-map'

/** A copy of a map with layers of its own; a scheme that layers share is shared by their copies too. */
export function duplicateMap(map: MapSpec): void {
  const layers = structuredClone(map.layers).map((layer) => ({ ...layer, id: nanoid(8) }))
  const copy: MapSpec = {
    ...structuredClone(map),
    id: nanoid(8),
    name: `${map.name}, copy`,
    layers,
    stretchedBy: layers[map.layers.findIndex(({ id }) => id === map.stretchedBy)]?.id ?? null,
  }
  editFolio(
    'Duplicate map',
    (draft) =>
      void draft.maps.splice(draft.maps.findIndex(({ id }) => id === map.id) + 1, 0, copy as Draft<MapSpec>),
  )
  useFolio.getState().select({ mapId: copy.id, layerId: copy.layers[0]?.id ?? null })
}

/** The maps of the folio: which one is on the desk, its name, and copies of it. */
export function MapList({ map }: { map: MapSpec }) {
  const { maps, sheets } = useDocument()
  const { select } = useFolio()
  const shownOn = sheets.filter((sheet) =>
    sheet.parts.some((part) => part.type === 'panel' && part.settings.mapId === map.id),
  )
  const remove = () => {
    editFolio('Delete map', (draft) => void (draft.maps = draft.maps.filter(({ id }) => id !== map.id)))
    const next = maps.find(({ id }) => id !== map.id)
    select({ mapId: next?.id ?? null, layerId: next?.layers[0]?.id ?? null })
    useFolio.getState().tell(`The map “${map.name}” was deleted.`, true)
  }
  return (
    <Popover
      label="Maps of the folio"
      align="end"
      className="w-72"
      trigger={
        <button
          type="button"
          aria-label={`Map: ${map.name}. Choose another`}
          className="flex h-10 w-full shrink-0 items-center gap-2 border-b border-line px-3 text-left hover:bg-base-200"
        >
          <MapIcon size={15} className="shrink-0 text-muted" aria-hidden />
          <span className="truncate font-serif text-[15px] font-semibold">{map.name}</span>
          <span className="ml-auto shrink-0 text-xs text-muted">
            {maps.length === 1
              ? 'the only map'
              : `${maps.findIndex(({ id }) => id === map.id) + 1} of ${maps.length}`}
          </span>
        </button>
      }
    >
      {(close) => (
        <>
          <ul className="mb-2">
            {maps.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  aria-current={one.id === map.id}
                  className={`flex w-full items-baseline justify-between gap-3 rounded px-2 py-1 text-left hover:bg-base-200 ${one.id === map.id ? 'bg-tint font-medium text-primary' : ''}`}
                  onClick={() => {
                    select({
                      mapId: one.id,
                      layerId: (one.layers.find((l) => l.inLegend) ?? one.layers[0])?.id ?? null,
                    })
                    close()
                  }}
                >
                  <span className="truncate">{one.name}</span>
                  <span className="shrink-0 text-xs font-normal text-muted">
                    {one.layers.length === 1 ? '1 layer' : `${one.layers.length} layers`}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <Button
            className="mb-2"
            onClick={() => {
              openBecoming()
              close()
            }}
          >
            <LayoutGrid size={14} /> What this data can become
          </Button>
          <div className="border-t border-line pt-2">
            <Row label="Name">
              <TextField
                label="Name of the map"
                value={map.name}
                onChange={(name) =>
                  name.trim() && editMap(map.id, 'Rename map', (draft) => void (draft.name = name.trim()))
                }
              />
            </Row>
            <div className="mt-2 flex items-center justify-between">
              <Button
                onClick={() => {
                  duplicateMap(map)
                  close()
                }}
              >
                <Copy size={14} /> Duplicate
              </Button>
              <IconButton
                label={shownOn.length ? `On the sheet ${shownOn[0].name}: not to be deleted` : 'Delete map'}
                disabled={shownOn.length > 0}
                onClick={() => {
                  remove()
                  close()
                }}
              >
                <Trash2 size={14} />
              </IconButton>
            </div>
          </div>
        </>
      )}
    </Popover>
  )
}
