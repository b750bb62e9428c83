'use client'
import { useVirtualizer } from '@tanstack/react-virtual'
import { Columns3, X } from 'lucide-react'
import { useEffect, useMemo, useRef, useState } from 'react'
import { formatNumber } from '@/core/classify/labels'
import { isMissing, textAt, type Column } from '@/core/data/column'
import type { Prepared } from '@/core/data/prepare'
import { formOf, shapeWords } from '@/core/data/dataset'
import { decimalsOf, findRows, sortRows, type SortBy } from '@/core/data/ordering'
import { isNumber } from '@/core/data/steps/correct'
import { movedColumn, shownColumns } from '@/core/data/table-layout'
import { Button, Check, IconButton } from '../kit/controls'
import { Popover } from '../kit/popover'
import { byHand, correctCell, editLayout } from './table-edits'
import { TableHead } from './table-head'

type Props = {
  prepared: Prepared
  field: string | null
  onField: (key: string) => void
  row: number | null
  onRow: (row: number) => void
}

const rowPx = 27
const headPx = 66
const noSort: SortBy[] = []

/**
 * The rows of a dataset; only those in sight are in the page. A double click, or Enter on the marked row,
 * sets a cell by hand.
 */
export function DataTable({ prepared, field, onField, row, onRow }: Props) {
  const { dataset, entry, fieldMeta } = prepared
  const layout = entry.table
  const [sort, setSort] = useState<SortBy[]>(noSort)
  const [words, setWords] = useState('')
  const [editing, setEditing] = useState<{ row: number; key: string } | null>(null)
  const [dragged, setDragged] = useState<{ key: string; width: number } | null>(null)
  const scroller = useRef<HTMLDivElement>(null)
  const rows = useMemo(() => findRows(sortRows(dataset, sort), dataset, words), [dataset, sort, words])
  const keys = useMemo(() => dataset.fields.map(({ key }) => key), [dataset])
  const columnOf = useMemo(() => new Map(dataset.fields.map(({ key, column }) => [key, column])), [dataset])
  const proposed = useMemo(() => new Map(dataset.fields.map((f) => [f.key, decimalsOf(f.column)])), [dataset])
  const shown = useMemo(() => shownColumns(layout, keys), [layout, keys])
  const changed = useMemo(() => byHand(prepared), [prepared])
  const decimals = (key: string) => layout.decimals[key] ?? proposed.get(key) ?? 0
  const widthOf = (key: string) =>
    dragged?.key === key
      ? dragged.width
      : (layout.widths[key] ?? Math.max(96, Math.min(190, 34 + fieldMeta(key).label.length * 7)))
  const pinned = shown.pinned.map((key, i) => ({
    key,
    left: shown.pinned.slice(0, i).reduce((sum, k) => sum + widthOf(k), 0),
    width: widthOf(key),
  }))
  const pinnedWidth = pinned.reduce((sum, { width }) => sum + width, 0)
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowPx,
    overscan: 12,
  })
  const columns = useVirtualizer({
    horizontal: true,
    count: shown.rest.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => widthOf(shown.rest[i]),
    overscan: 3,
    paddingStart: pinnedWidth,
  })
  useEffect(() => columns.measure(), [columns, layout, dragged, keys, pinnedWidth])

  useEffect(() => {
    const at = row === null ? -1 : rows.indexOf(row)
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' })
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a newly marked row scrolls
  }, [row])

  const step = (by: number) => {
    const outside = by > 0 ? -1 : rows.length
    const at = row === null ? outside : rows.indexOf(row)
    const next = rows[Math.max(0, Math.min(rows.length - 1, at + by))]
    if (next !== undefined) onRow(next)
  }
  const onKeyDown = (event: React.KeyboardEvent) => {
    const steps: Record<string, number> = {
      ArrowDown: 1,
      ArrowUp: -1,
      PageDown: 15,
      PageUp: -15,
      Home: -rows.length,
      End: rows.length,
    }
    if (event.target !== event.currentTarget) return
    const key = field && columnOf.has(field) ? field : [...shown.pinned, ...shown.rest][0]
    if (event.key === 'Enter' && row !== null && key) setEditing({ row, key })
    else if (event.key in steps) step(steps[event.key])
    else return
    event.preventDefault()
  }
  const moveTo = (key: string, at: string) =>
    editLayout(entry, `Move column ${fieldMeta(key).label}`, { order: movedColumn(layout, keys, key, at) })
  const head = (key: string, left: number, width: number) => (
    <TableHead
      key={key}
      fieldKey={key}
      column={columnOf.get(key) as Column}
      meta={fieldMeta(key)}
      left={left}
      width={width}
      chosen={field === key}
      pinned={layout.pinned.includes(key)}
      decimals={decimals(key)}
      sort={sort}
      onField={() => onField(key)}
      onSort={setSort}
      onPin={() =>
        editLayout(entry, 'Pin column', {
          pinned: layout.pinned.includes(key)
            ? layout.pinned.filter((k) => k !== key)
            : [...layout.pinned, key],
        })
      }
      onHide={() =>
        editLayout(entry, `Hide column ${fieldMeta(key).label}`, { hidden: [...layout.hidden, key] })
      }
      onWidth={(next, done) => {
        setDragged(done ? null : { key, width: next })
        if (done)
          editLayout(
            entry,
            'Width of a column',
            { widths: { ...layout.widths, [key]: next } },
            `width ${entry.id} ${key}`,
          )
      }}
      onMove={(by) => {
        const group = layout.pinned.includes(key) ? shown.pinned : shown.rest
        const other = group[group.indexOf(key) + by]
        if (other) moveTo(key, other)
      }}
      onDropOf={(other) => moveTo(other, key)}
      onDecimals={(n) =>
        editLayout(entry, `Decimals of ${fieldMeta(key).label}`, {
          decimals: { ...layout.decimals, [key]: n },
        })
      }
    />
  )
  const cell = (index: number, key: string, left: number, width: number) => {
    const column = columnOf.get(key) as Column
    const missing = isMissing(column, index)
    const place = { left, width, height: rowPx }
    if (editing?.row === index && editing.key === key)
      return (
        <CellEditor
          key={key}
          style={place}
          label={fieldMeta(key).label}
          column={column}
          row={index}
          onDone={(value) => {
            setEditing(null)
            if (value !== undefined) correctCell(prepared, index, key, value)
            scroller.current?.focus()
          }}
        />
      )
    return (
      <span
        key={key}
        role="gridcell"
        onDoubleClick={() => !dataset.raster && setEditing({ row: index, key })}
        className={`absolute top-0 truncate border-r border-base-300 px-2.5 leading-[26px] ${column.kind === 'number' ? 'text-right' : ''} ${missing ? 'text-muted italic' : ''}`}
        style={place}
      >
        {missing && 'missing'}
        {!missing && column.kind === 'text' && textAt(column, index)}
        {!missing &&
          column.kind === 'number' &&
          formatCell(column.values[index], fieldMeta(key).role, decimals(key), key in layout.decimals)}
        {changed(index, key) && (
          <span
            title="Set by hand"
            aria-label="set by hand"
            role="img"
            className="absolute top-0 right-0 border-t-[7px] border-l-[7px] border-t-primary border-l-transparent"
          />
        )}
      </span>
    )
  }
  const shownRest = columns.getVirtualItems().filter((item) => item.index < shown.rest.length)
  return (
    <section className="flex min-h-0 flex-1 flex-col bg-base-100" aria-label={`Table of ${entry.name}`}>
      <div className="flex h-9 shrink-0 items-center gap-2 border-b border-line px-3">
        <h2 className="truncate font-semibold">{entry.name}</h2>
        <span className="text-xs whitespace-nowrap text-muted">
          {dataset.rowCount.toLocaleString('en-GB')}{' '}
          {(dataset.raster ? shapeWords.raster : ['row', 'rows'])[dataset.rowCount === 1 ? 0 : 1]}
          {dataset.geometry.kind !== 'none' && `, ${shapeWords[formOf(dataset)][1]}`}
          {words.trim() && `, ${rows.length.toLocaleString('en-GB')} found`}
        </span>
        <span className="ml-auto flex items-center gap-1">
          {sort.length > 1 && (
            <Button look="quiet" className="!h-6 text-xs" onClick={() => setSort(noSort)}>
              Sorted by {sort.length} fields <X size={12} />
            </Button>
          )}
          <ColumnChooser
            keys={keys}
            hidden={layout.hidden}
            label={(key) => fieldMeta(key).label}
            onHidden={(hidden) => editLayout(entry, 'Choose columns', { hidden })}
          />
          <input
            type="search"
            aria-label="Find in the table"
            placeholder="Find in the table"
            className="control w-40"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
        </span>
      </div>
      <div
        ref={scroller}
        className="min-h-0 flex-1 overflow-auto"
        role="grid"
        aria-rowcount={dataset.rowCount + 1}
        aria-colcount={pinned.length + shown.rest.length}
        aria-label={entry.name}
        tabIndex={0}
        onKeyDown={onKeyDown}
      >
        <div
          style={{ width: columns.getTotalSize(), height: virtual.getTotalSize() + headPx }}
          className="relative"
        >
          <div
            role="row"
            className="sticky top-0 z-10 border-b border-line bg-base-100"
            style={{ height: headPx }}
          >
            {shownRest.map((item) => head(shown.rest[item.index], item.start, item.size))}
            <div className="sticky left-0 z-[2] h-full w-0">
              {pinned.map(({ key, left, width }) => head(key, left, width))}
            </div>
          </div>
          {virtual.getVirtualItems().map((line) => {
            const index = rows[line.index]
            const on = index === row
            return (
              <div
                key={line.index}
                role="row"
                aria-rowindex={line.index + 2}
                aria-selected={on}
                onClick={() => onRow(index)}
                className={`group/row absolute w-full cursor-default border-b border-base-300 text-xs ${on ? 'bg-tint' : 'hover:bg-base-200'}`}
                style={{ top: headPx + line.start, height: rowPx }}
              >
                {shownRest.map((item) => cell(index, shown.rest[item.index], item.start, item.size))}
                {pinned.length > 0 && (
                  <div className="sticky left-0 z-[1] h-full w-0">
                    <div
                      className={`absolute top-0 h-[26px] border-r border-muted ${on ? 'bg-tint' : 'bg-base-100 group-hover/row:bg-base-200'}`}
                      style={{ width: pinnedWidth }}
                    >
                      {pinned.map(({ key, left, width }) => cell(index, key, left, width))}
                    </div>
                  </div>
                )}
              </div>
            )
          })}
        </div>
      </div>
    </section>
  )
}

