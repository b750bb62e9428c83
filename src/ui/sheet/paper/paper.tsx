'use client'
import { useCallback, useEffect, useRef, useState } from 'react'
import { holds, type Point } from '@/core/sheet/frame'
import type { Part, Sheet } from '@/core/sheet/spec'
import { pxPerMm } from '@/core/scene/units'
import { DrawingState } from '../../drawing/drawing-state'
import { useSize } from '../../kit/use-size'
import { useFolio } from '../../shell/folio-store'
import { useFrameOf } from '../frames'
import { InsidePart } from '../parts/inside-part'
import { addGuide, ChoosingFrame, Guides, PageLines, removeGuide, setGuide, SnapMarks } from './overlays'
import { PanelDivider } from './panel-divider'
import { Ruler } from './ruler'
import { Selection } from './selection'
import { SourcePrompt } from './source-prompt'
import { useGestures } from './use-gestures'
import { usePaperDrawing } from './use-paper-drawing'
import { useSheetKeys } from './use-sheet-keys'
import type { Zoom } from './zoom'

type Props = {
  sheet: Sheet
  selected: Part[]
  zoom: Zoom
  onZoom: (zoom: Zoom) => void
  onShownZoom: (zoom: number) => void
  snap: boolean
  entered: string | null
  onEnter: (groupId: string | null) => void
}

/** The page with its parts, which are taken hold of directly. */
export function Paper({ sheet, selected, zoom, onZoom, onShownZoom, snap, entered, onEnter }: Props) {
  const frame = useRef<HTMLDivElement>(null)
  const page = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const pointer = useRef<Point | null>(null)
  const [inside, setInside] = useState<string | null>(null)
  const size = useSize(frame)
  const { widthMm, heightMm } = sheet.page
  const fit = size
    ? Math.max(
        0.05,
        Math.min((size.width - 56) / (widthMm * pxPerMm), (size.height - 124) / (heightMm * pxPerMm)),
      )
    : 0.5
  const shown = zoom === 'fit' ? fit : zoom
  const scale = shown * pxPerMm
  useEffect(() => onShownZoom(shown), [shown, onShownZoom])
  const frameOf = useFrameOf()
  const { result, wanted, state } = usePaperDrawing(sheet, canvas, {
    scale,
    ready: size !== null,
  })
  const at = useCallback(
    (event: { clientX: number; clientY: number }): Point => {
      const box = page.current?.getBoundingClientRect()
      return [(event.clientX - (box?.left ?? 0)) / scale, (event.clientY - (box?.top ?? 0)) / scale]
    },
    [scale],
  )
  const gestures = useGestures({ sheet, selected, scale, snap, frameOf, entered, onEnter, at })
  const only = selected.length === 1 ? selected[0] : null
  useEffect(() => {
    if (inside && inside !== only?.id) setInside(null)
  }, [inside, only?.id])
  const whereItPoints = useCallback(() => pointer.current, [])
  useSheetKeys({ sheet, selected, inside, entered, onInside: setInside, onEnter, pointer: whereItPoints })

  /** A guide that is pulled out of a ruler follows the pointer until it is let go. */
  const pull = (axis: 'x' | 'y') => (event: React.PointerEvent) => {
    if (event.button !== 0) return
    event.preventDefault()
    const [along, length] = axis === 'x' ? [0, widthMm] : [1, heightMm]
    const id = addGuide(sheet.id, axis, at(event)[along])
    const move = (now: PointerEvent) => setGuide(sheet.id, id, at(now)[along])
    const end = (now: PointerEvent) => {
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', end)
      const mm = at(now)[along]
      if (mm < 0 || mm > length) removeGuide(sheet.id, id)
      useFolio.getState().seal()
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', end)
  }

  const insidePart = sheet.parts.find((p) => p.id === inside) ?? null
  return (
    <div className="relative min-h-0 flex-1">
      <Ruler
        lengthMm={widthMm}
        scale={scale}
        frame={frame}
        page={page}
        axis="x"
        drawn={wanted}
        onPull={pull('y')}
      />
      <Ruler
        lengthMm={heightMm}
        scale={scale}
        frame={frame}
        page={page}
        axis="y"
        drawn={wanted}
        onPull={pull('x')}
      />
      <div
        ref={frame}
        className="absolute inset-0 top-[18px] left-[18px] overflow-auto bg-desk"
        onWheel={(event) => {
          if (event.ctrlKey && !inside)
            onZoom(Math.min(8, Math.max(0.1, shown * Math.exp(-event.deltaY * 0.002))))
        }}
      >
        <div
          className="grid min-h-full min-w-full place-items-center p-5 pb-[100px]"
          style={{ width: 'max-content' }}
        >
          <div
            ref={page}
            role="application"
            aria-roledescription="page"
            aria-label={`Page: ${sheet.name}`}
            tabIndex={0}
            className="relative touch-none bg-white shadow-[0_2px_10px_rgb(0_0_0/0.25)]"
            style={{ width: widthMm * scale, height: heightMm * scale }}
            onPointerDown={(event) => {
              if (
                event.button !== 0 ||
                (event.target instanceof Element && event.target.closest('[data-inside]'))
              )
                return
              if (insidePart && holds(frameOf(insidePart), at(event))) return
              const hit = gestures.press(event)
              if (inside && hit?.id !== inside) setInside(null)
            }}
            onPointerMove={(event) => {
              pointer.current = at(event)
              gestures.move(event)
            }}
            onPointerLeave={() => void (pointer.current = null)}
            onPointerUp={gestures.release}
            onPointerCancel={gestures.release}
            onDoubleClick={(event) => {
              if (event.target instanceof Element && event.target.closest('[data-inside]')) return
              const hit = gestures.enter(event)
              if (hit) setInside(hit.id)
            }}
          >
            <canvas ref={canvas} aria-hidden className="absolute inset-0 size-full" />
            {only?.type === 'panel' && !insidePart && (
              <PanelDivider sheet={sheet} panel={only} frame={frameOf(only)} scale={scale} />
            )}
            <PageLines sheet={sheet} scale={scale} />
            <Guides sheet={sheet} scale={scale} at={at} />
            <SourcePrompt sheet={sheet} scale={scale} />
            <SnapMarks shown={gestures.shown} scale={scale} />
            {gestures.frame && <ChoosingFrame box={gestures.frame} scale={scale} />}
            {!insidePart && (
              <Selection
                parts={selected}
                frameOf={frameOf}
                scale={scale}
                onGrab={gestures.grabHandle}
                onTurn={gestures.grabTurn}
              />
            )}
            {insidePart && (
              <InsidePart
                key={insidePart.id}
                sheet={sheet}
                part={insidePart}
                frame={frameOf(insidePart)}
                scale={scale}
                onLeave={() => setInside(null)}
                drawn={result}
              />
            )}
          </div>
        </div>
      </div>
      <div className="pointer-events-none absolute inset-x-0 top-5">
        <DrawingState {...state} />
      </div>
    </div>
  )
}
