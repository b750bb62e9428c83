'use client'
import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp, EllipsisVertical, EyeOff, Pin } from 'lucide-react'
import { useMemo, useRef, useState } from 'react'
import type { Column } from '@/core/data/column'
import { missingCount, type FieldMeta } from '@/core/data/field-meta'
import type { SortBy } from '@/core/data/ordering'
import { histogram } from '@/core/data/summary'
import { Row } from '../kit/controls'
import { NumberField } from '../kit/number-field'
import { Popover } from '../kit/popover'

export type HeadProps = {
  column: Column
  fieldKey: string
  meta: FieldMeta
  left: number
  width: number
  chosen: boolean
  pinned: boolean
  decimals: number
  sort: SortBy[]
  onField: () => void
  onSort: (sort: SortBy[]) => void
  onPin: () => void
  onHide: () => void
  onWidth: (width: number, done: boolean) => void
  onMove: (by: -1 | 1) => void
  onDropOf: (key: string) => void
  onDecimals: (decimals: number) => void
}

const columnType = 'application/x-keen-column'

function sortedWord(sorted: SortBy | null): 'ascending' | 'descending' | 'none' {
  if (!sorted) return 'none'
  return sorted.down ? 'descending' : 'ascending'
}

/**
 * The head of a column: a click sorts by it, Shift adds it to the sorting; it is dragged to another place and
 * made wider at its edge.
 */
export function TableHead(props: HeadProps) {
  const { column, fieldKey, meta, left, width, chosen, sort } = props
  const missing = useMemo(() => missingCount(column), [column])
  const [over, setOver] = useState(false)
  const at = sort.findIndex(({ key }) => key === fieldKey)
  const sorted = at >= 0 ? sort[at] : null
  const next = (adding: boolean): SortBy[] => {
    const others = adding ? sort.filter(({ key }) => key !== fieldKey) : []
    return sorted?.down ? others : [...others, { key: fieldKey, down: sorted !== null }]
  }
  return (
    <div
      role="columnheader"
      aria-sort={sortedWord(sorted)}
      className={`group absolute top-0 h-full border-r border-line ${chosen ? 'bg-tint' : 'bg-base-100'} ${over ? 'border-l-2 border-l-primary' : ''}`}
      style={{ left, width }}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(columnType)) return
        event.preventDefault()
        event.stopPropagation()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false)
        const key = event.dataTransfer.getData(columnType)
        if (!key) return
        event.stopPropagation()
        event.preventDefault()
        if (key !== fieldKey) props.onDropOf(key)
      }}
    >
      <button
        type="button"
        draggable
        onDragStart={(event) => event.dataTransfer.setData(columnType, fieldKey)}
        className="flex size-full flex-col items-start px-2.5 py-1 text-left text-xs"
        onClick={(event) => {
          props.onField()
          props.onSort(next(event.shiftKey))
        }}
      >
        <span className="flex w-full items-center gap-1 pr-3 font-semibold">
          <span className="truncate">{meta.label}</span>
          {sorted &&
            (sorted.down ? (
              <ArrowDown size={12} className="shrink-0" />
            ) : (
              <ArrowUp size={12} className="shrink-0" />
            ))}
          {sorted && sort.length > 1 && <span className="text-[10px] text-muted">{at + 1}</span>}
        </span>
        <span className="w-full truncate text-[11px] text-muted">
          {meta.role}
          {meta.unit && ` · ${meta.unit}`}
          {missing > 0 && <span className="text-caution"> · {missing} missing</span>}
        </span>
        <Sparkline column={column} />
      </button>
      <span className="absolute top-0.5 right-1 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 has-[[data-state=open]]:opacity-100">
        <ColumnMenu {...props} next={next} />
      </span>
      <Edge label={meta.label} width={width} onWidth={props.onWidth} />
    </div>
  )
}

