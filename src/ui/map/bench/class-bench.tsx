'use client'
import {
  AlertTriangle,
  BarChart3,
  ChevronDown,
  ChevronUp,
  Minus,
  Plus,
  Ruler,
  ScatterChart,
  Spline,
  type LucideIcon,
} from 'lucide-react'
import { memo, useMemo, type ReactNode } from 'react'
import { classIndex, maxClasses, methodIds, methods, minClasses } from '@/core/classify/classify'
import { decimalsFor } from '@/core/classify/labels'
import { writeNumber } from '@/core/classify/number-format'
import type { Classing } from '@/core/classify/spec'
import { numbersOf } from '@/core/data/column'
import { fieldOf } from '@/core/data/dataset'
import type { Prepared } from '@/core/data/prepare'
import { histogram, summarise } from '@/core/data/summary'
import type { Classes } from '@/core/kinds/kind'
import { kindOf } from '@/core/kinds/registry'
import type { Layer } from '@/core/map/spec'
import { Button, IconButton, Row, Segments, Select } from '../../kit/controls'
import { NumberField } from '../../kit/number-field'
import { Popover } from '../../kit/popover'
import { changeClassing, chooseClasses, chooseMethodOf } from '../edit-classing'
import { MidpointPicker } from '../midpoint'
import { ClassList } from './class-list'
import { Distribution } from './distribution'
import { useJudged } from './judged'
import { WhyClasses } from './why-classes'
import { LabelForm } from './label-form'
import { QualityFigures } from './quality'
import { SetAsideList } from './set-aside'
import { SharePopover } from './share'
import { benchShapes, useBenchView, type BenchView } from './view'

type Props = {
  layer: Layer
  prepared: Prepared
  classing: Classing
  classes: Classes
  marked: number
  onMark: (feature: number) => void
  folded: boolean
  onFold: () => void
  onCompare: () => void
  /** The choice between the benches of a layer. */
  choice?: ReactNode
}

/**
 * The distribution of the values, its classes, and how well they fit. Breaks are dragged, typed, locked,
 * added and removed here.
 */
