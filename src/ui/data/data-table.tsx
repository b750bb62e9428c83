'use client'
import { useVirtualizer } from '@tanstack/react-virtual'
import { ArrowDown, ArrowUp } from 'lucide-react'
import { useEffect, useMemo, useRef, useState } from 'react'
import { formatNumber } from '@/core/classify/labels'
import { isMissing, textAt, type Column } from '@/core/data/column'
import { missingCount } from '@/core/data/field-meta'
import type { Prepared } from '@/core/data/prepare'
import { shapeWords } from '@/core/data/dataset'
import { histogram } from '@/core/data/summary'

type Sort = { key: string; down: boolean } | null

const rowPx = 27

/** Rows in the order of one column; missing values come last either way. */
function sortedRows(rowCount: number, column: Column | null, down: boolean): Uint32Array {
  const rows = Uint32Array.from({ length: rowCount }, (_, i) => i)
  if (!column) return rows
  const collator = new Intl.Collator('en', { numeric: true })
  const compare = column.kind === 'number' ? (a: number, b: number) => column.values[a] - column.values[b] : (a: number, b: number) => collator.compare(textAt(column, a) ?? '', textAt(column, b) ?? '')
  return rows.sort((a, b) => {
    const [ma, mb] = [isMissing(column, a), isMissing(column, b)]
    if (ma || mb) return ma === mb ? a - b : ma ? 1 : -1
    return (down ? compare(b, a) : compare(a, b)) || a - b
  })
}

/** The rows that hold some words in any of their fields. */
function found(rows: Uint32Array, { fields }: Prepared['dataset'], words: string): Uint32Array {
  const wanted = words.trim().toLowerCase()
  return wanted ? rows.filter((row) => fields.some(({ column }) => textAt(column, row)?.toLowerCase().includes(wanted))) : rows
}

/** As many decimals as the column's numbers have, up to three. */
function decimalsOf(column: Column): number {
  if (column.kind === 'text') return 0
  for (let d = 0; d < 3; d++) if (column.values.every((v) => Number.isNaN(v) || Math.abs(v - Number(v.toFixed(d))) < 1e-9 * Math.max(1, Math.abs(v)))) return d
  return 3
}

