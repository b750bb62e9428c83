'use client'
import { memo, useCallback, useMemo, useRef } from 'react'
import { breaksByHand, classIndex } from '@/core/classify/classify'
import { decimalsFor } from '@/core/classify/labels'
import { maxClasses, minClasses } from '@/core/classify/spec'
import { histogram } from '@/core/data/summary'
import type { Classes } from '@/core/kinds/kind'
import type { Layer } from '@/core/map/spec'
import { useSize } from '../../kit/use-size'
import { useFolio } from '../../shell/folio-store'
import { changeClassing, classingOf } from '../edit-classing'
import { BreakHandle, labelWidth } from './break-handle'
import { spreadOut } from '@/core/labels/spread-out'
import type { BenchView } from './view'

const plotHeight = 104
const plotTop = 26
const base = plotTop + plotHeight

const asItIs = (value: number): number => value

export type Mark = { value: number; name: string }
type Props = {
  layer: Layer
  classes: Classes
  marks: Mark[]
  view: BenchView
  marked: number
  onMark: (feature: number) => void
}

/**
 * The values over the full width, with breaks to be dragged: as bars, as a rising curve, or as one dot each.
 */
export function Distribution({
  layer,
  classes: { result, colours, values, shadeOf },
  marks,
  view,
  marked,
  onMark,
}: Props) {
  const frame = useRef<HTMLDivElement>(null)
  const size = useSize(frame)
  const width = Math.max(200, (size?.width ?? 660) - 32)
  const classing = classingOf(layer)
  const sorted = useMemo(
    () => [...values.keys()].filter((f) => Number.isFinite(values[f])).sort((a, b) => values[a] - values[b]),
    [values],
  )
  const [least, most] = [values[sorted[0]] ?? 0, values[sorted[sorted.length - 1]] ?? 1]
  const low = Math.min(least, result.breaks[0])
  const high = Math.max(most, result.breaks[result.breaks.length - 1])
  const log = view.axis === 'log' && low > 0
  const to = log ? Math.log : asItIs
  const span = to(high) - to(low) || 1
  const x = useCallback(
    (value: number) => ((to(value) - to(low)) / (to(high) - to(low) || 1)) * width,
    [low, high, to, width],
  )
  const valueAt = (px: number) => {
    const along = to(low) + (px / width) * span
    return log ? Math.exp(along) : along
  }
  // Breaks set by hand stand where they were put at once; the classes made of them follow from the worker.
  const byHand = classing?.method === 'manual' ? breaksByHand(classing.manualBreaks, low, high) : null
  const settled = !byHand || byHand.slice(1, -1).join() === result.breaks.slice(1, -1).join()
  const breaks = settled ? result.breaks : byHand
  const inner = breaks.slice(1, -1)
  const decimals = decimalsFor(breaks)
  const labelAt = spreadOut(
    inner.map(x),
    inner.map((value) => labelWidth(value, decimals)),
    2,
  )
  const colourOf = (value: number) =>
    shadeOf?.(value) ?? colours[classIndex(result.breaks, value, result.inclusive)] ?? '#999999'

  const setBreaks = (next: number[], name: string, merge?: string) =>
    changeClassing(
      layer,
      name,
      (s) => {
        s.method = 'manual'
        s.manualBreaks = [...next].sort((a, b) => a - b)
      },
      merge,
    )
  // A value as short as a step of one pixel allows.
  const tidy = (value: number) =>
    Number(
      value.toFixed(Math.min(10, Math.max(0, Math.ceil(-Math.log10((log ? value * span : span) / width))))),
    )
  const nearest = (px: number): number => {
    const value = valueAt(px)
    let best = -1
    for (const f of sorted)
      if (best < 0 || Math.abs(values[f] - value) < Math.abs(values[best] - value)) best = f
    return best >= 0 && Math.abs(x(values[best]) - px) < 8 ? best : -1
  }
  const lock = (value: number) =>
    changeClassing(layer, classing?.locked.includes(value) ? 'Unlock a break' : 'Lock a break', (s) => {
      if (s.locked.includes(value)) s.locked = s.locked.filter((b) => b !== value)
      else s.locked = [...s.locked, value].sort((a, b) => a - b)
    })
  return (
    <div ref={frame} className="shrink-0 px-4">
      <svg
        width={width}
        height={base + 18}
        className="overflow-visible"
        role="group"
        aria-label="Distribution with breaks"
        onDoubleClick={(event) => {
          if ((event.target as Element).closest('[role=slider]') || inner.length + 2 > maxClasses) return
          setBreaks(
            [...inner, tidy(valueAt(event.clientX - event.currentTarget.getBoundingClientRect().left))],
            'Add a break',
          )
        }}
        onPointerMove={(event) => {
          const box = event.currentTarget.getBoundingClientRect()
          onMark(event.clientY - box.top > base + 1 ? nearest(event.clientX - box.left) : -1)
        }}
        onPointerLeave={() => onMark(-1)}
      >
        <title>Double click adds a break</title>
        {view.shape === 'bars' && (
          <Bars values={values} wanted={view.bins} log={log} x={x} colourOf={colourOf} />
        )}
        {view.shape === 'curve' && (
          <Curve sorted={sorted} values={values} x={x} breaks={result.breaks} colours={colours} />
        )}
        {view.shape === 'dots' && <Heap sorted={sorted} values={values} x={x} colourOf={colourOf} />}
        <path d={`M0 ${base + 0.5}H${width}`} stroke="var(--muted)" />
        <Marks marks={marks.filter(({ value }) => value > low && value < high)} x={x} width={width} />
        <Strip values={values} x={x} y={base + 9} />
        {marked >= 0 && Number.isFinite(values[marked]) && (
          <circle
            cx={x(values[marked])}
            cy={base + 9}
            r={4.5}
            fill="none"
            stroke="var(--color-primary)"
            strokeWidth={2}
          />
        )}
        {inner.map((value, i) => (
          <BreakHandle
            key={i}
            index={i}
            value={value}
            decimals={decimals}
            x={x(value)}
            labelX={labelAt[i]}
            top={plotTop}
            bottom={base + 14}
            low={breaks[i]}
            high={breaks[i + 2]}
            step={10 ** Math.floor(Math.log10((log ? value : span) / 100))}
            locked={classing?.locked.includes(value) ?? false}
            canLock={classing?.method !== 'manual'}
            onLock={() => lock(value)}
            onMove={(px) =>
              setBreaks(
                inner.map((b, j) =>
                  j === i ? tidy(valueAt(Math.min(x(breaks[i + 2]) - 1, Math.max(x(breaks[i]) + 1, px)))) : b,
                ),
                'Move a break',
                `break ${i}`,
              )
            }
            onSet={(next) =>
              setBreaks(
                inner.map((b, j) => (j === i ? next : b)),
                'Set a break',
              )
            }
            onRemove={() =>
              inner.length > minClasses - 1 &&
              setBreaks(
                inner.filter((_, j) => j !== i),
                'Remove a break',
              )
            }
            onEnd={() => useFolio.getState().seal()}
          />
        ))}
      </svg>
    </div>
  )
}

