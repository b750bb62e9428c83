'use client'
import { RotateCw } from 'lucide-react'
import { useRef } from 'react'
import type { MapView } from '@/core/map/spec'
import { pxPerMm } from '@/core/scene/units'
import { tidyAngle } from '@/core/sheet/frame'
import { panelView } from '@/core/sheet/panel-view'
import { usePrepared } from '../../../shell/contents'
import { useDocument, useFolio } from '../../../shell/folio-store'
import { panned, zoomed } from '../../../map/viewing'
import { settingsChanger } from '../../edit-sheet'
import { turnBetween } from '../../paper/gestures'
import type { InsideProps } from '../inside-props'

/** Degrees for each press of a key that turns the map. */
const keyTurn = 1

/** Pan by dragging, zoom with the wheel or plus and minus, turn by the handle or full stop and comma. */
export function InsidePanel({ sheet, part, box, scale, unturned, onLeave }: InsideProps<'panel'>) {
  const { maps } = useDocument()
  const shown = panelView(part, sheet, { maps, datasets: usePrepared() })
  const last = useRef<{ x: number; y: number } | null>(null)
  const turning = useRef<{ from: [number, number]; turnDeg: number } | null>(null)
  if (!shown) return null
  const { map, view } = shown
  const { samePlaceAs, sameScaleAs } = part.settings
  const other = sheet.parts.find(({ id }) => id === (samePlaceAs ?? sameScaleAs))
  const size = { width: box.width * pxPerMm, height: box.height * pxPerMm }
  const zoom = scale / pxPerMm
  const change = settingsChanger(sheet.id, part)
  const setView = (name: string, next: MapView) =>
    change(
      name,
      (s) => {
        if (samePlaceAs === null) s.view.centre = next.centre
        if (samePlaceAs === null) s.view.turnDeg = next.turnDeg || undefined
        if (sameScaleAs === null) s.view.scaleDenominator = Math.round(next.scaleDenominator)
      },
      name,
    )
  const turned = (by: number): MapView => ({ ...view, turnDeg: tidyAngle((view.turnDeg ?? 0) + by) })
  const key: Record<string, () => MapView> = {
    '+': () => zoomed(map, view, { size, factor: 1.1 }),
    '=': () => zoomed(map, view, { size, factor: 1.1 }),
    '-': () => zoomed(map, view, { size, factor: 1 / 1.1 }),
    ArrowLeft: () => panned(map, view, { size, dxPx: 10, dyPx: 0 }),
    ArrowRight: () => panned(map, view, { size, dxPx: -10, dyPx: 0 }),
    ArrowUp: () => panned(map, view, { size, dxPx: 0, dyPx: 10 }),
    ArrowDown: () => panned(map, view, { size, dxPx: 0, dyPx: -10 }),
    '.': () => turned(keyTurn),
    ',': () => turned(-keyTurn),
  }
  /** A place of the panel under the pointer, pixels from its top left corner before it is turned on the page. */
  const within = (event: React.MouseEvent): [number, number] => {
    const frame = event.currentTarget.closest('[data-inside]')?.getBoundingClientRect()
    const [mx, my] = frame ? [frame.left + frame.width / 2, frame.top + frame.height / 2] : [0, 0]
    const [dx, dy] = unturned(event.clientX - mx, event.clientY - my)
    return [dx + (box.width * scale) / 2, dy + (box.height * scale) / 2]
  }
  const middle: [number, number] = [(box.width * scale) / 2, (box.height * scale) / 2]
  const end = () => {
    last.current = turning.current = null
    useFolio.getState().seal()
  }
  return (
    <div
      ref={(element) => element?.focus()}
      tabIndex={0}
      role="application"
      aria-label={`Inside ${part.name}: pan, zoom and turn`}
      className="absolute inset-0 cursor-grab touch-none outline-none active:cursor-grabbing"
      onPointerDown={(event) => {
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        last.current = { x: event.clientX, y: event.clientY }
      }}
      onPointerMove={(event) => {
        if (!last.current) return
        const [dx, dy] = unturned(event.clientX - last.current.x, event.clientY - last.current.y)
        setView('Pan inside', panned(map, view, { size, dxPx: dx / zoom, dyPx: dy / zoom }))
        last.current = { x: event.clientX, y: event.clientY }
      }}
      onPointerUp={end}
      onPointerCancel={end}
      onWheel={(event) => {
        const [x, y] = within(event)
        const factor = Math.exp(-event.deltaY * 0.0015)
        setView('Zoom inside', zoomed(map, view, { size, factor, xPx: x / zoom, yPx: y / zoom }))
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onLeave()
        else if (key[event.key]) setView('Pan inside', key[event.key]())
        else return
        event.preventDefault()
        event.stopPropagation()
      }}
    >
      {other && (
        <p className="pointer-events-none absolute top-1/2 left-1/2 -translate-1/2 rounded bg-[#9c1f5e] px-2 py-1 text-xs text-white">
          Takes its {samePlaceAs === null ? 'scale' : 'place'} from {other.name}
        </p>
      )}
      {samePlaceAs === null && (
        <span
          title="Turn the map; with Shift by steps of 15°"
          className="absolute top-1.5 left-1/2 grid size-6 -translate-x-1/2 cursor-grab place-items-center rounded-full border border-[#9c1f5e] bg-white text-[#9c1f5e]"
          onPointerDown={(event) => {
            event.stopPropagation()
            event.currentTarget.setPointerCapture(event.pointerId)
            turning.current = { from: within(event), turnDeg: view.turnDeg ?? 0 }
          }}
          onPointerMove={(event) => {
            if (!turning.current) return
            event.stopPropagation()
            const { from, turnDeg } = turning.current
            const raw = turnDeg + turnBetween(middle, from, within(event))
            const to = event.shiftKey ? Math.round(raw / 15) * 15 : Math.round(raw * 2) / 2
            setView('Turn the map', { ...view, turnDeg: tidyAngle(to) })
          }}
          onPointerUp={(event) => {
            event.stopPropagation()
            end()
          }}
        >
          <RotateCw size={13} aria-hidden />
        </span>
      )}
    </div>
  )
}
