'use client'
import type { KeyboardEvent, ReactNode } from 'react'
import { decimalsFor, formatNumber } from '@/core/classify/labels'
import type { Prepared } from '@/core/data/prepare'
import type { Years } from '@/core/kinds/kind'
import { kindOf, symbologyOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/layer-plan'
import type { Layer } from '@/core/map/spec'
import { Check } from '../kit/controls'
import { ChoiceList, Popover } from '../kit/popover'
import { editLayer } from './edit-map'

/** The year that a layer shows, and the others that it could; null where there is no series. */
export function yearsOfLayer({ symbology }: Layer, prepared: Prepared): Years | null {
  return kindOf(symbology.kind).years?.of(symbology.settings, kindData(prepared)) ?? null
}

/** Shows another year; steps that follow each other are undone together. */
function showYear(layer: Layer, prepared: Prepared, year: number): void {
  const data = kindData(prepared)
  editLayer(
    layer.id,
    `Show ${year}`,
    (draft) => {
      const { kind, settings } = draft.symbology
      const next = kindOf(kind).years?.to(settings, data, year)
      if (!next) return
      const before = kindOf(kind).years?.of(settings, data)?.year
      draft.symbology = symbologyOf(kind, next)
      // A name that came with the field goes with the year.
      if (before !== undefined) draft.name = draft.name.replace(String(before), String(year))
    },
    `year ${layer.id}`,
  )
}

/** How far each key goes through the years. */
const steps: Record<string, number> = {
  ArrowLeft: -1,
  ArrowDown: -1,
  ArrowRight: 1,
  ArrowUp: 1,
  Home: -Infinity,
  End: Infinity,
}

/** The year in a map sentence: arrow keys step through the series, a click shows all of it. */
export function YearWord({
  layer,
  prepared,
  className,
  children,
}: {
  layer: Layer
  prepared: Prepared
  className: string
  children: ReactNode
}) {
  const years = yearsOfLayer(layer, prepared)
  if (!years) return <span>{children}</span>
  const list = years.years.map(({ year }) => year)
  const step = (event: KeyboardEvent) => {
    const by = steps[event.key]
    if (!by) return
    event.preventDefault()
    const at = Math.min(list.length - 1, Math.max(0, list.indexOf(years.year) + by))
    if (list[at] !== years.year) showYear(layer, prepared, list[at])
  }
  return (
    <Popover
      label="Choose year"
      trigger={
        <button
          type="button"
          className={className}
          title={`${list[0]} to ${list[list.length - 1]}: the arrow keys step through the years`}
          onKeyDown={step}
        >
          {children}
        </button>
      }
    >
      {(close) => (
        <>
          <ChoiceList
            value={String(years.year)}
            options={list.map((year) => ({ value: String(year), label: String(year) }))}
            onPick={(year) => {
              showYear(layer, prepared, Number(year))
              close()
            }}
          />
          <div className="sticky bottom-0 mt-1 border-t border-line bg-base-100 pt-1.5">
            <Check
              label="Classes over all years"
              checked={years.together === true}
              onChange={(on) =>
                editLayer(layer.id, on ? 'Classes over all years' : 'Classes of each year', (draft) => {
                  const { kind, settings } = draft.symbology
                  draft.symbology = symbologyOf(kind, kindOf(kind).years?.together(settings, on))
                })
              }
            />
          </div>
        </>
      )}
    </Popover>
  )
}

const [width, height] = [168, 34]

/** A feature's values in all years of its series, the year that is shown marked. */
export function SeriesChart({
  layer,
  prepared,
  feature,
}: {
  layer: Layer
  prepared: Prepared
  feature: number
}) {
  const { kind, settings } = layer.symbology
  const data = kindData(prepared)
  const years = kindOf(kind).years
  const values = years?.valuesOf(settings, data, feature) ?? []
  const present = values.filter(({ value }) => Number.isFinite(value))
  if (present.length < 2) return null
  const current = years?.of(settings, data)?.year
  const [low, high] = [
    Math.min(...present.map(({ value }) => value)),
    Math.max(...present.map(({ value }) => value)),
  ]
  const [first, last] = [values[0].year, values[values.length - 1].year]
  const x = (year: number) => 4 + ((width - 8) * (year - first)) / (last - first)
  const y = (value: number) => 4 + (high === low ? 0.5 : (high - value) / (high - low)) * (height - 8)
  const decimals = decimalsFor([low, high])
  // A year without a value leaves a gap.
  const path = values
    .map(({ year, value }, i) => {
      if (!Number.isFinite(value)) return ''
      const joins = i > 0 && Number.isFinite(values[i - 1].value)
      return `${joins ? 'L' : 'M'}${x(year).toFixed(1)} ${y(value).toFixed(1)}`
    })
    .join('')
  const words = (one: { year: number; value: number }) => `${one.year}: ${formatNumber(one.value, decimals)}`
  const ends = [present[0], present[present.length - 1]]
  return (
    <figure className="mt-1.5 border-t border-line pt-1.5">
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`From ${words(ends[0])} to ${words(ends[1])}; lowest ${formatNumber(low, decimals)}, highest ${formatNumber(high, decimals)}`}
      >
        <path d={path} fill="none" className="stroke-current opacity-60" strokeWidth={1.4} />
        {present.map(({ year, value }) => (
          <circle
            key={year}
            cx={x(year)}
            cy={y(value)}
            r={year === current ? 3.4 : 1.3}
            className={year === current ? 'fill-primary' : 'fill-current opacity-60'}
          />
        ))}
      </svg>
      <figcaption className="flex justify-between text-[11px] text-muted" style={{ width }}>
        <span>{words(ends[0])}</span>
        <span>{words(ends[1])}</span>
      </figcaption>
    </figure>
  )
}