export const ClassBench = memo(function ClassBench({
  layer,
  prepared,
  classing,
  classes,
  marked,
  onMark,
  folded,
  onFold,
  onCompare,
  choice,
}: Props) {
  const { result, values, ground, heading } = classes
  const { view, set } = useBenchView()
  const judged = useJudged(layer)
  const summary = useMemo(() => summarise(values), [values])
  const bins = useMemo(() => histogram(values).length, [values])
  const decimals = decimalsFor(result.breaks)
  const f = (v: number) =>
    writeNumber(v, { ...classing.numbers, divideBy: 1, before: '', after: '' }, decimals + 1)
  const { national } = ground
  const marks = [
    { value: summary.mean, name: `mean ${f(summary.mean)}` },
    { value: summary.median, name: `median ${f(summary.median)}` },
    ...(national !== null && national !== undefined
      ? [{ value: national, name: `national ${f(national)}` }]
      : []),
  ]
  return (
    <section
      aria-label="Class bench"
      className={`grid shrink-0 grid-cols-[minmax(0,1fr)_288px] border-t border-line bg-base-100 contain-layout ${folded ? 'h-9' : 'h-[236px]'}`}
    >
      <div className="flex min-w-0 flex-col border-r border-line">
        <div className="flex h-9 shrink-0 items-center justify-between gap-3 px-4">
          {choice}
          <h2 className="min-w-0 truncate font-semibold" title={heading}>
            {heading}
          </h2>
          <FieldSwitch layer={layer} />
          <span className="mr-auto shrink-0 text-xs whitespace-nowrap text-muted">
            {countWords(classes, summary)}
          </span>
          {!folded && <ViewSwitch positive={summary.min > 0} bins={bins} />}
        </div>
        {!folded && (
          <>
            <Distribution
              layer={layer}
              classes={classes}
              marks={marks}
              view={view}
              marked={marked}
              onMark={onMark}
            />
            <ClassList
              layer={layer}
              classes={classes}
              words={classing.classWords}
              shares={sharesOf(view.beside, classes, prepared)}
              prepared={prepared}
              aside={classing.setAside
                .map(({ label, colour }, i) => ({ label, colour, count: result.aside[i] ?? 0 }))
                .filter(({ count }) => count > 0)}
            />
          </>
        )}
      </div>
      <div className="flex min-h-0 min-w-0 flex-col gap-1.5 overflow-x-hidden overflow-y-auto px-3 py-1">
        <div className="flex items-center gap-2">
          <Select
            label="Method"
            value={result.method}
            options={methodIds.map((id) => ({ value: id, label: upperFirst(methods[id].label) }))}
            onChange={(method) => void chooseMethodOf(layer, prepared, result.breaks, method)}
          />
          {!classes.continuous && !folded && <WhyClasses layer={layer} classing={classing} values={values} />}
          <IconButton
            label={folded ? 'Unfold the class bench' : 'Fold the class bench'}
            aria-expanded={!folded}
            onClick={onFold}
          >
            {folded ? <ChevronUp size={16} /> : <ChevronDown size={16} />}
          </IconButton>
        </div>
        {!folded && (
          <>
            <div className="flex items-center gap-2">
              <span className="control flex min-w-0 flex-1 items-center justify-between whitespace-nowrap !pr-0.5">
                {classing.unclassed
                  ? 'no classes'
                  : `${result.counts.length} ${result.counts.length === 1 ? 'class' : 'classes'}`}
                <span className="flex">
                  <IconButton
                    label="One class fewer"
                    className="!size-6"
                    disabled={result.counts.length <= minClasses}
                    onClick={() => chooseClasses(layer, result.counts.length - 1)}
                  >
                    <Minus size={14} />
                  </IconButton>
                  <IconButton
                    label="One class more"
                    className="!size-6"
                    disabled={result.counts.length >= maxClasses}
                    onClick={() => chooseClasses(layer, result.counts.length + 1)}
                  >
                    <Plus size={14} />
                  </IconButton>
                </span>
              </span>
              <RoundButton
                layer={layer}
                classing={classing}
                cost={judged?.roundingCost ?? 0}
                moved={result.roundingMoved}
              />
            </div>
            {classing.unclassed && (
              <p className="text-xs text-muted">
                Each value has a shade of its own. Choosing a method or a number makes classes again.
              </p>
            )}
            <MethodRow layer={layer} classing={classing} />
            <div className="flex flex-wrap gap-1 [&>button]:flex-1">
              <Popover
                label="Two sides"
                align="end"
                side="top"
                trigger={
                  <Button
                    className={`!h-6 !px-1 font-condensed !text-xs ${classing.midpoint ? '!border-primary text-primary' : ''}`}
                  >
                    Two sides
                  </Button>
                }
              >
                <MidpointPicker layer={layer} />
              </Popover>
              {!classes.continuous && (
                <Popover
                  label="Set aside"
                  align="end"
                  side="top"
                  trigger={
                    <Button
                      className={`!h-6 !px-1 font-condensed !text-xs ${classing.setAside.length ? '!border-primary text-primary' : ''}`}
                    >
                      Set aside
                    </Button>
                  }
                >
                  <SetAsideList layer={layer} setAside={classing.setAside} classes={classes} />
                </Popover>
              )}
              <Popover
                label="Labels"
                align="end"
                side="top"
                trigger={<Button className="!h-6 !px-1 font-condensed !text-xs">Labels</Button>}
              >
                <Row label="Also count">
                  <Select
                    label="Also count under each class"
                    value={view.beside ?? ''}
                    options={[
                      { value: '', label: 'nothing more' },
                      { value: 'ground', label: 'the ground covered' },
                      ...(classes.things ? [] : totalsOf(prepared)),
                    ]}
                    onChange={(beside) => set({ beside: beside || null })}
                  />
                </Row>
                <LabelForm layer={layer} classing={classing} classes={classes} />
              </Popover>
              <Button
                className="!h-6 !px-1 font-condensed !text-xs"
                title="The same map by every method (C)"
                onClick={onCompare}
              >
                Compare
              </Button>
              {kindOf(layer.symbology.kind).shared && <SharePopover layer={layer} />}
            </div>
            {!classing.unclassed && <QualityFigures result={result} judged={judged} />}
            <Warnings classing={classing} classes={classes} values={summary.count} />
          </>
        )}
      </div>
    </section>
  )
})

const totalsOf = ({ dataset, fieldMeta }: Prepared) =>
  dataset.fields
    .filter(({ key, column }) => column.kind === 'number' && fieldMeta(key).role === 'total')
    .map(({ key }) => ({ value: key, label: fieldMeta(key).label.toLowerCase() }))

