'use client'
import { useEffect, useRef, useState } from 'react'
import { methods, type MethodId } from '@/core/classify/classify'
import type { Classing } from '@/core/classify/spec'
import type { Way } from '@/core/map/ways'
import type { Prepared } from '@/core/data/prepare'
import type { Layer, MapSpec, MapView } from '@/core/map/spec'
import { fitMap } from '@/core/map/view'
import { mmPerPx } from '@/core/scene/units'
import { ask } from '@/workers/client'
import { Button, Check } from '../../kit/controls'
import { Dialog } from '../../kit/popover'
import { useDocument } from '../../shell/folio-store'
import { chooseMethod, classingOf } from '../edit-classing'
import { useBenchView } from './view'
import type { SizePx } from '../viewing'

type Props = {
  open: boolean
  onClose: () => void
  map: MapSpec
  view: MapView
  window: SizePx
  layer: Layer
  prepared: Prepared
  classing: Classing
}

const picture = { width: 258, height: 172 }
const large = { width: 1080, height: 500 }

/**
 * The same map by every method in small pictures, the best fit first; one click adopts it, two can be laid
 * over each other.
 */
export function Compare({ open, onClose, map, view, window, layer, prepared, classing }: Props) {
  const [laid, setLaid] = useState<MethodId[]>([])
  const [ways, setWays] = useState<Way[]>([])
  const folio = useDocument()
  useEffect(() => {
    let here = true
    // Some methods take long with many areas: they are tried beside the drawing, not here.
    if (open)
      ask(folio, (worker) => worker.waysOf(layer, useBenchView.getState().which)).then(
        (ways) => here && setWays(ways),
        () => undefined,
      )
    return () => void (here = false)
  }, [open, folio, layer])
  const adopt = (id: MethodId) => {
    chooseMethod(layer, [], id)
    onClose()
  }
  return (
    <Dialog open={open} onClose={onClose} title="The same map by every method" wide>
      {laid.length === 2 ? (
        <Overlaid
          map={map}
          view={view}
          window={window}
          layer={layer}
          prepared={prepared}
          pair={laid as [MethodId, MethodId]}
          onBack={() => setLaid([])}
          onAdopt={adopt}
        />
      ) : (
        <>
          <p className="mb-2 text-xs text-muted">
            Ordered by how well the classes fit. A click takes the method over; mark two to lay them over each
            other.
          </p>
          {!ways.length && <p role="status">The methods are tried out…</p>}
          <ul className="grid grid-cols-4 gap-3" aria-label="Methods compared">
            {ways.map((way) => (
              <li
                key={way.id}
                className={`rounded border ${way.id === classing.method ? 'border-primary' : 'border-line'}`}
              >
                <button
                  type="button"
                  aria-label={`Adopt ${methods[way.id].label}`}
                  className="block w-full text-left hover:bg-base-200"
                  onClick={() => adopt(way.id)}
                >
                  <MapPicture
                    map={map}
                    view={view}
                    window={window}
                    layer={layer}
                    prepared={prepared}
                    method={way.id}
                    size={picture}
                  />
                  <span className="block px-2 pt-1 font-semibold first-letter:uppercase">
                    {methods[way.id].label}
                  </span>
                  <span className="block px-2 text-xs text-muted">
                    fit {way.result.gvf.toFixed(2)} · {way.result.counts.length} classes, smallest{' '}
                    {way.smallest}
                  </span>
                </button>
                <span className="block px-2">
                  <Check
                    label="Lay over another"
                    checked={laid.includes(way.id)}
                    onChange={(on) => setLaid(on ? [...laid, way.id] : laid.filter((id) => id !== way.id))}
                  />
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </Dialog>
  )
}

/**
 * The map as it would be with another method; what lies over the layer, such as names, is left out of a small
 * picture.
 */
function mapWith(map: MapSpec, layer: Layer, method: MethodId): MapSpec {
  const changed = structuredClone(layer)
  Object.assign(classingOf(changed) ?? {}, { method, unclassed: null })
  return {
    ...map,
    layers: [changed, ...map.layers.slice(map.layers.findIndex(({ id }) => id === layer.id) + 1)],
  }
}

/**
 * What a small picture shows: what the window of the map does, and where that is more than the layer covers, as
 * in the whole map with its seas, the layer alone.
 */
function viewOfPicture({
  map,
  view,
  whole,
  layer,
  prepared,
  size,
}: {
  map: MapSpec
  view: MapView
  whole: SizePx
  layer: Layer
  prepared: Prepared
  size: SizePx
}): MapView {
  const smaller = Math.max(whole.width / size.width, whole.height / size.height)
  const seen = { ...view, scaleDenominator: view.scaleDenominator * smaller }
  const alone = { ...map, layers: [layer] }
  const window = { width: size.width * mmPerPx, height: size.height * mmPerPx }
  const fitted = fitMap(alone, new Map([[layer.datasetId, prepared]]), window, 0.03)
  return fitted && fitted.scaleDenominator < seen.scaleDenominator ? fitted : seen
}

function MapPicture({
  map,
  view,
  window: whole,
  layer,
  prepared,
  method,
  size,
}: {
  map: MapSpec
  view: MapView
  window: SizePx
  layer: Layer
  prepared: Prepared
  method: MethodId
  size: SizePx
}) {
  const folio = useDocument()
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    let here = true
    void (async () => {
      const shown = viewOfPicture({ map, view, whole, layer, prepared, size })
      const picture = { widthPx: size.width, heightPx: size.height, ratio: window.devicePixelRatio || 1 }
      const drawn = await ask(folio, (worker) => worker.drawMap(mapWith(map, layer, method), shown, picture))
      if (!here || !canvas.current || !drawn) return
      const { bitmap } = drawn
      canvas.current.width = bitmap.width
      canvas.current.height = bitmap.height
      canvas.current.getContext('2d')?.drawImage(bitmap, 0, 0)
    })()
    return () => void (here = false)
  }, [folio, map, view, whole, layer, prepared, method, size])
  return (
    <canvas
      ref={canvas}
      aria-hidden
      className="block w-full"
      style={{ aspectRatio: `${size.width} / ${size.height}`, background: map.background }}
    />
  )
}

/** Two methods over each other with a divider to be slid. */
function Overlaid({
  map,
  view,
  window,
  layer,
  prepared,
  pair: [left, right],
  onBack,
  onAdopt,
}: {
  map: MapSpec
  view: MapView
  window: SizePx
  layer: Layer
  prepared: Prepared
  pair: [MethodId, MethodId]
  onBack: () => void
  onAdopt: (id: MethodId) => void
}) {
  const [share, setShare] = useState(50)
  return (
    <div>
      <div className="relative overflow-hidden rounded border border-line">
        <MapPicture
          map={map}
          view={view}
          window={window}
          layer={layer}
          prepared={prepared}
          method={right}
          size={large}
        />
        <div className="absolute inset-0" style={{ clipPath: `inset(0 ${100 - share}% 0 0)` }}>
          <MapPicture
            map={map}
            view={view}
            window={window}
            layer={layer}
            prepared={prepared}
            method={left}
            size={large}
          />
        </div>
        <span
          className="pointer-events-none absolute inset-y-0 w-0.5 bg-primary"
          style={{ left: `${share}%` }}
        />
      </div>
      <input
        type="range"
        aria-label="Divider between the two maps"
        className="range range-primary range-xs mt-3 w-full"
        min={0}
        max={100}
        value={share}
        onChange={(event) => setShare(Number(event.target.value))}
      />
      <div className="mt-2 flex items-center justify-between">
        <Button onClick={() => onAdopt(left)}>Take {methods[left].label}</Button>
        <Button look="quiet" onClick={onBack}>
          All of them
        </Button>
        <Button onClick={() => onAdopt(right)}>Take {methods[right].label}</Button>
      </div>
    </div>
  )
}
