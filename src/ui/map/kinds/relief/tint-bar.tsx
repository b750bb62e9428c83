'use client'
import { useId, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { ReliefPlan } from '@/core/kinds/relief/plan'
import { mostStops, type ReliefSettings, type TintStop } from '@/core/kinds/relief/spec'
import { hexOfInk, tinter } from '@/core/kinds/relief/tints'

type Tints = NonNullable<ReliefSettings['tints']>
type Mist = NonNullable<ReliefSettings['mist']>

const [wide, high, barTop, barHigh] = [300, 92, 52, 14]
/** Free room at either side, so that handles at the ends can be taken hold of. */
const edge = 8
const shades = 100

/**
 * How often heights are found, over the tints that they are given. Stops are dragged along the bar, one is added where
 * the bar is clicked, and the mist is set by its two handles above: up to where it is thick, and where it is gone.
 */
export function TintBar({
  plan,
  tints,
  mist,
  unit,
  chosen,
  onChoose,
  onStop,
  onAdd,
  onMist,
}: {
  plan: NonNullable<ReliefPlan>
  tints: Tints | null
  mist: Mist | null
  unit: string
  chosen: number
  onChoose: (stop: number) => void
  onStop: (stop: number, at: number) => void
  onAdd: (stop: TintStop) => void
  onMist: (foot: number, reach: number) => void
}) {
  const svg = useRef<SVGSVGElement>(null)
  const gradient = useId()
  const [held, setHeld] = useState<number | 'foot' | 'top' | null>(null)
  const { low, high: top } = plan
  const stops = tints?.stops ?? []
  const reach = Math.max(top, mist ? mist.foot + mist.reach : top, ...stops.map(({ at }) => at))
  const from = Math.min(low, mist?.foot ?? low, ...stops.map(({ at }) => at))
  const span = reach - from || 1
  const x = (height: number): number => edge + ((wide - 2 * edge) * (height - from)) / span
  const step = 10 ** Math.max(-3, Math.floor(Math.log10(span)) - 2)
  const rounded = (height: number): number => Number((Math.round(height / step) * step).toPrecision(12))
  const heightAt = (event: PointerEvent): number => {
    const box = svg.current?.getBoundingClientRect()
    const share = box ? ((event.clientX - box.left) / box.width) * wide : 0
    return rounded(from + ((share - edge) / (wide - 2 * edge)) * span)
  }
  const put = (what: NonNullable<typeof held>, at: number): void => {
    if (typeof what === 'number') onStop(what, at)
    else if (mist && what === 'foot') onMist(at, Math.max(step, mist.foot + mist.reach - at))
    else if (mist) onMist(mist.foot, Math.max(step, at - mist.foot))
  }
  const take = (what: NonNullable<typeof held>) => ({
    tabIndex: 0,
    role: 'slider',
    onPointerDown: (event: PointerEvent) => {
      event.stopPropagation()
      event.currentTarget.setPointerCapture(event.pointerId)
      setHeld(what)
      if (typeof what === 'number') onChoose(what)
    },
    onPointerMove: (event: PointerEvent) => held === what && put(what, heightAt(event)),
    onPointerUp: () => setHeld(null),
    onFocus: () => typeof what === 'number' && onChoose(what),
    onKeyDown: (event: KeyboardEvent) => {
      const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
      if (!by) return
      event.preventDefault()
      const top = mist ? mist.foot + mist.reach : 0
      const at = typeof what === 'number' ? stops[what].at : { foot: mist?.foot ?? 0, top }[what]
      put(what, rounded(at + by * step * (event.shiftKey ? 10 : 1)))
    },
    className: 'cursor-ew-resize outline-offset-2',
  })
  const tint = tinter(tints)
  const most = Math.max(...plan.counts, 1)
  const barWide = (x(top) - x(low)) / plan.counts.length
  const words = (height: number): string => `${height.toLocaleString('en-GB')} ${unit}`.trim()
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${wide} ${high}`}
      className="w-full touch-none select-none"
      role="group"
      aria-label="Heights and their tints"
    >
      {plan.counts.map((count, i) => {
        const tall = count ? Math.max(1, (40 * Math.sqrt(count)) / Math.sqrt(most)) : 0
        return (
          <rect
            key={i}
            x={x(low) + i * barWide}
            y={barTop - 4 - tall}
            width={Math.max(0.5, barWide - 0.4)}
            height={tall}
            className="fill-line"
          />
        )
      })}
      {mist && (
        <>
          <path
            d={`M${x(from)} ${barTop - 4}V8H${x(mist.foot)}L${x(mist.foot + mist.reach)} ${barTop - 4}Z`}
            fill={mist.colour}
            fillOpacity={0.25 + 0.6 * mist.opacity}
            className="stroke-muted"
            strokeWidth={0.75}
          />
          {(['foot', 'top'] as const).map((what) => {
            const at = what === 'foot' ? mist.foot : mist.foot + mist.reach
            return (
              <circle
                key={what}
                {...take(what)}
                cx={x(at)}
                cy={what === 'foot' ? 8 : barTop - 4}
                r={5}
                aria-label={what === 'foot' ? 'Mist is thick up to' : 'Mist is gone at'}
                aria-valuemin={from}
                aria-valuemax={reach}
                aria-valuenow={at}
                aria-valuetext={words(at)}
                className="cursor-ew-resize fill-base-100 stroke-primary"
                strokeWidth={1.5}
              />
            )
          })}
        </>
      )}
      {tint && (
        <g
          role="presentation"
          onPointerDown={(event) => {
            if (stops.length >= mostStops) return
            const at = heightAt(event)
            const ink = tint(at)
            onAdd({ at, colour: hexOfInk(ink), opacity: ink[3] })
          }}
        >
          <linearGradient id={gradient}>
            {Array.from({ length: shades + 1 }, (_, i) => {
              const [r, g, b, opacity] = tint(from + (i / shades) * span)
              return (
                <stop key={i} offset={i / shades} stopColor={`rgb(${r} ${g} ${b})`} stopOpacity={opacity} />
              )
            })}
          </linearGradient>
          <rect
            x={edge}
            y={barTop}
            width={wide - 2 * edge}
            height={barHigh}
            fill={`url(#${gradient})`}
            className="cursor-copy stroke-line"
          />
        </g>
      )}
      {stops.map(({ at, colour }, i) => (
        <path
          key={i}
          {...take(i)}
          d={`M${x(at)} ${barTop + barHigh - 3}l6 8v11h-12v-11Z`}
          fill={colour}
          aria-label={`Tint ${i + 1}`}
          aria-valuemin={from}
          aria-valuemax={reach}
          aria-valuenow={at}
          aria-valuetext={words(at)}
          strokeWidth={i === chosen ? 2 : 1}
          className={`cursor-ew-resize ${i === chosen ? 'stroke-primary' : 'stroke-muted'}`}
        />
      ))}
    </svg>
  )
}
