'use client'
import { ChevronDown, ChevronUp, Minus, Plus } from 'lucide-react'
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
import { Popover } from '../../kit/popover'
import { chooseClasses, chooseMethodOf } from '../edit-classing'
import { MidpointPicker } from '../midpoint'
import { ClassList } from './class-list'
import { Distribution } from './distribution'
import { useJudged } from './judged'
import { WhyClasses } from './why-classes'
import { LabelForm } from './label-form'
import { MethodRow, RoundButton } from './method-rows'
import { QualityFigures } from './quality'
import { SetAsideList } from './set-aside'
import { SharePopover } from './share'
import { useBenchView } from './view'
import { ViewSwitch } from './view-switch'
import { Warnings } from './warnings'

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
