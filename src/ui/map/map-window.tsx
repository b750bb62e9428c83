'use client'
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { kindOf } from '@/core/kinds/registry'
import type { LabelReport } from '@/core/map/label-map'
import type { MapSpec, MapView } from '@/core/map/spec'
import { ask } from '@/workers/client'
import { useSize } from '../kit/use-size'
import { beyond, Divider } from '../compare/divider'
import { useComparing } from '../compare/store'
import type { Far } from '../compare/use-far'
import { useMapDrawn } from '../shell/contents'
import { folioNow } from '../shell/folio-store'
import { useDistortion } from './distortion'
import { DrawingState } from '../drawing/drawing-state'
import { useDrawing } from '../drawing/use-drawing'
import { useStoppable } from '../drawing/use-stoppable'
import { movedPicture, panned, placeAt, zoomed, type SizePx } from './viewing'

type Props = {
  map: MapSpec
  view: MapView | null
  label: string
  onView: (view: MapView) => void
  /**
   * Called when the size of the window is known, and whenever it changes; whoever owns the view sets it then.
   */
  onSize: (size: SizePx) => void
  /** The place under the pointer, or null when it leaves. */
  onPoint?: (place: [number, number] | null, at: { x: number; y: number }) => void
  onPick?: (place: [number, number]) => void
  /** A feature to be outlined. */
  mark?: { layerId: string; feature: number } | null
  /** Whether the distortion is shown where it is wished for. */
  showsDistortion?: boolean
  /** What is seen beyond a divider across the map; null has none. */
  far?: Far | null
  /** What became of the labels, with the view that they were placed in. */
  onLabels?: (labels: LabelReport, view: MapView) => void
  children?: ReactNode
}

/**
 * Whether the pointer is on the map itself, not on what floats over it; what opens from there lies elsewhere
 * in the page.
 */
const onGround = ({ target, currentTarget }: { target: EventTarget; currentTarget: Element }): boolean =>
  target instanceof Element && currentTarget.contains(target) && !target.closest('[data-over-map]')

const takesLong = ({ layers }: MapSpec): boolean =>
  layers.some(({ symbology }) => kindOf(symbology.kind).shapes !== null)

type Drawn = { view: MapView; bitmap: ImageBitmap; labels: LabelReport; rough: boolean }
type Wanted = { map: MapSpec; view: MapView; size: SizePx; ratio: number }

/**
 * A map that is drawn in the worker. While it is dragged or zoomed the last picture moves; the sharp one
 * follows.
 */
export function MapWindow({
  map,
  view,
  label,
  onView,
  onSize,
  onPoint,
  onPick,
  mark,
  onLabels,
  far = null,
  showsDistortion = false,
  children,
}: Props) {
  const drawn = useMapDrawn(map)
  const distortion = useDistortion((state) => (showsDistortion ? state.view : 'none'))
  const frame = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const size = useSize(frame)
  const [dragging, setDragging] = useState(false)
  const last = useRef<{ x: number; y: number; moved: boolean } | null>(null)

  useEffect(() => {
    if (size && size.width > 0) onSize(size)
  }, [size, onSize])

  const work = useStoppable('map')
  const { again, begin, end, wasDropped, drop } = work
  const wanted = useMemo(
    (): Wanted | null =>
      view && size?.width && size.height ? { map, view, size, ratio: window.devicePixelRatio || 1 } : null,
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the data behind the map may have changed
    [map, view, size, drawn, distortion, again],
  )
  const draw = useCallback(
    async ({ map, view, size, ratio }: Wanted, show: (drawn: Drawn) => void) => {
      const window = { widthPx: size.width, heightPx: size.height, ratio, distortion }
      const tell = begin()
      const drawn = async (first: boolean): Promise<Drawn | null> => {
        const answer = await ask(folioNow(), (worker) =>
          worker.drawMap(map, view, { ...window, first }, tell),
        )
        return answer && { view, ...answer }
      }
      try {
        const first = await drawn(true)
        if (first?.rough) show(first)
        return first?.rough && !wasDropped() ? await drawn(false) : first
      } finally {
        end()
      }
    },
    [distortion, begin, end, wasDropped],
  )
  const { result, late, problem, forget } = useDrawing<Wanted, Drawn>(
    wanted,
    draw,
    takesLong(map) ? drop : undefined,
  )

  useEffect(() => {
    if (!result || !canvas.current) return
    const { bitmap } = result
    if (bitmap.width === 0) return
    canvas.current.width = bitmap.width
    canvas.current.height = bitmap.height
    canvas.current.getContext('2d')?.drawImage(bitmap, 0, 0)
  }, [result])

  useEffect(() => {
    if (result) onLabels?.(result.labels, result.view)
  }, [result, onLabels])

  const outline = useOutline(mark ?? null, wanted)

  const local = (event: { clientX: number; clientY: number }) => {
    const box = frame.current?.getBoundingClientRect()
    return { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) }
  }
  useEffect(() => {
    const element = frame.current
    if (!element || !view || !size) return
    const onWheel = (event: WheelEvent) => {
      event.preventDefault()
      const { x, y } = local(event)
      onView(
        zoomed(map, view, {
          size,
          factor: Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0018)),
          xPx: x,
          yPx: y,
        }),
      )
    }
    element.addEventListener('wheel', onWheel, { passive: false })
    return () => element.removeEventListener('wheel', onWheel)
  }, [map, view, size, onView])

  return (
    <div
      ref={frame}
      role="application"
      aria-label={label}
      aria-roledescription="map"
      tabIndex={0}
      className={`relative size-full touch-none overflow-hidden outline-offset-[-3px] ${dragging ? 'cursor-grabbing' : 'cursor-crosshair'}`}
      style={{ background: map.background }}
      onPointerDown={(event) => {
        if (event.button !== 0 || !onGround(event)) return
        event.currentTarget.setPointerCapture(event.pointerId)
        last.current = { ...local(event), moved: false }
      }}
      onPointerMove={(event) => {
        const at = local(event)
        if (last.current && view && size) {
          const [dx, dy] = [at.x - last.current.x, at.y - last.current.y]
          if (!last.current.moved && Math.hypot(dx, dy) < 4) return
          if (!dragging) setDragging(true)
          onPoint?.(null, at)
          onView(panned(map, view, { size, dxPx: dx, dyPx: dy }))
          last.current = { ...at, moved: true }
        } else if (view && size && onGround(event))
          onPoint?.(placeAt(map, view, size, { xPx: at.x, yPx: at.y }), at)
        else onPoint?.(null, at)
      }}
      onPointerUp={(event) => {
        const place =
          view && size && last.current && !last.current.moved
            ? placeAt(map, view, size, { xPx: local(event).x, yPx: local(event).y })
            : null
        if (place) onPick?.(place)
        last.current = null
        setDragging(false)
      }}
      onPointerCancel={() => {
        last.current = null
        setDragging(false)
      }}
      onPointerLeave={(event) => onPoint?.(null, local(event))}
      onKeyDown={(event) => {
        if (!view || !size || event.target !== event.currentTarget) return
        const step = event.shiftKey ? 200 : 60
        const arrows: Record<string, [number, number]> = {
          ArrowLeft: [step, 0],
          ArrowRight: [-step, 0],
          ArrowUp: [0, step],
          ArrowDown: [0, -step],
        }
        const arrow = arrows[event.key]
        if (arrow) onView(panned(map, view, { size, dxPx: arrow[0], dyPx: arrow[1] }))
        else if (event.key === '+' || event.key === '=') onView(zoomed(map, view, { size, factor: 1.4 }))
        else if (event.key === '-') onView(zoomed(map, view, { size, factor: 1 / 1.4 }))
        else return
        event.preventDefault()
      }}
    >
      <canvas
        ref={canvas}
        aria-hidden
        className="absolute inset-0 size-full"
        style={{
          transform:
            result && view && size && result.view !== view
              ? movedPicture(map, result.view, view, size)
              : undefined,
        }}
      />
      {far && wanted && view && <FarPicture {...far} wanted={wanted} view={view} distortion={distortion} />}
      {outline && (
        <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
          <path d={outline} fill="none" stroke="#fff" strokeWidth={4} strokeLinejoin="round" />
          <path d={outline} fill="none" stroke="#9c1f5e" strokeWidth={2} strokeLinejoin="round" />
        </svg>
      )}
      {!result && !problem && !work.halted && (
        <p className="absolute inset-0 grid place-items-center text-muted">Drawing…</p>
      )}
      <DrawingState
        what="map"
        drawn={result !== null}
        late={late}
        problem={problem}
        forget={forget}
        work={work}
      />
      {children}
    </div>
  )
}

