'use client'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import type { PartBox } from '@/core/sheet/part'
import { partTypeOf } from '@/core/sheet/registry'
import { resizeBox, snapMove, snapTargets, type Handle, type SnapLine } from '@/core/sheet/snapping'
import type { Part, Sheet } from '@/core/sheet/spec'
import { pxPerMm } from '@/core/scene/units'
import { ask } from '@/workers/client'
import { useSize } from '../kit/use-size'
import { useDrawing } from '../map/use-drawing'
import { useSheetDrawn } from '../shell/contents'
import { folioNow, useFolio } from '../shell/folio-store'
import { deletePart, duplicatePart, editPart, liftPart } from './edit-sheet'
import { InsidePart } from './inside/inside-part'
import { toggleHidden, toggleLocked } from './pile'
import { Ruler } from './ruler'
import { Selection } from './selection'
import type { Zoom } from './zoom'
import { isTyping } from '../shell/typing'

const snapPx = 6

type Drag = {
  part: Part
  handle: Handle | null
  start: { x: number; y: number }
  box: PartBox
  moved: boolean
}

type Props = {
  sheet: Sheet
  selected: Part | null
  zoom: Zoom
  onZoom: (zoom: Zoom) => void
  onShownZoom: (zoom: number) => void
  snap: boolean
}

