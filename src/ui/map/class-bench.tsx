'use client'
import { AlertTriangle, ChevronDown, ChevronUp, Minus, Plus, Ruler } from 'lucide-react'
import { useMemo, useRef } from 'react'
import { classIndex, maxClasses, methodIds, methods, minClasses, type Classification } from '@/core/classify/classify'
import { decimalsFor, formatNumber } from '@/core/classify/labels'
import { shapeWords } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { histogram, summarise } from '@/core/data/summary'
import type { Layer } from '@/core/map/spec'
import { kindOf } from '@/core/kinds/registry'
import { kindData } from '@/core/map/compose-map'
import { Button, IconButton, Select } from '../kit/controls'
import { useSize } from '../kit/use-size'
import { useFolio } from '../shell/folio-store'
import { BreakHandle } from './break-handle'
import { change, chooseClasses, chooseMethod } from './kinds/choropleth'

type Classes = { result: Classification; colours: string[]; labels: string[]; values: Float64Array }

const plotHeight = 112
const plotTop = 26

/** The distribution of the values, its classes, and how well they fit. Breaks are dragged, typed, added and removed here. */
export function ClassBench({ layer, prepared, classes, marked, folded, onFold }: { layer: Layer; prepared: Prepared; classes: Classes; marked: number; folded: boolean; onFold: () => void }) {
  const { result, colours, labels, values } = classes
  const summary = useMemo(() => summarise(values), [values])
  const heading = kindOf(layer.symbology.kind).legend({ ...classes, labels: [], missingCount: 0 }, layer.symbology.settings, kindData(prepared)).heading
  const decimals = decimalsFor(result.breaks)
  const f = (v: number) => formatNumber(v, decimals + 1)
  const empty = result.counts.filter((count) => count === 0).length
  const [one, many] = nounsOf(prepared)
  return (
    <section aria-label="Class bench" className={`grid shrink-0 grid-cols-[minmax(0,1fr)_264px] border-t border-line bg-base-100 ${folded ? 'h-9' : 'h-[236px]'}`}>
      <div className="flex min-w-0 flex-col border-r border-line">
        <div className="flex h-9 shrink-0 items-center justify-between gap-3 px-4">
          <h2 className="truncate font-semibold">{heading}</h2>
          <span className="truncate text-xs text-muted">
            {summary.count} values · {summary.missing} missing · mean {f(summary.mean)} · median {f(summary.median)}
          </span>
        </div>
        {!folded && (
          <>
            <Distribution layer={layer} classes={classes} marked={marked} />
            <ol className="flex min-h-0 flex-1 items-start gap-1 px-4" aria-label="Classes">
              {labels.map((label, i) => (
                <li key={i} className="flex min-w-0 flex-1 gap-1.5">
                  <span className="mt-0.5 h-8 w-1.5 shrink-0 rounded-sm border border-line" style={{ background: colours[i] }} />
                  <span className="min-w-0 text-xs">
                    <span className="block truncate font-semibold" title={label}>{label}</span>
                    {result.counts[i] ? (
                      <span className="block truncate text-muted">
                        {result.counts[i]} {result.counts[i] === 1 ? one : many}
                      </span>
                    ) : (
                      <span className="flex items-center gap-1 text-caution">
                        <AlertTriangle size={12} aria-hidden /> empty
                      </span>
                    )}
                  </span>
                </li>
              ))}
            </ol>
          </>
        )}
      </div>
      <div className="flex min-w-0 flex-col gap-2 px-3 py-1">
        <div className="flex items-center gap-2">
          <Select label="Method" value={result.method} options={methodIds.map((id) => ({ value: id, label: upperFirst(methods[id].label) }))} onChange={(method) => chooseMethod(layer, result.breaks, method)} />
          <IconButton label={folded ? 'Unfold the class bench' : 'Fold the class bench'} aria-expanded={!folded} onClick={onFold}>
            {folded ? <ChevronUp size={16} /> : <ChevronDown size={16} />}
          </IconButton>
        </div>
        {!folded && (
          <>
            <div className="flex items-center gap-2">
              <span className="control flex flex-1 items-center justify-between whitespace-nowrap !pr-0.5">
                {result.counts.length} {result.counts.length === 1 ? 'class' : 'classes'}
                <span className="flex">
                  <IconButton label="One class fewer" className="!size-6" disabled={result.counts.length <= minClasses} onClick={() => chooseClasses(layer, result.counts.length - 1)}>
                    <Minus size={14} />
                  </IconButton>
                  <IconButton label="One class more" className="!size-6" disabled={result.counts.length >= maxClasses} onClick={() => chooseClasses(layer, result.counts.length + 1)}>
                    <Plus size={14} />
                  </IconButton>
                </span>
              </span>
              <RoundButton layer={layer} />
            </div>
            <Fit label="Variance fit" share={result.gvf} />
            <p className="text-xs leading-snug text-muted">
              {fitWords(result.gvf)}
              {result.roundingCost > 0.0005 && ` Rounding took ${result.roundingCost.toFixed(3)} of it.`}
            </p>
            {result.counts.length < result.asked && <p className="text-xs text-caution">There are only {result.counts.length} different limits between the values, so there are fewer classes than asked for.</p>}
            {empty > 0 && (
              <p className="flex items-center gap-1 text-xs text-caution">
                <AlertTriangle size={13} aria-hidden /> {empty === 1 ? 'One class is empty.' : `${empty} classes are empty.`} Fewer classes or another method will do.
              </p>
            )}
            {result.outside > 0 ? <p className="text-xs text-error">{result.outside} values fall in no class.</p> : !empty && <p className="text-xs text-muted">All {summary.count} values are in a class.</p>}
          </>
        )}
      </div>
    </section>
  )
}

