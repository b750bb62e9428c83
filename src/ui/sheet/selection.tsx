'use client'
import type { PartBox } from '@/core/sheet/part'
import { partTypeOf } from '@/core/sheet/registry'
import type { Handle } from '@/core/sheet/snapping'
import type { Part } from '@/core/sheet/spec'

const handles: Record<'free' | 'width' | 'none', Handle[]> = {
  free: [-1, 0, 1].flatMap((y) =>
    [-1, 0, 1].filter((x) => x !== 0 || y !== 0).map((x) => ({ x, y }) as Handle),
  ),
  width: [
    { x: -1, y: 0 },
    { x: 1, y: 0 },
  ],
  none: [],
}

const cursors = {
  '-1,-1': 'nwse-resize',
  '1,1': 'nwse-resize',
  '1,-1': 'nesw-resize',
  '-1,1': 'nesw-resize',
  '0,-1': 'ns-resize',
  '0,1': 'ns-resize',
  '-1,0': 'ew-resize',
  '1,0': 'ew-resize',
} as Record<string, string>

/** The frame around the selected part with its handles and its size. */
export function Selection({
  part,
  box,
  scale,
  onGrab,
}: {
  part: Part
  box: PartBox
  scale: number
  onGrab: (event: React.PointerEvent, handle: Handle) => void
}) {
  return (
    <div
      className="pointer-events-none absolute border-[1.5px] border-[#9c1f5e]"
      style={{
        left: box.x * scale,
        top: box.y * scale,
        width: box.width * scale,
        height: box.height * scale,
      }}
    >
      {!part.locked &&
        handles[partTypeOf(part.type).resize].map((handle) => (
          <span
            key={`${handle.x},${handle.y}`}
            aria-hidden
            className="pointer-events-auto absolute grid size-6 -translate-1/2 place-items-center"
            style={{
              left: `${(handle.x + 1) * 50}%`,
              top: `${(handle.y + 1) * 50}%`,
              cursor: cursors[`${handle.x},${handle.y}`],
            }}
            onPointerDown={(event) => {
              event.stopPropagation()
              onGrab(event, handle)
            }}
          >
            <span className="size-[7px] border-[1.5px] border-[#9c1f5e] bg-white" />
          </span>
        ))}
      <span className="absolute top-full left-1/2 mt-2 -translate-x-1/2 rounded bg-[#9c1f5e] px-1.5 py-0.5 text-[11px] whitespace-nowrap text-white">
        {box.width.toFixed(1)} × {box.height.toFixed(1)} mm{part.locked ? ' · locked' : ''}
      </span>
    </div>
  )
}
