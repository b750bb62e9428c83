'use client'
import { Columns2, Maximize } from 'lucide-react'
import { useCallback, useEffect, useMemo, useState } from 'react'
import type { Prepared } from '@/core/data/prepare'
import { featureAt } from '@/core/geo/feature-at'
import { takeFeatures } from '@/core/geo/take-features'
import type { MapSpec, MapView } from '@/core/map/spec'
import { fitMap, fitView } from '@/core/map/view'
import { mmPerPx } from '@/core/scene/units'
import { createProjection } from '@/core/projection/projection'
import { CompareMenu } from '../compare/menu'
import { useFar } from '../compare/use-far'
import { Button, IconButton } from '../kit/controls'
import { MapWindow } from '../map/map-window'
import { placeAt, type SizePx } from '../map/viewing'
import { DataTable } from './data-table'
import { useDrawingArea, withPlacesBetween } from './drawing'
import { previewMap } from './preview-map'

/** A row that is looked at; `zoom` brings the preview map to it, `at` to a place on it. */
export type Looked = { row: number; zoom: boolean; at: [number, number] | null }

type Props = {
  prepared: Prepared
  field: string | null
  onField: (key: string) => void
  looked: Looked | null
  onRow: (row: number | null) => void
}

const closestLook = 50_000

/** The preview map above the table of a dataset; what is picked in one is marked in the other. */
export function Overview({ prepared, field, onField, looked, onRow }: Props) {
  const map = useMemo(() => previewMap(prepared), [prepared])
  const [view, setView] = useState<MapView | null>(null)
  const [size, setSize] = useState<SizePx | null>(null)
  const row = looked?.row ?? null
  const fit = useCallback(
    (to: SizePx) =>
      map &&
      setView(
        fitMap(
          map,
          new Map([[prepared.entry.id, prepared]]),
          { width: to.width * mmPerPx, height: to.height * mmPerPx },
          0.06,
        ),
      ),
    [map, prepared],
  )
  const onSize = useCallback(
    (next: SizePx) => {
      setSize(next)
      fit(next)
    },
    [fit],
  )
  useEffect(() => {
    if (!looked?.zoom || !map || !size || looked.row >= prepared.dataset.rowCount) return
    const window = { width: size.width * mmPerPx, height: size.height * mmPerPx }
    const whole = fitView(
      createProjection(map.projection),
      [takeFeatures(prepared.dataset.geometry, [looked.row])],
      window,
      0.25,
    )
    if (!whole) return
    setView(
      looked.at
        ? { centre: looked.at, scaleDenominator: Math.max(closestLook, whole.scaleDenominator / 2) }
        : { ...whole, scaleDenominator: Math.max(closestLook, whole.scaleDenominator) },
    )
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a new wish to look moves the map
  }, [looked])
  const drawing = useDrawingArea((state) => state.done !== null)
  const far = useFar(map)
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      {map && (
        <div className="h-[38%] min-h-40 shrink-0 border-b border-line">
          <MapWindow
            map={map}
            view={view}
            label={`Preview of ${prepared.entry.name}`}
            onView={setView}
            onSize={onSize}
            onPick={([lon, lat]) => {
              if (drawing) return
              const row = featureAt(prepared.dataset.geometry, lon, lat)
              onRow(row < 0 ? null : row)
            }}
            far={far}
            mark={row === null ? null : { layerId: 'preview', feature: row }}
          >
            {drawing && view && size && <AreaDrawing map={map} view={view} size={size} />}
            <span data-over-map className="absolute top-2 right-2 flex gap-1">
              <CompareMenu
                id={map.id}
                map={map}
                trigger={
                  <IconButton label="Compare across a divider" active={far !== null} className="floating">
                    <Columns2 size={15} />
                  </IconButton>
                }
              />
              <IconButton label="See all of it" className="floating" onClick={() => size && fit(size)}>
                <Maximize size={15} />
              </IconButton>
            </span>
          </MapWindow>
        </div>
      )}
      <DataTable prepared={prepared} field={field} onField={onField} row={row} onRow={onRow} />
    </div>
  )
}

/**
 * Corners are set with clicks; a double click or Enter closes the area, Backspace takes a corner back, Escape
 * leaves it.
 */
function AreaDrawing({ map, view, size }: { map: MapSpec; view: MapView; size: SizePx }) {
  const { done, end } = useDrawingArea()
  const [corners, setCorners] = useState<{ x: number; y: number }[]>([])
  const [pointer, setPointer] = useState<{ x: number; y: number } | null>(null)
  const finish = (all: { x: number; y: number }[]) => {
    if (all.length < 3) return
    done?.(withPlacesBetween(all, (x, y) => placeAt(map, view, size, { xPx: x, yPx: y })))
    end()
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape') end()
      else if (event.key === 'Enter') finish(corners)
      else if (event.key === 'Backspace') setCorners(corners.slice(0, -1))
      else return
      event.preventDefault()
      event.stopPropagation()
    }
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  })
  const at = (event: React.PointerEvent | React.MouseEvent) => {
    const box = event.currentTarget.getBoundingClientRect()
    return { x: event.clientX - box.left, y: event.clientY - box.top }
  }
  const path = [...corners, ...(pointer && corners.length ? [pointer] : [])]
    .map(({ x, y }) => `${x},${y}`)
    .join(' ')
  return (
    <div
      data-over-map
      className="absolute inset-0 cursor-crosshair"
      role="application"
      aria-label="Draw an area"
      onPointerMove={(event) => setPointer(at(event))}
      onClick={(event) => event.detail < 2 && setCorners([...corners, at(event)])}
      onDoubleClick={() => finish(corners)}
    >
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        <polygon points={path} className="fill-primary/15 stroke-primary" strokeWidth={2} />
        {corners.map(({ x, y }, i) => (
          <circle key={i} cx={x} cy={y} r={3.5} className="fill-base-100 stroke-primary" strokeWidth={2} />
        ))}
      </svg>
      <div
        className="floating absolute bottom-2 left-2 flex items-center gap-2 px-2.5 py-1.5 text-xs"
        onClick={(event) => event.stopPropagation()}
        onDoubleClick={(event) => event.stopPropagation()}
      >
        {corners.length < 3 ? 'Click the corners of the area' : 'Double-click to close it'}
        <Button className="!h-6" disabled={corners.length < 3} onClick={() => finish(corners)}>
          Close it
        </Button>
        <Button className="!h-6" look="quiet" onClick={end}>
          Cancel
        </Button>
      </div>
    </div>
  )
}