function RoundButton({ layer }: { layer: Layer }) {
  const settings = layer.symbology.settings as { rounded?: boolean; method?: string }
  return (
    <Button aria-pressed={settings.rounded} disabled={settings.method === 'manual'} title={settings.method === 'manual' ? 'Breaks set by hand stay as they are.' : undefined} className={settings.rounded ? '!border-primary text-primary' : ''} onClick={() => change(layer, settings.rounded ? 'Exact breaks' : 'Round breaks', (s) => void (s.rounded = !s.rounded))}>
      <Ruler size={14} /> Round breaks
    </Button>
  )
}

function Fit({ label, share }: { label: string; share: number }) {
  return (
    <div className="grid grid-cols-[76px_1fr_34px] items-center gap-2 text-xs">
      <span className="text-muted">{label}</span>
      <span className="h-1.5 overflow-hidden rounded bg-base-300">
        <span className="block h-full bg-neutral" style={{ width: `${Math.max(0, share) * 100}%` }} />
      </span>
      <span className="text-right font-semibold">{share.toFixed(2)}</span>
    </div>
  )
}

const fitWords = (gvf: number): string => (gvf >= 0.9 ? 'The classes hold together well.' : gvf >= 0.75 ? 'The classes are fair; some hold quite different values.' : 'The classes hold very different values.')

/** “district, districts” from the dataset's name; plain shapes where the name is no plural. */
function nounsOf({ entry, dataset }: Prepared): [string, string] {
  const name = entry.name.toLowerCase()
  return /^[a-z]+s$/.test(name) ? [name.replace(/ies$/, 'y').replace(/s$/, ''), name] : [...shapeWords[dataset.geometry.kind]]
}

const upperFirst = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

