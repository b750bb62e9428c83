'use client'
import { useRef } from 'react'
import { unproject } from '@/core/map/view'
import { toLocal, toPage } from '@/core/sheet/frame'
import { calloutEnd } from '@/core/sheet/parts/callout'
import { useFolio } from '../../../shell/folio-store'
import { settingsChanger } from '../../edit-sheet'
import { usePanelViews } from '../../panel-views'
import type { InsideProps } from '../inside-props'
import { InsideWords, liesRight } from '../text/inside'

/** The words of a callout, and the end of its line, which is dragged to another place on the map. */
export function InsideCallout(props: InsideProps<'callout'>) {
  const { sheet, part, box, scale, unturned } = props
  const viewOf = usePanelViews(sheet)
  const held = useRef<{ from: [number, number]; end: [number, number] } | null>(null)
  const shown = viewOf(part.settings.panelId)
  const frame = { box, rotationDeg: part.rotationDeg }
  const end = calloutEnd(part.settings, frame, { panel: () => shown })
  const change = settingsChanger(sheet.id, part)
  const moveTo = (event: React.PointerEvent) => {
    if (!held.current || !shown) return
    const { from, end: start } = held.current
    const [dx, dy] = unturned(event.clientX - from[0], event.clientY - from[1])
    const onPage = toPage(frame, [start[0] + dx / scale, start[1] + dy / scale])
    const place = unproject(shown.lie(), shown.to, ...toLocal(shown.frame, onPage))
    if (place) change('Move the end of the line', (s) => void (s.place = place), 'place')
  }
  const release = () => {
    held.current = null
    useFolio.getState().seal()
  }
  return (
    <>
      <InsideWords
        name={part.name}
        settings={part.settings}
        change={change}
        scale={scale}
        fromRight={liesRight(box, sheet)}
        onLeave={props.onLeave}
      />
      {end && (
        <span
          title="Drag to another place on the map"
          className="absolute z-20 grid size-6 -translate-1/2 cursor-move touch-none place-items-center"
          style={{ left: (end[0] - box.x) * scale, top: (end[1] - box.y) * scale }}
          onPointerDown={(event) => {
            event.stopPropagation()
            event.currentTarget.setPointerCapture(event.pointerId)
            held.current = { from: [event.clientX, event.clientY], end }
          }}
          onPointerMove={moveTo}
          onPointerUp={release}
          onPointerCancel={release}
        >
          <span className="size-3 rounded-full border-2 border-[#9c1f5e] bg-white" />
        </span>
      )}
    </>
  )
}