/** Values nearer to each other than this, in pixels, share a line and its words. */
const togetherPx = 5
const markRowPx = 14

/**
 * Mean, median and the like as broken lines with their words beside them, each in a row of its own so that none
 * writes over another; those of one value stand together.
 */
function Marks({ marks, x, width }: { marks: Mark[]; x: (value: number) => number; width: number }) {
  const groups: Mark[][] = []
  for (const mark of [...marks].sort((a, b) => a.value - b.value)) {
    const last = groups.at(-1)
    if (last && x(mark.value) - x(last[0].value) < togetherPx) last.push(mark)
    else groups.push([mark])
  }
  return (
    <>
      {groups.map((group, row) => {
        const at = x(group[0].value)
        const atEnd = at > width / 2
        const y = plotTop + 12 + markRowPx * (atEnd ? row : groups.length - 1 - row)
        const words = group.map(({ name }) => name).join(', ')
        return (
          <g key={words} className="text-muted" aria-label={words}>
            <path d={`M${at} ${plotTop}V${base}`} stroke="currentColor" strokeDasharray="2 3" />
            <text
              x={at + (atEnd ? -5 : 5)}
              y={y}
              textAnchor={atEnd ? 'end' : 'start'}
              fontSize={11}
              fill="currentColor"
              stroke="var(--color-base-100)"
              strokeWidth={4}
              strokeLinejoin="round"
              paintOrder="stroke"
            >
              {words}
            </text>
          </g>
        )
      })}
    </>
  )
}