/** The rows of a dataset; only those in sight are in the page. */
export function DataTable({ prepared, field, onField, row, onRow }: { prepared: Prepared; field: string | null; onField: (key: string) => void; row: number | null; onRow: (row: number) => void }) {
  const { dataset, entry, fieldMeta } = prepared
  const [sort, setSort] = useState<Sort>(null)
  const scroller = useRef<HTMLDivElement>(null)
  const [words, setWords] = useState('')
  const rows = useMemo(() => found(sortedRows(dataset.rowCount, dataset.fields.find((f) => f.key === sort?.key)?.column ?? null, sort?.down ?? false), dataset, words), [dataset, sort, words])
  const decimals = useMemo(() => new Map(dataset.fields.map((f) => [f.key, decimalsOf(f.column)])), [dataset])
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => rowPx, overscan: 12 })
  const columns = useVirtualizer({ horizontal: true, count: dataset.fields.length, getScrollElement: () => scroller.current, estimateSize: (i) => widthOf(fieldMeta(dataset.fields[i].key).label), overscan: 3 })

  useEffect(() => {
    const at = row === null ? -1 : rows.indexOf(row)
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' })
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a newly marked row scrolls
  }, [row])

  const step = (by: number) => {
    const at = row === null ? (by > 0 ? -1 : rows.length) : rows.indexOf(row)
    const next = rows[Math.max(0, Math.min(rows.length - 1, at + by))]
    if (next !== undefined) onRow(next)
  }
  const onKeyDown = (event: React.KeyboardEvent) => {
    const steps: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, PageDown: 15, PageUp: -15, Home: -rows.length, End: rows.length }
    if (event.target !== event.currentTarget || !(event.key in steps)) return
    event.preventDefault()
    step(steps[event.key])
  }

  const shownColumns = columns.getVirtualItems()
  return (
    <section className="flex min-h-0 flex-1 flex-col bg-base-100" aria-label={`Table of ${entry.name}`}>
      <div className="flex h-9 shrink-0 items-center gap-2 border-b border-line px-3">
        <h2 className="font-semibold">{entry.name}</h2>
        <span className="text-xs text-muted">
          {dataset.rowCount.toLocaleString('en-GB')} {dataset.rowCount === 1 ? 'row' : 'rows'}
          {dataset.geometry.kind !== 'none' && `, ${shapeWords[dataset.geometry.kind][1]}`}
          {words.trim() && `, ${rows.length.toLocaleString('en-GB')} found`}
        </span>
        <input type="search" aria-label="Find in the table" placeholder="Find in the table" className="control ml-auto w-40" value={words} onChange={(event) => setWords(event.target.value)} />
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto" role="grid" aria-rowcount={dataset.rowCount + 1} aria-colcount={dataset.fields.length} aria-label={entry.name} tabIndex={0} onKeyDown={onKeyDown}>
        <div style={{ width: columns.getTotalSize(), height: virtual.getTotalSize() + 66 }} className="relative">
          <div role="row" className="sticky top-0 z-10 h-[66px] border-b border-line bg-base-100">
            {shownColumns.map((item) => {
              const { key, column } = dataset.fields[item.index]
              const meta = fieldMeta(key)
              const missing = missingCount(column)
              const sorted = sort?.key === key
              return (
                <div key={key} role="columnheader" aria-sort={sorted ? (sort.down ? 'descending' : 'ascending') : 'none'} className={`absolute top-0 h-full border-r border-line ${field === key ? 'bg-tint' : ''}`} style={{ left: item.start, width: item.size }}>
                  <button
                    type="button"
                    className="flex size-full flex-col items-start px-2.5 py-1 text-left text-xs"
                    onClick={() => {
                      onField(key)
                      setSort(sorted ? (sort.down ? null : { key, down: true }) : { key, down: false })
                    }}
                  >
                    <span className="flex w-full items-center gap-1 font-semibold">
                      <span className="truncate">{meta.label}</span>
                      {sorted && (sort.down ? <ArrowDown size={12} /> : <ArrowUp size={12} />)}
                    </span>
                    <span className="w-full truncate text-[11px] text-muted">
                      {meta.role}
                      {meta.unit && ` · ${meta.unit}`}
                      {missing > 0 && <span className="text-caution"> · {missing} missing</span>}
                    </span>
                    <Sparkline column={column} />
                  </button>
                </div>
              )
            })}
          </div>
          {virtual.getVirtualItems().map((line) => {
            const index = rows[line.index]
            const on = index === row
            return (
              <div key={line.index} role="row" aria-rowindex={line.index + 2} aria-selected={on} onClick={() => onRow(index)} className={`absolute w-full cursor-default border-b border-base-300 text-xs ${on ? 'bg-tint' : 'hover:bg-base-200'}`} style={{ top: 66 + line.start, height: rowPx }}>
                {shownColumns.map((item) => {
                  const { key, column } = dataset.fields[item.index]
                  const missing = isMissing(column, index)
                  return (
                    <span key={key} role="gridcell" className={`absolute top-0 truncate border-r border-base-300 px-2.5 leading-[26px] ${column.kind === 'number' ? 'text-right' : ''} ${missing ? 'text-muted italic' : ''}`} style={{ left: item.start, width: item.size, height: rowPx }}>
                      {missing ? 'missing' : column.kind === 'number' ? formatCell(column.values[index], fieldMeta(key).role, decimals.get(key) ?? 0) : textAt(column, index)}
                    </span>
                  )
                })}
              </div>
            )
          })}
        </div>
      </div>
    </section>
  )
}

/** Codes and years are written without thousands marks. */
const formatCell = (value: number, role: string, decimals: number): string => (role === 'code' || role === 'date' ? String(value) : formatNumber(value, decimals))

const widthOf = (label: string): number => Math.max(96, Math.min(190, 28 + label.length * 7))

const sparkHeight = 15

function Sparkline({ column }: { column: Column }) {
  const bars = useMemo(() => (column.kind === 'number' ? histogram(column.values, 14).map((bin) => bin.count) : shares(column)), [column])
  if (!bars) return <span className="h-[15px]" />
  if (column.kind === 'text') {
    let x = 0
    return (
      <svg width="100%" height={sparkHeight} className="mt-auto" aria-hidden preserveAspectRatio="none" viewBox="0 0 100 15">
        {bars.map((share, i) => {
          const bar = <rect key={i} x={x} y={5} width={share * 100} height={10} fill="currentColor" opacity={[0.6, 0.42, 0.28, 0.18][i % 4]} />
          x += share * 100
          return bar
        })}
      </svg>
    )
  }
  const top = Math.max(1, ...bars)
  return (
    <svg width={bars.length * 6} height={sparkHeight} className="mt-auto text-muted" aria-hidden>
      {bars.map((count, i) => count > 0 && <rect key={i} x={i * 6} width={5} y={sparkHeight - Math.max(1.5, (count / top) * sparkHeight)} height={sparkHeight} fill="currentColor" />)}
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
