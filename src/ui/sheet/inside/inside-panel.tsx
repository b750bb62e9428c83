'use client'

import { pxPerMm } from '@/core/scene/units'
import { useRef } from 'react'
import { panelView } from '@/core/sheet/panel-view'
import { usePrepared } from '../../shell/contents'
import { useDocument, useFolio } from '../../shell/folio-store'
import { panned, zoomed } from '../../map/viewing'
import { editPart } from '../edit-sheet'
import type { InsideProps } from './inside-props'

/** Pan by dragging, zoom with the wheel or plus and minus, inside a panel. */
export function InsidePanel({ sheet, part, box, scale, onLeave }: InsideProps<'panel'>) {
  const { maps } = useDocument()
  const map = panelView(part, maps, usePrepared())?.map
  const last = useRef<{ x: number; y: number } | null>(null)
  if (!map) return null
  const size = { width: box.width * pxPerMm, height: box.height * pxPerMm }
  const zoom = scale / pxPerMm
  const { view } = part.settings
  const setView = (name: string, next: typeof view) =>
    editPart(
      { sheetId: sheet.id, partId: part.id },
      name,
      (p) =>
        p.type === 'panel' &&
        (p.settings.view = { centre: next.centre, scaleDenominator: Math.round(next.scaleDenominator) }),
      name,
    )
  const key: Record<string, () => typeof view> = {
    '+': () => zoomed(map, view, { size, factor: 1.1 }),
    '=': () => zoomed(map, view, { size, factor: 1.1 }),
    '-': () => zoomed(map, view, { size, factor: 1 / 1.1 }),
    ArrowLeft: () => panned(map, view, { size, dxPx: 10, dyPx: 0 }),
    ArrowRight: () => panned(map, view, { size, dxPx: -10, dyPx: 0 }),
    ArrowUp: () => panned(map, view, { size, dxPx: 0, dyPx: 10 }),
    ArrowDown: () => panned(map, view, { size, dxPx: 0, dyPx: -10 }),
  }
  return (
    <div
      ref={(element) => element?.focus()}
      tabIndex={0}
      role="application"
      aria-label={`Inside ${part.name}: pan and zoom`}
      className="absolute inset-0 cursor-grab touch-none active:cursor-grabbing"
      onPointerDown={(event) => {
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        last.current = { x: event.clientX, y: event.clientY }
      }}
      onPointerMove={(event) => {
        if (!last.current) return
        setView(
          'Pan inside',
          panned(map, view, {
            size,
            dxPx: (event.clientX - last.current.x) / zoom,
            dyPx: (event.clientY - last.current.y) / zoom,
          }),
        )
        last.current = { x: event.clientX, y: event.clientY }
      }}
      onPointerUp={() => {
        last.current = null
        useFolio.getState().seal()
      }}
      onWheel={(event) => {
        const frame = event.currentTarget.getBoundingClientRect()
        setView(
          'Zoom inside',
          zoomed(map, view, {
            size,
            factor: Math.exp(-event.deltaY * 0.0015),
            xPx: (event.clientX - frame.left) / zoom,
            yPx: (event.clientY - frame.top) / zoom,
          }),
        )
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onLeave()
        else if (key[event.key]) setView('Pan inside', key[event.key]())
        else return
        event.preventDefault()
        event.stopPropagation()
      }}
    />
  )
}
