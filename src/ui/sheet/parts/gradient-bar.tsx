'use client'
import { Minus } from 'lucide-react'
import { useRef, useState } from 'react'
import { colourAt, type GradientStop } from '@/core/sheet/fill'
import { ColourField } from '../../kit/colour-field'
import { IconButton, Row } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'

type Props = {
  stops: GradientStop[]
  onChange: (stops: GradientStop[], merge?: string) => void
  onEnd?: () => void
}

const css = ({ colour, opacity }: { colour: string; opacity: number }): string =>
  `${colour}${Math.round(opacity * 255)
    .toString(16)
    .padStart(2, '0')}`

/** The stops of a gradient on a bar: dragged, added by a double click, taken away, each with colour and opacity. */
export function GradientBar({ stops, onChange, onEnd }: Props) {
  const bar = useRef<HTMLDivElement>(null)
  const [chosen, setChosen] = useState(0)
  const held = useRef<number | null>(null)
  const at = (event: React.PointerEvent | React.MouseEvent): number => {
    const box = bar.current?.getBoundingClientRect()
    const share = box ? (event.clientX - box.left) / box.width : 0
    return Math.round(Math.max(0, Math.min(1, share)) * 100) / 100
  }
  const set = (i: number, part: Partial<GradientStop>, merge?: string) =>
    onChange(
      stops.map((stop, j) => (j === i ? { ...stop, ...part } : stop)),
      merge,
    )
  const stop = stops[chosen] ?? stops[0]
  const index = stops[chosen] ? chosen : 0
  const gradient = [...stops]
    .sort((a, b) => a.at - b.at)
    .map((one) => `${css(one)} ${one.at * 100}%`)
    .join(', ')
  return (
    <div className="flex flex-col gap-1">
      <div className="px-2 pt-1 pb-4">
        <div
          ref={bar}
          className="relative h-5 rounded border border-line"
          title="Double click to add a colour"
          style={{
            background: `linear-gradient(to right, ${gradient}), repeating-conic-gradient(#ddd 0 25%, #fff 0 50%) 0 / 8px 8px`,
          }}
          onDoubleClick={(event) => {
            const place = at(event)
            onChange([...stops, { at: place, ...colourAt(stops, place) }])
            setChosen(stops.length)
          }}
          onPointerMove={(event) => {
            if (held.current !== null) set(held.current, { at: at(event) }, `stop ${held.current}`)
          }}
        >
          {stops.map((one, i) => (
            <button
              key={i}
              type="button"
              aria-label={`Colour ${i + 1} at ${Math.round(one.at * 100)} %`}
              aria-pressed={i === index}
              className="absolute top-full grid h-6 w-6 -translate-x-1/2 cursor-ew-resize touch-none place-items-start justify-center"
              style={{ left: `${one.at * 100}%` }}
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId)
                held.current = i
                setChosen(i)
              }}
              onPointerUp={() => {
                held.current = null
                onEnd?.()
              }}
              onKeyDown={(event) => {
                const by = { ArrowLeft: -0.01, ArrowRight: 0.01 }[event.key]
                if (by === undefined) return
                event.preventDefault()
                event.stopPropagation()
                set(i, { at: Math.round(Math.max(0, Math.min(1, one.at + by)) * 100) / 100 }, `stop ${i}`)
              }}
            >
              <span
                className={`mt-px size-3 rotate-45 border-2 ${i === index ? 'border-primary' : 'border-muted'}`}
                style={{ background: one.colour }}
              />
            </button>
          ))}
        </div>
      </div>
      <Row label="Colour">
        <ColourField
          label="Colour of the stop"
          value={stop.colour}
          onChange={(colour) => set(index, { colour }, `stop colour ${index}`)}
        />
        <IconButton
          label="Remove this colour"
          disabled={stops.length < 3}
          onClick={() => {
            onChange(stops.filter((_, i) => i !== index))
            setChosen(0)
          }}
        >
          <Minus size={14} />
        </IconButton>
      </Row>
      <Row label="Opacity, at">
        <NumberField
          label="Opacity of the stop"
          value={stop.opacity * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          decimals={0}
          onChange={(n) => set(index, { opacity: n / 100 }, `stop opacity ${index}`)}
        />
        <NumberField
          label="Place of the stop"
          value={stop.at * 100}
          unit="%"
          min={0}
          max={100}
          step={1}
          decimals={0}
          onChange={(n) => set(index, { at: n / 100 }, `stop ${index}`)}
        />
      </Row>
    </div>
  )
}