/** What share of the ground, or of all of a field, lies in each class (0 to 1), with its name. */
function sharesOf(
  beside: string | null,
  { values, result, ground, things }: Classes,
  { dataset, fieldMeta }: Prepared,
): { name: string; shares: number[] } | null {
  // Cells and borders have no fields of the dataset.
  const column = beside && beside !== 'ground' && !things ? fieldOf(dataset, beside) : null
  const amounts = beside === 'ground' ? ground.sizes : column && numbersOf(column)
  if (!beside || !amounts) return null
  const sums = result.counts.map(() => 0)
  values.forEach((value, f) => {
    const i = classIndex(result.breaks, value, result.inclusive)
    if (i >= 0 && Number.isFinite(amounts[f])) sums[i] += amounts[f]
  })
  const all = sums.reduce((a, b) => a + b, 0) || 1
  return {
    name: beside === 'ground' ? 'the ground' : fieldMeta(beside).label.toLowerCase(),
    shares: sums.map((sum) => sum / all),
  }
}

/** Which of two fields is on the bench. */
function FieldSwitch({ layer }: { layer: Layer }) {
  const { which, show } = useBenchView()
  const count = kindOf(layer.symbology.kind).classings(layer.symbology.settings).length
  if (count < 2) return null
  return (
    <span className="shrink-0">
      <Segments
        label="Field on the bench"
        value={String(Math.min(which, count - 1))}
        options={[
          { value: '0', label: 'First' },
          { value: '1', label: 'Second' },
        ]}
        onChange={(next) => show(Number(next))}
      />
    </span>
  )
}

const shapeWords: Record<BenchView['shape'], { label: string; Icon: LucideIcon }> = {
  bars: { label: 'Bars', Icon: BarChart3 },
  curve: { label: 'Rising curve', Icon: Spline },
  dots: { label: 'A dot for each', Icon: ScatterChart },
}

function ViewSwitch({ positive, bins }: { positive: boolean; bins: number }) {
  const { view, set } = useBenchView()
  return (
    <span className="flex shrink-0 items-center" role="group" aria-label="How the values are shown">
      {benchShapes.map((shape) => {
        const { label, Icon } = shapeWords[shape]
        return (
          <IconButton
            key={shape}
            label={label}
            aria-pressed={view.shape === shape}
            active={view.shape === shape}
            className="!size-6"
            onClick={() => set({ shape })}
          >
            <Icon size={14} />
          </IconButton>
        )
      })}
      {view.shape === 'bars' && (
        <>
          <IconButton
            label="Fewer bars"
            className="!size-6"
            disabled={(view.bins ?? bins) <= 5}
            onClick={() => set({ bins: Math.max(5, (view.bins ?? bins) - 5) })}
          >
            <Minus size={13} />
          </IconButton>
          <button
            type="button"
            className="w-6 text-center text-xs text-muted"
            aria-label={`${view.bins ?? bins} bars; as many as the rule of Freedman and Diaconis gives`}
            title={
              view.bins === null
                ? 'Bars by the rule of Freedman and Diaconis (1981)'
                : `The rule of Freedman and Diaconis gives ${bins}`
            }
            onClick={() => set({ bins: null })}
          >
            {view.bins ?? bins}
          </button>
          <IconButton
            label="More bars"
            className="!size-6"
            disabled={(view.bins ?? bins) >= 100}
            onClick={() => set({ bins: Math.min(100, (view.bins ?? bins) + 5) })}
          >
            <Plus size={13} />
          </IconButton>
        </>
      )}
      <Button
        look="quiet"
        className={`!h-6 !px-1.5 text-xs ${view.axis === 'log' ? 'text-primary' : ''}`}
        aria-pressed={view.axis === 'log'}
        disabled={!positive}
        title={positive ? 'Logarithmic axis' : 'A logarithmic axis needs values over zero.'}
        onClick={() => set({ axis: view.axis === 'log' ? 'linear' : 'log' })}
      >
        log
      </Button>
    </span>
  )
}

/** What rounding would cost is told before it is done. */
function RoundButton({
  layer,
  classing,
  cost,
  moved,
}: {
  layer: Layer
  classing: Classing
  cost: number
  moved: number
}) {
  const manual = classing.method === 'manual'
  const taken = `Rounding ${classing.rounded ? 'took' : 'would take'} ${cost.toFixed(3)} of the fit.`
  const said = Math.abs(cost) < 0.0005 ? 'Rounding costs nothing of the fit.' : taken
  const shifted = classing.rounded
    ? `${moved === 0 ? 'Every value keeps its class.' : `${moved} ${moved === 1 ? 'value has' : 'values have'} another class than without it.`}`
    : 'Values near a break may get another class.'
  const words = manual ? 'Breaks set by hand stay as they are.' : `${said} ${shifted}`
  return (
    <Button
      aria-pressed={classing.rounded}
      disabled={manual}
      title={words}
      className={`!px-2 ${classing.rounded ? '!border-primary text-primary' : ''}`}
      onClick={() =>
        changeClassing(
          layer,
          classing.rounded ? 'Exact breaks' : 'Round breaks',
          (s) => void (s.rounded = !s.rounded),
        )
      }
    >
      <Ruler size={14} /> Round breaks
    </Button>
  )
}