/** The page with its parts, which are taken hold of directly. */
export function Paper({ sheet, selected, zoom, onZoom, onShownZoom, snap }: Props) {
  const select = useFolio((state) => state.select)
  const drawn = useSheetDrawn(sheet)
  const frame = useRef<HTMLDivElement>(null)
  const page = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const drag = useRef<Drag | null>(null)
  const [lines, setLines] = useState<SnapLine[]>([])
  const [inside, setInside] = useState<string | null>(null)
  const size = useSize(frame)
  const { widthMm, heightMm } = sheet.page
  const fit = size
    ? Math.max(
        0.05,
        Math.min((size.width - 56) / (widthMm * pxPerMm), (size.height - 110) / (heightMm * pxPerMm)),
      )
    : 0.5
  const shown = zoom === 'fit' ? fit : zoom
  const scale = shown * pxPerMm
  useEffect(() => onShownZoom(shown), [shown, onShownZoom])

  const wanted = useMemo(
    () => (size ? { drawn, sheetId: sheet.id, density: scale * (window.devicePixelRatio || 1) } : null),
    [drawn, sheet.id, scale, size],
  )
  const draw = useCallback(
    ({ sheetId, density }: NonNullable<typeof wanted>) =>
      ask(folioNow(), (worker) => worker.drawSheet(sheetId, density)),
    [],
  )
  const { result, problem, late } = useDrawing(wanted, draw)
  useEffect(() => {
    if (!result || !canvas.current) return
    canvas.current.width = result.bitmap.width
    canvas.current.height = result.bitmap.height
    canvas.current.getContext('2d')?.drawImage(result.bitmap, 0, 0)
  }, [result])

  /** Where a part lies: the folio says where it starts, the last drawing how large it came out. */
  const boxOf = useCallback(
    (part: Part): PartBox => {
      const drawn = result?.boxes[part.id]
      const { resize } = partTypeOf(part.type)
      return resize === 'free' || !drawn
        ? part.box
        : {
            ...part.box,
            width: Math.max(part.box.width, resize === 'width' ? 0 : drawn.width),
            height: drawn.height,
          }
    },
    [result],
  )
  const at = (event: { clientX: number; clientY: number }) => {
    const box = page.current?.getBoundingClientRect()
    return { x: (event.clientX - (box?.left ?? 0)) / scale, y: (event.clientY - (box?.top ?? 0)) / scale }
  }
  const partAt = ({ x, y }: { x: number; y: number }): Part | null => {
    const within = (part: Part) => {
      const box = boxOf(part)
      return (
        !part.hidden &&
        !part.locked &&
        x >= box.x &&
        y >= box.y &&
        x <= box.x + box.width &&
        y <= box.y + box.height
      )
    }
    return [...sheet.parts].reverse().find(within) ?? null
  }

  const grab = (event: React.PointerEvent, part: Part, handle: Handle | null) => {
    event.currentTarget.setPointerCapture(event.pointerId)
    drag.current = { part, handle, start: at(event), box: boxOf(part), moved: false }
  }
  const onMove = (event: React.PointerEvent) => {
    const now = drag.current
    if (!now) return
    const here = at(event)
    const [dx, dy] = [here.x - now.start.x, here.y - now.start.y]
    if (!now.moved && Math.hypot(dx, dy) * scale < 3) return
    now.moved = true
    const others = sheet.parts.filter((p) => p.id !== now.part.id && !p.hidden).map(boxOf)
    const targets = snap && !event.altKey ? snapTargets(sheet, others) : { x: [], y: [] }
    const tolerance = snapPx / scale
    const moved = now.handle
      ? resizeBox(now.box, now.handle, { dx, dy, targets, tolerance })
      : snapMove({ ...now.box, x: now.box.x + dx, y: now.box.y + dy }, targets, tolerance)
    setLines(moved.lines)
    const box = tidyBox(moved.box)
    const { resize } = partTypeOf(now.part.type)
    editPart(
      { sheetId: sheet.id, partId: now.part.id },
      now.handle ? `Resize ${now.part.name}` : `Move ${now.part.name}`,
      (p) => {
        p.box.x = box.x
        p.box.y = box.y
        if (now.handle) p.box.width = box.width
        if (now.handle && resize === 'free') p.box.height = box.height
      },
      now.handle ? 'resize' : 'move',
    )
  }
  const onUp = () => {
    if (drag.current?.moved) useFolio.getState().seal()
    drag.current = null
    setLines([])
  }

  useEffect(() => {
    if (inside && inside !== selected?.id) setInside(null)
  }, [inside, selected?.id])

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event) || document.querySelector('[role="dialog"]')) return
      if (event.key === 'Escape') {
        if (inside) setInside(null)
        else select({ partId: null })
        return
      }
      if (!selected || event.ctrlKey || event.metaKey || inside) return
      const step = nudgeMm(event)
      const arrows: Record<string, [number, number]> = {
        ArrowLeft: [-step, 0],
        ArrowRight: [step, 0],
        ArrowUp: [0, -step],
        ArrowDown: [0, step],
      }
      const arrow = arrows[event.key]
      if (arrow && !(event.target instanceof Element && event.target.closest('aside'))) {
        if (!selected.locked)
          editPart(
            { sheetId: sheet.id, partId: selected.id },
            `Nudge ${selected.name}`,
            (p) => {
              p.box.x = tidy(p.box.x + arrow[0])
              p.box.y = tidy(p.box.y + arrow[1])
            },
            'nudge',
          )
      } else if (event.key === 'Delete' || event.key === 'Backspace') deletePart(sheet.id, selected)
      else if (event.key === 'd') duplicatePart(sheet.id, selected)
      else if (event.key === 'l') toggleLocked(sheet, selected)
      else if (event.key === 'h') toggleHidden(sheet, selected)
      else if (event.key === 'PageUp') liftPart(sheet.id, selected.id, 1)
      else if (event.key === 'PageDown') liftPart(sheet.id, selected.id, -1)
      else if (event.key === 'Enter' && event.target === document.body) setInside(selected.id)
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [selected, sheet, inside, select])

  const insidePart = sheet.parts.find((p) => p.id === inside) ?? null
  return (
    <div className="relative min-h-0 flex-1">
      <Ruler lengthMm={widthMm} scale={scale} frame={frame} page={page} axis="x" drawn={wanted} />
      <Ruler lengthMm={heightMm} scale={scale} frame={frame} page={page} axis="y" drawn={wanted} />
      <div
        ref={frame}
        className="absolute inset-0 top-[18px] left-[18px] overflow-auto bg-desk"
        onWheel={(event) => {
          if (event.ctrlKey && !inside)
            onZoom(Math.min(8, Math.max(0.1, shown * Math.exp(-event.deltaY * 0.002))))
        }}
      >
        <div
          className="grid min-h-full min-w-full place-items-center p-5 pb-[86px]"
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
              const hit =
                selected &&
                !selected.locked &&
                contains(boxOf(selected), at(event)) &&
                !partAbove(sheet, selected, partAt(at(event)))
                  ? selected
                  : partAt(at(event))
              select({ partId: hit?.id ?? null })
              if (inside && hit?.id !== inside) setInside(null)
              if (hit && hit.id !== inside) grab(event, hit, null)
            }}
            onPointerMove={onMove}
            onPointerUp={onUp}
            onPointerCancel={onUp}
            onDoubleClick={(event) => {
              const hit = partAt(at(event))
              if (hit) {
                select({ partId: hit.id })
                setInside(hit.id)
              }
            }}
          >
            <canvas ref={canvas} aria-hidden className="absolute inset-0 size-full" />
            <Margins sheet={sheet} scale={scale} />
            {lines.map((line, i) => (
              <span
                key={i}
                className="pointer-events-none absolute bg-primary"
                style={
                  line.axis === 'x'
                    ? { left: line.at * scale, top: 0, bottom: 0, width: 1 }
                    : { top: line.at * scale, left: 0, right: 0, height: 1 }
                }
              />
            ))}
            {selected && !selected.hidden && !insidePart && (
              <Selection
                part={selected}
                box={boxOf(selected)}
                scale={scale}
                onGrab={(event, handle) => grab(event, selected, handle)}
              />
            )}
            {insidePart && (
              <InsidePart
                key={insidePart.id}
                sheet={sheet}
                part={insidePart}
                box={boxOf(insidePart)}
                scale={scale}
                onLeave={() => setInside(null)}
                drawn={result}
              />
            )}
          </div>
        </div>
      </div>
      {late && (
        <span
          className="loading loading-spinner loading-sm absolute top-8 left-1/2 text-primary"
          role="status"
          aria-label="Drawing"
        />
      )}
      {problem && (
        <p role="alert" className="floating absolute top-8 left-1/2 -translate-x-1/2 px-3 py-2 text-error">
          The sheet could not be drawn: {problem}
        </p>
      )}
    </div>
  )
}

