'use client'
import { RotateCw } from 'lucide-react'
import { boxAround, boxAroundAll, type Frame } from '@/core/sheet/frame'
import type { PartBox } from '@/core/sheet/part'
import { partTypeOf } from '@/core/sheet/registry'
import type { Handle } from '@/core/sheet/snapping'
import type { Part } from '@/core/sheet/spec'
import type { FrameOf } from '../selecting'

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

const ways = ['ns', 'nesw', 'ew', 'nwse']

/** The cursor for a handle of a part that is turned. */
function cursorOf({ x, y }: Handle, rotationDeg: number): string {
  const angle = (Math.atan2(x, -y) * 180) / Math.PI + rotationDeg
  return `${ways[((Math.round(angle / 45) % 4) + 4) % 4]}-resize`
}

const placed = ({ box, rotationDeg }: Frame, scale: number) => ({
  left: box.x * scale,
  top: box.y * scale,
  width: box.width * scale,
  height: box.height * scale,
  ...(rotationDeg && { transform: `rotate(${rotationDeg}deg)` }),
})

type Props = {
  parts: Part[]
  frameOf: FrameOf
  scale: number
  onGrab: (event: React.PointerEvent, part: Part, handle: Handle) => void
  onTurn: (event: React.PointerEvent, parts: Part[]) => void
}

/** The frames around the selected parts; handles to resize one and to turn all, and the size in words. */
export function Selection({ parts, frameOf, scale, onGrab, onTurn }: Props) {
  const shown = parts.filter(({ hidden }) => !hidden)
  const free = shown.filter(({ locked }) => !locked)
  if (!shown.length) return null
  const [only] = shown.length === 1 ? shown : []
  const box = boxAroundAll(shown.map((part) => boxAround(frameOf(part))))
  if (!box) return null
  return (
    <>
      {shown.map((part) => (
        <div
          key={part.id}
          className={`pointer-events-none absolute border-[#9c1f5e] ${only ? 'border-[1.5px]' : 'border'}`}
          style={placed(frameOf(part), scale)}
        >
          {part === only && !part.locked && (
            <>
              <TurnHandle onGrab={(event) => onTurn(event, [part])} />
              <Handles part={part} onGrab={onGrab} />
            </>
          )}
        </div>
      ))}
      {!only && (
        <div
          className="pointer-events-none absolute border border-dashed border-[#9c1f5e]"
          style={placed({ box, rotationDeg: 0 }, scale)}
        >
          {free.length > 0 && <TurnHandle onGrab={(event) => onTurn(event, free)} />}
        </div>
      )}
      <SizeNote box={only ? frameOf(only).box : box} around={box} scale={scale} words={wordsOf(shown)} />
    </>
  )
}

const wordsOf = (parts: Part[]): string => {
  const [only] = parts
  const turned = parts.length === 1 && only.rotationDeg ? ` · ${only.rotationDeg}°` : ''
  const many = parts.length > 1 ? ` · ${parts.length} parts` : ''
  return `${turned}${many}${parts.every(({ locked }) => locked) ? ' · locked' : ''}`
}

const SizeNote = ({
  box,
  around,
  scale,
  words,
}: {
  box: PartBox
  around: PartBox
  scale: number
  words: string
}) => (
  <span
    className="pointer-events-none absolute z-10 mt-2 -translate-x-1/2 rounded bg-[#9c1f5e] px-1.5 py-0.5 text-[11px] whitespace-nowrap text-white"
    style={{ left: (around.x + around.width / 2) * scale, top: (around.y + around.height) * scale }}
  >
    {box.width.toFixed(1)} × {box.height.toFixed(1)} mm{words}
  </span>
)

const TurnHandle = ({ onGrab }: { onGrab: (event: React.PointerEvent) => void }) => (
  <span
    title="Turn; with Shift by steps of 15°"
    className="pointer-events-auto absolute -top-9 left-1/2 grid size-6 -translate-x-1/2 cursor-grab place-items-center"
    onPointerDown={(event) => {
      event.stopPropagation()
      onGrab(event)
    }}
  >
    <span className="grid size-[18px] place-items-center rounded-full border border-[#9c1f5e] bg-white text-[#9c1f5e]">
      <RotateCw size={11} aria-hidden />
    </span>
  </span>
)

const Handles = ({ part, onGrab }: { part: Part; onGrab: Props['onGrab'] }) =>
  handles[partTypeOf(part.type).resize].map((handle) => (
    <span
      key={`${handle.x},${handle.y}`}
      aria-hidden
      className="pointer-events-auto absolute grid size-6 -translate-1/2 place-items-center"
      style={{
        left: `${(handle.x + 1) * 50}%`,
        top: `${(handle.y + 1) * 50}%`,
        cursor: cursorOf(handle, part.rotationDeg),
      }}
      onPointerDown={(event) => {
        event.stopPropagation()
        onGrab(event, part, handle)
      }}
    >
      <span className="size-[7px] border-[1.5px] border-[#9c1f5e] bg-white" />
    </span>
  ))