/** What a method can be told besides the number of classes. */
function MethodRow({ layer, classing }: { layer: Layer; classing: Classing }) {
  if (classing.method === 'standard-deviation')
    return (
      <Row label="Each class">
        <Select
          label="Width of a class"
          value={String(classing.deviations)}
          options={[
            { value: '1', label: 'one deviation' },
            { value: '0.5', label: 'half a deviation' },
            { value: String(1 / 3), label: 'a third of one' },
          ]}
          onChange={(n) =>
            changeClassing(
              layer,
              'Width of a class',
              (s) => void (s.deviations = Number(n) as Classing['deviations']),
            )
          }
        />
      </Row>
    )
  if (classing.method === 'rounded-steps')
    return (
      <Row label="Each class">
        <NumberField
          label="Width of a class, 0 by the number of classes"
          value={classing.step ?? 0}
          min={0}
          decimals={6}
          onChange={(step) =>
            changeClassing(layer, 'Width of a class', (s) => void (s.step = step > 0 ? step : null))
          }
        />
      </Row>
    )
  return null
}

function Warnings({ classing, classes, values }: { classing: Classing; classes: Classes; values: number }) {
  const { result } = classes
  const empty = result.counts.filter((count) => count === 0).length
  const { mayMove } = classes
  const aside = result.aside.reduce((a, b) => a + b, 0)
  return (
    <>
      {result.roundingMoved > 0 && (
        <p className="text-xs text-muted">
          Rounding moved {result.roundingMoved.toLocaleString('en-GB')}{' '}
          {classes.pool ? `of all ${classes.pool.values.length.toLocaleString('en-GB')} ` : ''}
          {result.roundingMoved === 1 ? 'value' : 'values'} to another class.
        </p>
      )}
      {result.roundingCost > 0.0005 && (
        <p className="text-xs text-muted">Rounding took {result.roundingCost.toFixed(3)} of the fit.</p>
      )}
      {result.counts.length < result.asked && (
        <p className="text-xs text-caution">{fewerWords(classing.method, result.counts.length)}</p>
      )}
      {result.middle && (result.middle.below === 0 || result.middle.below === result.counts.length) && (
        <p className="text-xs text-caution">All values lie on one side of the middle.</p>
      )}
      {mayMove !== null && mayMove > 0 && (
        <p className="text-xs text-caution">
          {mayMove} could well belong to the next class, given their error.
        </p>
      )}
      {empty > 0 && (
        <p className="flex items-center gap-1 text-xs text-caution">
          <AlertTriangle size={13} className="shrink-0" aria-hidden />{' '}
          {empty === 1 ? 'One class is empty.' : `${empty} classes are empty.`} Fewer classes or another
          method will do.
        </p>
      )}
      {result.outside > 0 ? (
        <p className="text-xs text-error">{result.outside} values fall in no class.</p>
      ) : (
        !empty && (
          <p className="text-xs text-muted">
            {aside
              ? `${values - aside} values are in a class, ${aside} set aside.`
              : `All ${(classes.all?.there ?? values).toLocaleString('en-GB')} values are in a class.`}
          </p>
        )
      )}
    </>
  )
}

/** How many things have values: all of them, where those on the bench are a sample. */
function countWords(
  { all, things }: Classes,
  { count, missing }: { count: number; missing: number },
): string {
  const words = (n: number): string => n.toLocaleString('en-GB')
  return all
    ? `${words(all.there)} ${things?.[1] ?? 'values'}, ${words(all.missing)} without value`
    : `${count} values, ${missing} missing`
}

const upperFirst = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

/** Why there are fewer classes than were asked for. */
function fewerWords(method: Classing['method'], count: number): string {
  if (method === 'nested-means') return 'Nested means give two, four or eight classes.'
  if (method === 'head-tail') return `The values give ${count} classes by this method.`
  return `There are only ${count} different limits between the values, so there are fewer classes than asked for.`
}