function Distribution({ layer, classes: { result, colours, values }, marked }: { layer: Layer; classes: Classes; marked: number }) {
  const frame = useRef<HTMLDivElement>(null)
  const size = useSize(frame)
  const width = Math.max(200, (size?.width ?? 660) - 32)
  const bins = useMemo(() => histogram(values, 40), [values])
  const low = Math.min(bins[0]?.from ?? 0, result.breaks[0])
  const high = Math.max(bins.at(-1)?.to ?? 1, result.breaks[result.breaks.length - 1])
  const span = high - low || 1
  const x = (value: number) => ((value - low) / span) * width
  const valueAt = (px: number) => low + (px / width) * span
  const top = Math.max(1, ...bins.map((bin) => bin.count))
  const inner = result.breaks.slice(1, -1)
  const base = plotTop + plotHeight

  const setBreaks = (breaks: number[], name: string, merge?: string) =>
    change(
      layer,
      name,
      (s) => {
        s.method = 'manual'
        s.manualBreaks = [...breaks].sort((a, b) => a - b)
      },
      merge,
    )
  // A value as short as a step of one pixel allows.
  const tidy = (value: number) => {
    const digits = Math.max(0, Math.ceil(-Math.log10(span / width)))
    return Number(value.toFixed(Math.min(10, digits)))
  }
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
          const left = event.currentTarget.getBoundingClientRect().left
          setBreaks([...inner, tidy(valueAt(event.clientX - left))], 'Add a break')
        }}
      >
        <title>Double click adds a break</title>
        {bins.map((bin, i) => {
          const height = (bin.count / top) * (plotHeight - 6)
          const colour = colours[classIndex(result.breaks, (bin.from + bin.to) / 2)] ?? '#999999'
          return bin.count > 0 && <rect key={i} x={x(bin.from) + 0.5} width={Math.max(1, x(bin.to) - x(bin.from) - 1)} y={base - Math.max(1.5, height)} height={Math.max(1.5, height)} fill={colour} stroke="var(--muted)" strokeOpacity={0.35} strokeWidth={0.5} />
        })}
        <path d={`M0 ${base + 0.5}H${width}`} stroke="var(--muted)" />
        <Dots values={values} x={x} y={base + 9} />
        {marked >= 0 && Number.isFinite(values[marked]) && <circle cx={x(values[marked])} cy={base + 9} r={4.5} fill="none" stroke="var(--color-primary)" strokeWidth={2} />}
        {inner.map((value, i) => (
          <BreakHandle
            key={i}
            index={i}
            value={value}
            decimals={decimalsFor(result.breaks)}
            x={x(value)}
            top={plotTop}
            bottom={base + 14}
            low={result.breaks[i]}
            high={result.breaks[i + 2]}
            step={10 ** -decimalsFor(result.breaks)}
            onMove={(px) => setBreaks(inner.map((b, j) => (j === i ? tidy(Math.min(x2v(result.breaks[i + 2], span), Math.max(v2x(result.breaks[i], span), valueAt(px)))) : b)), 'Move a break', `break ${i}`)}
            onSet={(next) => setBreaks(inner.map((b, j) => (j === i ? next : b)), 'Set a break')}
            onRemove={() => inner.length > minClasses - 1 && setBreaks(inner.filter((_, j) => j !== i), 'Remove a break')}
            onEnd={() => useFolio.getState().seal()}
          />
        ))}
      </svg>
    </div>
  )
}

/** A break stays a thousandth of the range away from its neighbours while it is dragged. */
const v2x = (value: number, span: number): number => value + span / 1000
const x2v = (value: number, span: number): number => value - span / 1000

function Dots({ values, x, y }: { values: Float64Array; x: (value: number) => number; y: number }) {
  // Beyond some thousands a strip of dots is a bar; every n-th then stands for the rest.
  const step = Math.ceil(values.length / 3000)
  const dots: string[] = []
  for (let i = 0; i < values.length; i += step) if (Number.isFinite(values[i])) dots.push(`M${x(values[i]).toFixed(1)} ${(y + ((i * 7) % 9) - 4).toFixed(1)}h0`)
  return <path d={dots.join('')} stroke="var(--muted)" strokeOpacity={0.7} strokeWidth={2.2} strokeLinecap="round" />
}