function ColumnMenu({
  meta,
  column,
  fieldKey,
  pinned,
  decimals,
  sort,
  onSort,
  onPin,
  onHide,
  onMove,
  onDecimals,
}: HeadProps & { next: (adding: boolean) => SortBy[] }) {
  const others = sort.filter(({ key }) => key !== fieldKey)
  const item = (icon: React.ReactNode, label: string, run: () => void, close: () => void) => (
    <button
      type="button"
      className="flex w-full items-center gap-2 rounded px-2 py-1 text-left hover:bg-base-200"
      onClick={() => {
        run()
        close()
      }}
    >
      {icon} {label}
    </button>
  )
  return (
    <Popover
      label={`Column ${meta.label}`}
      align="end"
      className="w-56"
      trigger={
        <button
          type="button"
          aria-label={`More for column ${meta.label}`}
          className="inline-flex size-6 items-center justify-center rounded hover:bg-base-200"
        >
          <EllipsisVertical size={13} />
        </button>
      }
    >
      {(close) => (
        <>
          {item(
            <ArrowUp size={13} />,
            'Sort, low to high',
            () => onSort([{ key: fieldKey, down: false }]),
            close,
          )}
          {item(
            <ArrowDown size={13} />,
            'Sort, high to low',
            () => onSort([{ key: fieldKey, down: true }]),
            close,
          )}
          {others.length > 0 &&
            item(
              <ArrowUp size={13} />,
              'Then by this one',
              () => onSort([...others, { key: fieldKey, down: false }]),
              close,
            )}
          {item(<Pin size={13} />, pinned ? 'Let it move' : 'Keep at the left', onPin, close)}
          {item(
            <ArrowLeft size={13} />,
            'Earlier',
            () => onMove(-1),
            () => undefined,
          )}
          {item(
            <ArrowRight size={13} />,
            'Later',
            () => onMove(1),
            () => undefined,
          )}
          {item(<EyeOff size={13} />, 'Hide', onHide, close)}
          {column.kind === 'number' && (
            <div className="mt-1 border-t border-line px-2 pt-1">
              <Row label="Decimals">
                <NumberField
                  label={`Decimals of ${meta.label}`}
                  value={decimals}
                  min={0}
                  max={12}
                  step={1}
                  decimals={0}
                  onChange={onDecimals}
                />
              </Row>
            </div>
          )}
        </>
      )}
    </Popover>
  )
}

/** The right edge of a column: dragged or moved with the arrow keys to make it wider. */
function Edge({
  label,
  width,
  onWidth,
}: {
  label: string
  width: number
  onWidth: (width: number, done: boolean) => void
}) {
  const start = useRef<{ x: number; width: number } | null>(null)
  const fits = (w: number) => Math.min(1200, Math.max(48, Math.round(w)))
  return (
    <span
      role="separator"
      aria-orientation="vertical"
      aria-label={`Width of ${label}`}
      aria-valuenow={width}
      tabIndex={0}
      className="absolute top-0 -right-[3px] z-[1] h-full w-1.5 cursor-col-resize touch-none hover:bg-primary/40 focus-visible:bg-primary"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        start.current = { x: event.clientX, width }
        event.stopPropagation()
      }}
      onPointerMove={(event) =>
        start.current && onWidth(fits(start.current.width + event.clientX - start.current.x), false)
      }
      onPointerUp={(event) => {
        if (start.current) onWidth(fits(start.current.width + event.clientX - start.current.x), true)
        start.current = null
      }}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return
        onWidth(fits(width + (event.key === 'ArrowLeft' ? -10 : 10)), true)
        event.preventDefault()
        event.stopPropagation()
      }}
    />
  )
}

const sparkHeight = 15

function Sparkline({ column }: { column: Column }) {
  const bars = useMemo(
    () => (column.kind === 'number' ? histogram(column.values, 14).map((bin) => bin.count) : shares(column)),
    [column],
  )
  if (!bars) return <span className="h-[15px]" />
  if (column.kind === 'text') {
    let x = 0
    return (
      <svg
        width="100%"
        height={sparkHeight}
        className="mt-auto"
        aria-hidden
        preserveAspectRatio="none"
        viewBox="0 0 100 15"
      >
        {bars.map((share, i) => {
          const bar = (
            <rect
              key={i}
              x={x}
              y={5}
              width={share * 100}
              height={10}
              fill="currentColor"
              opacity={[0.6, 0.42, 0.28, 0.18][i % 4]}
            />
          )
          x += share * 100
          return bar
        })}
      </svg>
    )
  }
  const top = Math.max(1, ...bars)
  return (
    <svg width={bars.length * 6} height={sparkHeight} className="mt-auto text-muted" aria-hidden>
      {bars.map(
        (count, i) =>
          count > 0 && (
            <rect
              key={i}
              x={i * 6}
              width={5}
              y={sparkHeight - Math.max(1.5, (count / top) * sparkHeight)}
              height={sparkHeight}
              fill="currentColor"
            />
          ),
      )}
    </svg>
  )
}

/** Shares of the commonest values, for text with few different ones. */
function shares(column: Extract<Column, { kind: 'text' }>): number[] | null {
  if (column.dictionary.length > 12) return null
  const counts = new Array<number>(column.dictionary.length).fill(0)
  for (const code of column.codes) if (code) counts[code - 1]++
  const total = counts.reduce((a, b) => a + b, 0) || 1
  return counts.sort((a, b) => b - a).map((count) => count / total)
}
