'use client'
import { Trash2, Undo2 } from 'lucide-react'
import { useRef, useState } from 'react'
import { around } from '@/core/labels/candidate'
import type { PlacedLabel } from '@/core/map/label-map'
import { mmPerPx } from '@/core/scene/units'
import type { Layer, MapSpec, MapView } from '@/core/map/spec'
import { IconButton } from '../../kit/controls'
import { editLayer } from '../edit-map'
import { reportOf, useLabelReport } from './report'
import { placeAt, type SizePx } from '../viewing'

type Props = { map: MapSpec; layer: Layer; view: MapView; size: SizePx }

/**
 * The labels of a layer as things to take hold of: dragged to another place, nudged with the arrow keys, put
 * back or taken away.
 */
export function LabelHandles({ map, layer, view, size }: Props) {
  const { report, view: placedIn } = useLabelReport()
  const [chosen, setChosen] = useState<string | null>(null)
  const [drag, setDrag] = useState<{ key: string; dx: number; dy: number } | null>(null)
  const start = useRef<{ x: number; y: number } | null>(null)
  const own = reportOf(report, layer.id).placed
  const move = (label: PlacedLabel, dx: number, dy: number) => {
    const { x, y } = middleOf(label)
    const place = placeAt(map, view, size, { xPx: x + dx, yPx: y + dy })
    if (place)
      editLayer(
        layer.id,
        `Move the label ${label.text}`,
        (draft) => draft.labels && void (draft.labels.moved[label.key] = place),
        `label ${label.key}`,
      )
  }
  return (
    <div className={`pointer-events-none absolute inset-0 ${placedIn === view ? '' : 'invisible'}`}>
      {own.map((label, i) => {
        const [x0, y0, x1, y1] = around(label.boxes).map((mm) => mm / mmPerPx)
        const at = drag?.key === label.key ? drag : { dx: 0, dy: 0 }
        const on = chosen === label.key
        return (
          <div
            key={`${label.key} ${i}`}
            data-over-map
            className="absolute"
            style={{ left: x0 - 2 + at.dx, top: y0 - 2 + at.dy, width: x1 - x0 + 4, height: y1 - y0 + 4 }}
          >
            <button
              type="button"
              aria-label={`Label ${label.text}`}
              aria-pressed={on}
              tabIndex={on || (chosen === null && i === 0) ? 0 : -1}
              className={`pointer-events-auto size-full cursor-move rounded-sm border ${on || drag?.key === label.key ? 'border-primary bg-primary/10' : 'border-transparent hover:border-primary/60'}`}
              onPointerDown={(event) => {
                event.stopPropagation()
                event.currentTarget.setPointerCapture(event.pointerId)
                start.current = { x: event.clientX, y: event.clientY }
              }}
              onPointerMove={(event) => {
                if (!start.current) return
                const [dx, dy] = [event.clientX - start.current.x, event.clientY - start.current.y]
                if (drag || Math.hypot(dx, dy) >= 4) setDrag({ key: label.key, dx, dy })
              }}
              onPointerUp={() => {
                if (drag) move(label, drag.dx, drag.dy)
                start.current = null
                setDrag(null)
                setChosen(label.key)
              }}
              onPointerCancel={() => {
                start.current = null
                setDrag(null)
              }}
              onClick={() => setChosen(label.key)}
              onKeyDown={(event) => {
                const step = event.shiftKey ? 10 : 2
                const arrows: Record<string, [number, number]> = {
                  ArrowLeft: [-step, 0],
                  ArrowRight: [step, 0],
                  ArrowUp: [0, -step],
                  ArrowDown: [0, step],
                }
                if (event.key in arrows) move(label, ...arrows[event.key])
                else if (event.key === 'Escape') setChosen(null)
                else if (event.key === 'Delete' || event.key === 'Backspace') takeAway(layer, label)
                else return
                event.preventDefault()
                event.stopPropagation()
              }}
            />
            {on && !drag && (
              <div className="floating pointer-events-auto absolute top-full left-0 z-10 mt-1 flex p-0.5">
                <IconButton
                  label={`Put the label ${label.text} back`}
                  disabled={!label.moved}
                  onClick={() =>
                    editLayer(layer.id, `Label ${label.text} back`, (draft) => {
                      if (draft.labels) delete draft.labels.moved[label.key]
                    })
                  }
                >
                  <Undo2 size={14} />
                </IconButton>
                <IconButton
                  label={`Take the label ${label.text} away`}
                  onClick={() => takeAway(layer, label)}
                >
                  <Trash2 size={14} />
                </IconButton>
              </div>
            )}
          </div>
        )
      })}
    </div>
  )
}

const takeAway = (layer: Layer, label: PlacedLabel): void =>
  editLayer(layer.id, `Take the label ${label.text} away`, (draft) => {
    if (draft.labels && !draft.labels.without.includes(label.key)) draft.labels.without.push(label.key)
  })

/** The middle of a label in CSS pixels; that of the text, without the room for hanging letters. */
const middleOf = ({ at }: PlacedLabel): { x: number; y: number } => ({
  x: at[0] / mmPerPx,
  y: at[1] / mmPerPx,
})
