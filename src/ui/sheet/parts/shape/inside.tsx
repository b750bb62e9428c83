'use client'
import { useRef, useState } from 'react'
import type { Draft } from 'immer'
import type { ShapeSettings } from '@/core/sheet/parts/shape'
import { useFolio } from '../../../shell/folio-store'
import { settingsChanger } from '../../edit-sheet'
import type { InsideProps } from '../inside-props'

/** A freehand line keeps a place for each so many pixels that the pointer went. */
const pacePx = 4

/** The points of a line or polygon, each a handle; a freehand line is drawn anew over the old one. */
export function InsideShape({ sheet, part, box, scale, unturned, onLeave }: InsideProps<'shape'>) {
  const { form, points } = part.settings
  const held = useRef<number | null>(null)
  const drawn = useRef<[number, number][] | null>(null)
  const [trail, setTrail] = useState<[number, number][]>([])
  const change = settingsChanger(sheet.id, part)
  const size: [number, number] = [Math.max(0.1, box.width) * scale, Math.max(0.1, box.height) * scale]
  const within = (event: React.PointerEvent): [number, number] => {
    const frame = event.currentTarget.closest('[data-inside]')?.getBoundingClientRect()
    const [mx, my] = frame ? [frame.left + frame.width / 2, frame.top + frame.height / 2] : [0, 0]
    const [dx, dy] = unturned(event.clientX - mx, event.clientY - my)
    const limited = (n: number) => Math.round(Math.max(-1, Math.min(2, n)) * 1e4) / 1e4
    return [limited(dx / size[0] + 0.5), limited(dy / size[1] + 0.5)]
  }
  const set = (recipe: (settings: Draft<ShapeSettings>) => void) =>
    change('Points of the shape', recipe, 'points')
  const end = () => {
    held.current = null
    useFolio.getState().seal()
  }
  if (form !== 'line' && form !== 'polygon' && form !== 'freehand') return null
  const finish = () => {
    const places = drawn.current
    drawn.current = null
    setTrail([])
    if (places && places.length > 2) change('Draw the line', (s) => void (s.points = places.slice(0, 5000)))
  }
  return (
    <div
      ref={(element) => element?.focus()}
      tabIndex={0}
      className={`absolute -inset-6 outline-none ${form === 'freehand' ? 'cursor-crosshair touch-none' : ''}`}
      onKeyDown={(event) => event.key === 'Escape' && onLeave()}
      onPointerDown={(event) => {
        if (form !== 'freehand') return
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        drawn.current = [within(event)]
      }}
      onPointerMove={(event) => {
        const places = drawn.current
        if (!places) return
        const here = within(event)
        const last = places[places.length - 1]
        if (Math.hypot((here[0] - last[0]) * size[0], (here[1] - last[1]) * size[1]) < pacePx) return
        places.push(here)
        setTrail([...places])
      }}
      onPointerUp={finish}
      onPointerCancel={finish}
    >
      {trail.length > 1 && (
        <svg className="pointer-events-none absolute inset-6 overflow-visible" aria-hidden>
          <polyline
            points={trail.map(([u, v]) => `${u * size[0]},${v * size[1]}`).join(' ')}
            fill="none"
            stroke="#9c1f5e"
          />
        </svg>
      )}
      {form !== 'freehand' &&
        points.map(([u, v], i) => (
          <span key={i}>
            <span
              title={points.length > 2 ? 'Drag to move; double click to take away' : 'Drag to move'}
              className="absolute z-10 grid size-6 -translate-1/2 cursor-move touch-none place-items-center"
              style={{ left: 24 + u * size[0], top: 24 + v * size[1] }}
              onPointerDown={(event) => {
                event.stopPropagation()
                event.currentTarget.setPointerCapture(event.pointerId)
                held.current = i
              }}
              onPointerMove={(event) => {
                if (held.current !== i) return
                const place = within(event)
                set((s) => void (s.points[i] = place))
              }}
              onPointerUp={end}
              onDoubleClick={(event) => {
                event.stopPropagation()
                if (points.length > (form === 'polygon' ? 3 : 2)) set((s) => void s.points.splice(i, 1))
              }}
            >
              <span className="size-[9px] rounded-full border-[1.5px] border-[#9c1f5e] bg-white" />
            </span>
            {(form === 'polygon' || i + 1 < points.length) && (
              <button
                type="button"
                aria-label={`Add a point after ${i + 1}`}
                className="absolute grid size-5 -translate-1/2 place-items-center"
                style={{
                  left: 24 + ((u + points[(i + 1) % points.length][0]) / 2) * size[0],
                  top: 24 + ((v + points[(i + 1) % points.length][1]) / 2) * size[1],
                }}
                onPointerDown={(event) => event.stopPropagation()}
                onClick={() =>
                  set((s) => {
                    const [a, b] = [s.points[i], s.points[(i + 1) % s.points.length]]
                    s.points.splice(i + 1, 0, [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2])
                  })
                }
              >
                <span className="size-[6px] rounded-full border border-[#9c1f5e] bg-[#f4d3e2]" />
              </button>
            )}
          </span>
        ))}
    </div>
  )
}
