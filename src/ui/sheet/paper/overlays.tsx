'use client'
import { useRef } from 'react'
import { nanoid } from 'nanoid'
import { guideMm, type Guide, type Sheet } from '@/core/sheet/spec'
import type { PartBox } from '@/core/sheet/part'
import { useFolio } from '../../shell/folio-store'
import { editSheet } from '../edit-sheet'
import type { Shown } from './gestures'

/** Lines of the page that are not printed: margins, bleed and grid. */
export function PageLines({ sheet, scale }: { sheet: Sheet; scale: number }) {
  const { page, margins, bleedMm, grid } = sheet
  const spacing = grid.spacingMm * scale
  return (
    <>
      {grid.shown && spacing >= 4 && (
        <span
          aria-hidden
          className="pointer-events-none absolute inset-0"
          style={{
            backgroundImage:
              'linear-gradient(to right, #9c1f5e2e 1px, transparent 1px), linear-gradient(to bottom, #9c1f5e2e 1px, transparent 1px)',
            backgroundSize: `${spacing}px ${spacing}px`,
          }}
        />
      )}
      {bleedMm > 0 && (
        <span
          aria-hidden
          title="Bleed"
          className="pointer-events-none absolute border border-error/60"
          style={{ inset: -bleedMm * scale }}
        />
      )}
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
    </>
  )
}

/** Lines that something snapped to, and equal distances with their size beside the middle. */
export function SnapMarks({ shown: { lines, gaps }, scale }: { shown: Shown; scale: number }) {
  return (
    <>
      {lines.map((line, i) => (
        <span
          key={`l${i}`}
          className="pointer-events-none absolute bg-primary"
          style={
            line.axis === 'x'
              ? { left: line.at * scale, top: 0, bottom: 0, width: 1 }
              : { top: line.at * scale, left: 0, right: 0, height: 1 }
          }
        />
      ))}
      {gaps.map(({ axis, from, to, across }, i) => (
        <span
          key={`g${i}`}
          className={`pointer-events-none absolute grid place-items-center border-primary ${axis === 'x' ? 'h-2 -translate-y-1/2 border-x' : 'w-2 -translate-x-1/2 border-y'}`}
          style={
            axis === 'x'
              ? { left: from * scale, width: (to - from) * scale, top: across * scale }
              : { top: from * scale, height: (to - from) * scale, left: across * scale }
          }
        >
          <span className={`absolute bg-primary ${axis === 'x' ? 'h-px w-full' : 'h-full w-px'}`} />
          <span className="relative rounded bg-[#9c1f5e] px-1 text-[11px] leading-4 whitespace-nowrap text-white">
            {(to - from).toFixed(1)} mm
          </span>
        </span>
      ))}
    </>
  )
}

/** The frame that is drawn over empty paper to choose what lies in it. */
export const ChoosingFrame = ({ box, scale }: { box: PartBox; scale: number }) => (
  <span
    aria-hidden
    className="pointer-events-none absolute border border-primary bg-primary/10"
    style={{
      left: box.x * scale,
      top: box.y * scale,
      width: box.width * scale,
      height: box.height * scale,
    }}
  />
)

/** Where a guide would be left that is dragged off the page: it is taken away. */
const beyondMm = 1

export const setGuide = (sheetId: string, id: string, mm: number): void =>
  editSheet(
    sheetId,
    'Move guide',
    (draft) => {
      const guide = draft.guides.lines.find((one) => one.id === id)
      if (guide) guide.at = { by: 'mm', mm: Math.round(Math.max(-3000, Math.min(6000, mm)) * 10) / 10 }
    },
    `guide ${id}`,
  )

export const removeGuide = (sheetId: string, id: string): void =>
  editSheet(
    sheetId,
    'Remove guide',
    (draft) => void (draft.guides.lines = draft.guides.lines.filter((one) => one.id !== id)),
  )

/** A new guide, for dragging it out of a ruler. */
export function addGuide(sheetId: string, axis: 'x' | 'y', mm: number): string {
  const id = nanoid(6)
  editSheet(
    sheetId,
    'Add guide',
    (draft) => {
      draft.guides.lines.push({ id, axis, at: { by: 'mm', mm: Math.round(mm * 10) / 10 } })
      draft.guides.hidden = false
    },
    `guide ${id}`,
  )
  return id
}

/** The guides of a sheet, dragged where they lie; one that is dragged off the page is gone. */
export function Guides({
  sheet,
  scale,
  at,
}: {
  sheet: Sheet
  scale: number
  at: (event: { clientX: number; clientY: number }) => [number, number]
}) {
  const held = useRef<string | null>(null)
  const { guides, page } = sheet
  if (guides.hidden) return null
  const end = (guide: Guide, event: React.PointerEvent) => {
    if (held.current !== guide.id) return
    held.current = null
    const mm = at(event)[guide.axis === 'x' ? 0 : 1]
    const length = guide.axis === 'x' ? page.widthMm : page.heightMm
    if (mm < -beyondMm || mm > length + beyondMm) removeGuide(sheet.id, guide.id)
    useFolio.getState().seal()
  }
  return guides.lines.map((guide) => {
    const mm = guideMm(guide, page)
    return (
      <span
        key={guide.id}
        title={`${guide.axis === 'x' ? 'From left' : 'From top'} ${mm.toFixed(1)} mm${guides.locked ? ', locked' : ''}`}
        className={`absolute ${guides.locked ? 'pointer-events-none' : 'pointer-events-auto'} ${guide.axis === 'x' ? 'inset-y-0 w-[7px] -translate-x-1/2 cursor-ew-resize' : 'inset-x-0 h-[7px] -translate-y-1/2 cursor-ns-resize'}`}
        style={guide.axis === 'x' ? { left: mm * scale } : { top: mm * scale }}
        onPointerDown={(event) => {
          event.stopPropagation()
          event.currentTarget.setPointerCapture(event.pointerId)
          held.current = guide.id
        }}
        onPointerMove={(event) =>
          held.current === guide.id && setGuide(sheet.id, guide.id, at(event)[guide.axis === 'x' ? 0 : 1])
        }
        onPointerUp={(event) => end(guide, event)}
        onPointerCancel={(event) => end(guide, event)}
      >
        <span
          className={`absolute bg-[#9c1f5e88] ${guide.axis === 'x' ? 'inset-y-0 left-[3px] w-px' : 'inset-x-0 top-[3px] h-px'}`}
        />
      </span>
    )
  })
}