/** The picture beyond the divider: another map in the same view. */
function FarPicture({
  map,
  near,
  words,
  wanted,
  view,
  distortion,
}: Far & { wanted: Wanted; view: MapView; distortion: ReturnType<typeof useDistortion.getState>['view'] }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const share = useComparing((state) => state.share)
  const drawn = useMapDrawn(map)
  const own = useMemo(
    () => ({ ...wanted, map }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the data behind the map may have changed
    [wanted, map, drawn],
  )
  const draw = useCallback(
    async ({ map, view, size, ratio }: Wanted) => {
      const window = { widthPx: size.width, heightPx: size.height, ratio, distortion }
      // What is dropped for the near side's sake is asked for again.
      for (let tries = 0; tries < 5; tries++) {
        const answer = await ask(folioNow(), (worker) =>
          worker.drawMap(map, view, { ...window, first: false }),
        )
        if (answer) return { view, ...answer }
      }
      return null
    },
    [distortion],
  )
  const { result, problem } = useDrawing<Wanted, Drawn>(own, draw)
  useEffect(() => {
    if (!result || !canvas.current || result.bitmap.width === 0) return
    canvas.current.width = result.bitmap.width
    canvas.current.height = result.bitmap.height
    canvas.current.getContext('2d')?.drawImage(result.bitmap, 0, 0)
  }, [result])
  return (
    <>
      <div className="absolute inset-0" style={{ clipPath: beyond(share), background: map.background }}>
        <canvas
          ref={canvas}
          aria-hidden
          className="absolute inset-0 size-full"
          style={{
            transform:
              result && result.view !== view ? movedPicture(map, result.view, view, wanted.size) : undefined,
          }}
        />
        {problem && <p className="absolute inset-0 grid place-items-center text-error">{problem}</p>}
      </div>
      <Divider near={near} far={words} />
    </>
  )
}

function useOutline(mark: { layerId: string; feature: number } | null, wanted: Wanted | null): string {
  const [outline, setOutline] = useState('')
  const layerId = mark?.layerId
  const feature = mark?.feature ?? -1
  useEffect(() => {
    let here = true
    if (!layerId || feature < 0 || !wanted) setOutline('')
    else
      ask(folioNow(), (worker) =>
        worker.outlineOf(wanted.map, wanted.view, {
          layerId,
          feature,
          widthPx: wanted.size.width,
          heightPx: wanted.size.height,
        }),
      ).then(
        (path) => here && setOutline(path),
        () => undefined,
      )
    return () => void (here = false)
  }, [layerId, feature, wanted])
  return outline
}