/**
 * Typing a cell: Enter or leaving it sets it, Escape leaves it as it was. Words in a field of numbers are
 * said at once.
 */
function CellEditor({
  label,
  column,
  row,
  style,
  onDone,
}: {
  label: string
  column: Column
  row: number
  style: React.CSSProperties
  onDone: (value: string | null | undefined) => void
}) {
  const before = textAt(column, row) ?? ''
  const [draft, setDraft] = useState(before)
  const words = column.kind === 'number' && draft.trim() !== '' && !isNumber(draft)
  const settle = () => onDone(draft === before || words ? undefined : draft.trim() || null)
  return (
    <span role="gridcell" className="absolute top-0 z-[3]" style={style}>
      <input
        autoFocus
        aria-label={`${label}, row ${row + 1}`}
        aria-invalid={words}
        className={`size-full border-2 bg-base-100 px-2 ${words ? 'border-error' : 'border-primary'} ${column.kind === 'number' ? 'text-right' : ''}`}
        value={draft}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={settle}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Escape') onDone(undefined)
          else if (event.key === 'Enter' && !words) settle()
        }}
      />
      {words && (
        <span
          role="alert"
          className="floating absolute top-full left-0 z-10 mt-1 px-2 py-1 text-xs whitespace-nowrap text-error"
        >
          ‘{draft}’ is not a number.{' '}
          {/,/.test(draft) ? 'Write the decimal mark as a point.' : 'Leave it empty for a missing value.'}
        </span>
      )}
    </span>
  )
}