/** Bins of equal width on the axis, coloured by the class of their middle. */
function Bars({
  values,
  wanted,
  log,
  x,
  colourOf,
}: {
  values: Float64Array
  wanted: number | null
  log: boolean
  x: (value: number) => number
  colourOf: (value: number) => string
}) {
  const bins = useMemo(() => {
    if (!log) return histogram(values, wanted ?? undefined)
    return histogram(values.map(Math.log), wanted ?? undefined).map(({ from, to, count }) => ({
      from: Math.exp(from),
      to: Math.exp(to),
      count,
    }))
  }, [values, wanted, log])
  const top = Math.max(1, ...bins.map((bin) => bin.count))
  return (
    <>
      {bins.map((bin, i) => {
        const height = (bin.count / top) * (plotHeight - 6)
        return (
          bin.count > 0 && (
            <rect
              key={i}
              x={x(bin.from) + 0.5}
              width={Math.max(1, x(bin.to) - x(bin.from) - 1)}
              y={base - Math.max(1.5, height)}
              height={Math.max(1.5, height)}
              fill={colourOf(log ? Math.sqrt(bin.from * bin.to) : (bin.from + bin.to) / 2)}
              stroke="var(--muted)"
              strokeOpacity={0.35}
              strokeWidth={0.5}
            />
          )
        )
      })}
    </>
  )
}

/** The share of values up to each value; under it the classes. */
function Curve({
  sorted,
  values,
  x,
  breaks,
  colours,
}: {
  sorted: number[]
  values: Float64Array
  x: (value: number) => number
  breaks: number[]
  colours: string[]
}) {
  const step = Math.ceil(sorted.length / 1500)
  const points = sorted
    .filter((_, i) => i % step === 0 || i === sorted.length - 1)
    .map(
      (f, i, all) =>
        `${x(values[f]).toFixed(1)} ${(base - ((i + 1) / all.length) * (plotHeight - 6)).toFixed(1)}`,
    )
  return (
    <>
      {colours.map((colour, i) => (
        <rect
          key={i}
          x={x(breaks[i])}
          width={Math.max(0, x(breaks[i + 1]) - x(breaks[i]))}
          y={base - 5}
          height={5}
          fill={colour}
        />
      ))}
      <path d={`M${points.join('L')}`} fill="none" stroke="currentColor" strokeWidth={1.5} />
    </>
  )
}

/** One dot for each value, heaped where they are near each other. */
function Heap({
  sorted,
  values,
  x,
  colourOf,
}: {
  sorted: number[]
  values: Float64Array
  x: (value: number) => number
  colourOf: (value: number) => string
}) {
  const slots = new Map<number, number>()
  for (const f of sorted)
    slots.set(Math.round(x(values[f]) / 5), (slots.get(Math.round(x(values[f]) / 5)) ?? 0) + 1)
  const most = Math.max(1, ...slots.values())
  const rise = Math.min(5, (plotHeight - 8) / most)
  const heights = new Map<number, number>()
  // Of a heap that would be a bar, as many dots are drawn as can be seen.
  const every = Math.max(1, Math.floor(sorted.length / 2500))
  return (
    <>
      {sorted.map((f, i) => {
        const slot = Math.round(x(values[f]) / 5)
        const level = heights.get(slot) ?? 0
        heights.set(slot, level + 1)
        return (
          i % every === 0 && (
            <circle
              key={f}
              cx={slot * 5}
              cy={base - 3.5 - level * rise}
              r={2.3}
              fill={colourOf(values[f])}
              stroke="var(--muted)"
              strokeOpacity={0.5}
              strokeWidth={0.5}
            />
          )
        )
      })}
    </>
  )
}

const Strip = memo(function Strip({
  values,
  x,
  y,
}: {
  values: Float64Array
  x: (value: number) => number
  y: number
}) {
  // A strip of many dots is a bar, which takes long to draw; every n-th then stands for the rest.
  const step = Math.ceil(values.length / 800)
  const dots: string[] = []
  for (let i = 0; i < values.length; i += step)
    if (Number.isFinite(values[i]))
      dots.push(`M${x(values[i]).toFixed(1)} ${(y + ((i * 7) % 9) - 4).toFixed(1)}h0`)
  return (
    <path
      d={dots.join('')}
      stroke="var(--muted)"
      strokeOpacity={0.7}
      strokeWidth={2.2}
      strokeLinecap="round"
    />
  )
})