const contains = (box: PartBox, { x, y }: { x: number; y: number }): boolean =>
  x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height

/** Whether what was hit lies higher in the pile than the selected part; then it is meant. */
const partAbove = (sheet: Sheet, selected: Part, hit: Part | null): boolean =>
  hit !== null &&
  sheet.parts.findIndex((p) => p.id === hit.id) > sheet.parts.findIndex((p) => p.id === selected.id)

function nudgeMm({ altKey, shiftKey }: { altKey: boolean; shiftKey: boolean }): number {
  if (altKey) return 0.1
  return shiftKey ? 10 : 1
}

/** Places are kept to a hundredth of a millimetre. */
const tidy = (mm: number): number => Math.round(mm * 100) / 100
const tidyBox = ({ x, y, width, height }: PartBox): PartBox => ({
  x: tidy(x),
  y: tidy(y),
  width: tidy(width),
  height: tidy(height),
})

function Margins({ sheet: { page, margins }, scale }: { sheet: Sheet; scale: number }) {
  return (
    <span
      aria-hidden
      className="pointer-events-none absolute border border-dashed border-[#9c1f5e55]"
      style={{
        left: margins.left * scale,
        top: margins.top * scale,
        width: (page.widthMm - margins.left - margins.right) * scale,
        height: (page.heightMm - margins.top - margins.bottom) * scale,
      }}
    />
  )
}