function ColumnChooser({
  keys,
  hidden,
  label,
  onHidden,
}: {
  keys: string[]
  hidden: string[]
  label: (key: string) => string
  onHidden: (hidden: string[]) => void
}) {
  const gone = hidden.filter((key) => keys.includes(key))
  const [words, setWords] = useState('')
  return (
    <Popover
      label="Columns"
      align="end"
      className="w-64"
      trigger={
        gone.length ? (
          <Button look="quiet" className="!h-6 text-xs">
            <Columns3 size={13} /> {gone.length} hidden
          </Button>
        ) : (
          <IconButton label="Columns" className="!size-6">
            <Columns3 size={14} />
          </IconButton>
        )
      }
    >
      {keys.length > 12 && (
        <input
          aria-label="Find a column"
          placeholder="Find a column"
          className="control mb-1 w-full"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      )}
      <div className="flex gap-1 pb-1">
        <Button look="quiet" className="!h-6 text-xs" disabled={!gone.length} onClick={() => onHidden([])}>
          Show all
        </Button>
        <Button look="quiet" className="!h-6 text-xs" onClick={() => onHidden(keys.slice(1))}>
          Hide all but the first
        </Button>
      </div>
      {keys
        .filter((key) => label(key).toLowerCase().includes(words.trim().toLowerCase()))
        .map((key) => (
          <Check
            key={key}
            label={label(key)}
            checked={!hidden.includes(key)}
            onChange={(on) => onHidden(on ? hidden.filter((k) => k !== key) : [...hidden, key])}
          />
        ))}
    </Popover>
  )
}

/**
 * Codes and years are written without thousands marks, and with no more digits than they have unless that was
 * asked for.
 */
const formatCell = (value: number, role: string, decimals: number, asked: boolean): string =>
  !asked && (role === 'code' || role === 'date') ? String(value) : formatNumber(value, decimals)
